// SPDX-License-Identifier: Apache-2.0
#include "lumvet/draw/typeface.h"

#include <hb-ot.h>
#include <unicode/uchar.h>

#include <algorithm>
#include <array>
#include <mutex>

#include "draw/face.h"
#include "draw/font_subset.h"
#include "fonts/substitute.h"
#include "io/whole_file.h"

namespace lumvet {

template <>
struct Inside<Typeface> {
  static const draw::TypefaceData& data(const Typeface& typeface) { return *typeface.data_; }
};

namespace draw {
namespace {

hb_tag_t tag_of(const std::string& text) {
  return hb_tag_from_string(text.data(), static_cast<int>(text.size()));
}

double metric(const Face& face, hb_ot_metrics_tag_t tag) {
  hb_position_t position = 0;
  hb_ot_metrics_get_position_with_fallback(face.font.get(), tag, &position);
  return position / face.units;
}

// The plain font of the system, looked for once.
Result<FacePtr> plain_face() {
  static std::mutex mutex;
  static FacePtr known;
  const std::lock_guard lock(mutex);
  if (!known) {
    LUMVET_TRY(auto program, fonts::find_face("", fonts_of(FontSupply())));
    LUMVET_TRY(known, Face::of(std::move(program)));
  }
  return known;
}

}  // namespace

Result<FacePtr> Face::of(std::shared_ptr<const fonts::FontProgram> program, const Axes& axes) {
  auto face = std::make_shared<Face>();
  LUMVET_TRY(face->face, face_to_embed(*program));
  face->font.reset(hb_font_create(face->face.get()));
  std::vector<hb_variation_t> variations;
  variations.reserve(axes.size());
  for (const auto& [tag, value] : axes)
    variations.push_back({tag_of(tag), static_cast<float>(value)});
  if (!variations.empty())
    hb_font_set_variations(face->font.get(), variations.data(),
                           static_cast<unsigned>(variations.size()));
  hb_font_make_immutable(face->font.get());
  face->units = hb_face_get_upem(face->face.get());
  face->has_pictures = !has_outlines(face->face.get());
  face->has_layers = hb_ot_color_has_layers(face->face.get()) != 0;
  face->program = std::move(program);
  face->axes = axes;
  face->ascent = metric(*face, HB_OT_METRICS_TAG_HORIZONTAL_ASCENDER);
  face->descent = metric(*face, HB_OT_METRICS_TAG_HORIZONTAL_DESCENDER);
  face->cap_height = metric(*face, HB_OT_METRICS_TAG_CAP_HEIGHT);
  face->x_height = metric(*face, HB_OT_METRICS_TAG_X_HEIGHT);
  face->underline = metric(*face, HB_OT_METRICS_TAG_UNDERLINE_OFFSET);
  face->thickness = metric(*face, HB_OT_METRICS_TAG_UNDERLINE_SIZE);
  return FacePtr(std::move(face));
}

const TypefaceData& data_of(const Typeface& typeface) { return Inside<Typeface>::data(typeface); }

Result<std::vector<FacePtr>> faces_of(const Typeface& typeface) {
  const TypefaceData& data = data_of(typeface);
  if (!data.faces.empty()) return data.faces;
  LUMVET_TRY(FacePtr plain, plain_face());
  return std::vector<FacePtr>{std::move(plain)};
}

namespace {

// Each made once, for as long as the program runs; null for one that cannot be embedded.
FacePtr known_face(const std::shared_ptr<const fonts::FontProgram>& program) {
  static std::mutex mutex;
  static std::map<std::shared_ptr<const fonts::FontProgram>, FacePtr> faces;
  const std::lock_guard lock(mutex);
  const auto [face, is_new] = faces.try_emplace(program);
  if (is_new)
    if (auto made = Face::of(program); made.ok()) face->second = *std::move(made);
  return face->second;
}

}  // namespace

FacePtr face_with(char32_t character, const Face& like, const TypefaceData& typeface) {
  if (typeface.others == nullptr) return nullptr;
  const fonts::FontWish wish{.italic = like.program->is_italic(), .bold = like.program->is_bold()};
  // Some characters are pictures unless somebody wants them otherwise (UTS #51); others where no
  // outline shows them.
  const bool is_picture =
      u_hasBinaryProperty(static_cast<UChar32>(character), UCHAR_EMOJI_PRESENTATION) != 0;
  std::shared_ptr<const fonts::FontProgram> program;
  for (const bool pictured : {is_picture, !is_picture}) {
    if (program) break;
    if (!pictured)
      program = fonts::find_with_character(character, wish, *typeface.others);
    else if (typeface.others->uses_system)
      program = fonts::find_pictured(character);
  }
  return program ? known_face(program) : nullptr;
}

}  // namespace draw

using draw::Face;
using draw::TypefaceData;

namespace {

Result<std::shared_ptr<TypefaceData>> data_with(std::shared_ptr<const fonts::FontProgram> program) {
  auto data = std::make_shared<TypefaceData>();
  LUMVET_TRY(draw::FacePtr face, Face::of(std::move(program)));
  data->faces.push_back(std::move(face));
  return data;
}

}  // namespace

Typeface::Typeface() {
  static const auto kPlain = [] {
    auto data = std::make_shared<TypefaceData>();
    data->others = std::make_shared<const fonts::FontMatcher>(fonts_of(FontSupply()));
    return std::shared_ptr<const TypefaceData>(std::move(data));
  }();
  data_ = kPlain;
}

Result<Typeface> Typeface::named(const std::string& name, const FontSupply& fonts) {
  LUMVET_TRY(auto program, fonts::find_face(name, fonts_of(fonts)));
  LUMVET_TRY(auto data, data_with(std::move(program)));
  data->others = std::make_shared<const fonts::FontMatcher>(fonts_of(fonts));
  return Typeface(std::move(data));
}

Typeface Typeface::nearest(const std::string& base_font, const FontSupply& fonts) {
  const auto program = fonts::find_substitute({.name = base_font}, fonts_of(fonts));
  draw::FacePtr face = program ? draw::known_face(program) : nullptr;
  if (!face) return Typeface();
  auto data = std::make_shared<TypefaceData>();
  data->faces.push_back(std::move(face));
  data->others = std::make_shared<const fonts::FontMatcher>(fonts_of(fonts));
  return Typeface(std::move(data));
}

Result<Typeface> Typeface::of_file(const std::filesystem::path& path, int face) {
  LUMVET_TRY(Bytes bytes, whole_file(path));
  Result<Typeface> made = of(std::move(bytes), face);
  if (!made.ok()) return std::move(made).error().about(path.string());
  return made;
}

Result<Typeface> Typeface::of(Bytes font, int face) {
  LUMVET_TRY(auto program, fonts::FontProgram::load(std::move(font), face, false));
  LUMVET_TRY(auto data, data_with(std::move(program)));
  return Typeface(std::move(data));
}

Typeface Typeface::or_else(const Typeface& other) const {
  auto data = std::make_shared<TypefaceData>(*data_);
  const auto more = draw::faces_of(other);
  if (data->faces.empty())
    if (const auto own = draw::faces_of(*this); own.ok()) data->faces = *own;
  if (more.ok()) data->faces.insert(data->faces.end(), more->begin(), more->end());
  if (data->others == nullptr) data->others = other.data_->others;
  return Typeface(std::move(data));
}

Typeface Typeface::with_feature(const std::string& tag, int value) const {
  auto data = std::make_shared<TypefaceData>(*data_);
  data->features.push_back({draw::tag_of(tag), static_cast<std::uint32_t>(value),
                            HB_FEATURE_GLOBAL_START, HB_FEATURE_GLOBAL_END});
  return Typeface(std::move(data));
}

Typeface Typeface::with_axis(const std::string& tag, double value) const {
  auto data = std::make_shared<TypefaceData>(*data_);
  for (draw::FacePtr& face : data->faces) {
    hb_ot_var_axis_info_t axis{};
    if (hb_ot_var_find_axis_info(face->face.get(), draw::tag_of(tag), &axis) == 0) continue;
    draw::Axes axes = face->axes;
    axes[tag] = std::clamp<double>(value, axis.min_value, axis.max_value);
    if (auto made = Face::of(face->program, axes); made.ok()) face = *std::move(made);
  }
  return Typeface(std::move(data));
}

double Typeface::ascent() const {
  const auto faces = draw::faces_of(*this);
  return faces.ok() ? faces->front()->ascent : 0;
}
double Typeface::descent() const {
  const auto faces = draw::faces_of(*this);
  return faces.ok() ? faces->front()->descent : 0;
}
double Typeface::cap_height() const {
  const auto faces = draw::faces_of(*this);
  return faces.ok() ? faces->front()->cap_height : 0;
}
std::string Typeface::family() const {
  const auto faces = draw::faces_of(*this);
  return faces.ok() ? faces->front()->program->family() : std::string();
}

}  // namespace lumvet
