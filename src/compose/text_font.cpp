// SPDX-License-Identifier: Apache-2.0
#include "compose/text_font.h"

#include <hb-ot.h>
#include <hb.h>
#include <unicode/ubidi.h>

#include <algorithm>

#include "compose/font_subset.h"
#include "objects/serializer.h"
#include "objects/text_string.h"

namespace lumvet::compose {
namespace {

struct Release {
  void operator()(hb_font_t* font) const { hb_font_destroy(font); }
  void operator()(hb_buffer_t* buffer) const { hb_buffer_destroy(buffer); }
  void operator()(UBiDi* bidi) const { ubidi_close(bidi); }
};

bool is_invisible(std::u16string_view text) {
  return std::all_of(text.begin(), text.end(), [](char16_t c) {
    return c < 0x20 || (c >= 0x200B && c <= 0x200F) || (c >= 0x202A && c <= 0x202E) ||
           (c >= 0x2060 && c <= 0x2069) || c == 0xFEFF;
  });
}

}  // namespace

struct TextFont::Impl {
  std::shared_ptr<const fonts::FontProgram> program;
  FacePtr face;
  std::unique_ptr<hb_font_t, Release> font;
  double units = 1000;
  std::map<unsigned, std::string> texts;  // in UTF-8, of the glyphs used

  double metric(hb_ot_metrics_tag_t tag) const {
    hb_position_t position = 0;
    hb_ot_metrics_get_position_with_fallback(font.get(), tag, &position);
    return position / units;
  }

  // A run of one direction, as it is seen from left to right.
  Status shape_run(std::u16string_view text, int start, int length, bool leftward,
                   ShapedLine& line) {
    const std::unique_ptr<hb_buffer_t, Release> buffer(hb_buffer_create());
    hb_buffer_add_utf16(buffer.get(), reinterpret_cast<const std::uint16_t*>(text.data()),
                        static_cast<int>(text.size()), static_cast<unsigned>(start), length);
    hb_buffer_set_direction(buffer.get(), leftward ? HB_DIRECTION_RTL : HB_DIRECTION_LTR);
    hb_buffer_guess_segment_properties(buffer.get());
    hb_shape(font.get(), buffer.get(), nullptr, 0);
    unsigned count = 0;
    const hb_glyph_info_t* infos = hb_buffer_get_glyph_infos(buffer.get(), &count);
    const hb_glyph_position_t* places = hb_buffer_get_glyph_positions(buffer.get(), nullptr);
    // Glyphs of one cluster stand for its characters together; the first of them tells.
    std::vector<unsigned> clusters;
    for (unsigned i = 0; i < count; ++i) clusters.push_back(infos[i].cluster);
    std::sort(clusters.begin(), clusters.end());
    const auto end = static_cast<unsigned>(start + length);
    for (unsigned i = 0; i < count; ++i) {
      const auto after = std::upper_bound(clusters.begin(), clusters.end(), infos[i].cluster);
      const unsigned next = after == clusters.end() ? end : *after;
      const std::u16string_view own = text.substr(infos[i].cluster, next - infos[i].cluster);
      if (infos[i].codepoint == 0) {
        if (is_invisible(own)) continue;
        return Error(ErrorCode::invalid_argument, "the font " + program->family() + " has no '" +
                                                      objects::utf16_to_utf8(own) +
                                                      "'; name another font");
      }
      const bool is_first = i == 0 || infos[i - 1].cluster != infos[i].cluster;
      texts.emplace(infos[i].codepoint, is_first ? objects::utf16_to_utf8(own) : std::string());
      const double advance = places[i].x_advance / units;
      line.glyphs.push_back({infos[i].codepoint, advance,
                             hb_font_get_glyph_h_advance(font.get(), infos[i].codepoint) / units,
                             places[i].x_offset / units, places[i].y_offset / units});
      line.width += advance;
    }
    return Done{};
  }
};

TextFont::TextFont(std::unique_ptr<Impl> impl) : impl_(std::move(impl)) {}
TextFont::TextFont(TextFont&&) noexcept = default;
TextFont& TextFont::operator=(TextFont&&) noexcept = default;
TextFont::~TextFont() = default;

Result<TextFont> TextFont::of(std::shared_ptr<const fonts::FontProgram> program) {
  auto impl = std::make_unique<Impl>();
  LUMVET_TRY(impl->face, face_to_embed(*program));
  impl->font.reset(hb_font_create(impl->face.get()));
  impl->units = hb_face_get_upem(impl->face.get());
  impl->program = std::move(program);
  return TextFont(std::move(impl));
}

Result<ShapedLine> TextFont::shape(const std::string& utf8) {
  ShapedLine line;
  const std::u16string text = objects::utf8_to_utf16(utf8);
  if (text.empty()) return line;
  const std::unique_ptr<UBiDi, Release> bidi(ubidi_open());
  UErrorCode failed = U_ZERO_ERROR;
  ubidi_setPara(bidi.get(), text.data(), static_cast<int32_t>(text.size()), UBIDI_DEFAULT_LTR,
                nullptr, &failed);
  const int32_t runs = ubidi_countRuns(bidi.get(), &failed);
  if (U_FAILURE(failed))
    return Error(ErrorCode::invalid_argument, "the text's direction cannot be told");
  for (int32_t run = 0; run < runs; ++run) {
    int32_t start = 0;
    int32_t length = 0;
    const UBiDiDirection direction = ubidi_getVisualRun(bidi.get(), run, &start, &length);
    LUMVET_RETURN_IF_ERROR(impl_->shape_run(text, start, length, direction == UBIDI_RTL, line));
  }
  return line;
}

double TextFont::ascent() const { return impl_->metric(HB_OT_METRICS_TAG_HORIZONTAL_ASCENDER); }
double TextFont::descent() const { return impl_->metric(HB_OT_METRICS_TAG_HORIZONTAL_DESCENDER); }
double TextFont::cap_height() const { return impl_->metric(HB_OT_METRICS_TAG_CAP_HEIGHT); }

Result<EmbeddedFont> TextFont::embed(file::Ledger& ledger) const {
  const FontFacts facts{.ascent = ascent(), .descent = descent(), .cap_height = cap_height()};
  return embed_subset(*impl_->program, impl_->font.get(), impl_->texts, facts, ledger);
}

std::string EmbeddedFont::show(const ShapedLine& line, double size) const {
  constexpr double kThousand = 1000;
  std::string text;
  std::string row;  // what TJ will show
  double owed = 0;  // to the left, before the next glyph, in thousandths
  double rise = 0;
  const auto finish = [&] {
    if (!row.empty()) text += "[" + row + "] TJ\n";
    row.clear();
  };
  const auto move = [&](double by) {
    if (std::abs(by) < 0.01) return;
    objects::serialize_number(std::round(by * 100) / 100, row);
  };
  for (const ShapedGlyph& glyph : line.glyphs) {
    if (glyph.rise != rise) {
      finish();
      rise = glyph.rise;
      objects::serialize_number(rise * size, text);
      text += " Ts\n";
    }
    move(owed - glyph.shift * kThousand);
    row += "<" + four_digits(codes.at(glyph.glyph)) + ">";
    owed = (glyph.own_advance - glyph.advance + glyph.shift) * kThousand;
  }
  finish();
  if (rise != 0) text += "0 Ts\n";
  return text;
}

}  // namespace lumvet::compose
