// SPDX-License-Identifier: Apache-2.0
#include "fonts/font_program.h"

#include "base/allowance.h"
#include "base/attempt.h"
#include "fonts/encoding.h"
#include "fonts/upright_forms.h"
#include "objects/text_string.h"

#include <ft2build.h>
#include FT_FREETYPE_H
#include FT_OUTLINE_H
#include FT_CID_H
#include FT_TRUETYPE_TABLES_H

#include <array>
#include <mutex>
#include <optional>
#include <unordered_map>

namespace lumvet::fonts {
namespace {

struct OutlineBuilder {
  Path path;
  double scale;
  bool open = false;

  Point point(const FT_Vector* v) const {
    return {static_cast<double>(v->x) * scale, static_cast<double>(v->y) * scale};
  }
  static int move(const FT_Vector* to, void* self) {
    auto& builder = *static_cast<OutlineBuilder*>(self);
    if (builder.open) builder.path.close();
    builder.open = true;
    builder.path.move_to(builder.point(to));
    return 0;
  }
  static int line(const FT_Vector* to, void* self) {
    auto& builder = *static_cast<OutlineBuilder*>(self);
    builder.path.line_to(builder.point(to));
    return 0;
  }
  static int conic(const FT_Vector* control, const FT_Vector* to, void* self) {
    auto& builder = *static_cast<OutlineBuilder*>(self);
    const Point from = builder.path.current_point();
    const Point c = builder.point(control);
    const Point end = builder.point(to);
    builder.path.curve_to({from.x + (c.x - from.x) * 2 / 3, from.y + (c.y - from.y) * 2 / 3},
                          {end.x + (c.x - end.x) * 2 / 3, end.y + (c.y - end.y) * 2 / 3}, end);
    return 0;
  }
  static int cubic(const FT_Vector* c1, const FT_Vector* c2, const FT_Vector* to, void* self) {
    auto& builder = *static_cast<OutlineBuilder*>(self);
    builder.path.curve_to(builder.point(c1), builder.point(c2), builder.point(to));
    return 0;
  }
};

constexpr FT_Int32 kLoadFlags = FT_LOAD_NO_SCALE | FT_LOAD_NO_HINTING | FT_LOAD_NO_BITMAP;

}  // namespace

struct FontProgram::Impl {
  Bytes bytes;
  FT_Library library = nullptr;
  FT_Face face = nullptr;
  std::mutex mutex;  // a face is for one thread at a time
  std::unordered_map<unsigned, std::shared_ptr<const Path>> outlines;
  std::unordered_map<unsigned, unsigned> glyphs_by_cid;
  std::optional<std::unordered_map<unsigned, std::uint32_t>>
      characters;  // by glyph, once asked for
  bool is_cid_keyed = false;
  std::unique_ptr<const UprightForms> upright;  // null until it is asked for

  ~Impl() {
    if (face != nullptr) FT_Done_Face(face);
    if (library != nullptr) FT_Done_FreeType(library);
  }

  double units() const { return face->units_per_EM > 0 ? face->units_per_EM : 1000; }

  void index_cids() {
    FT_Bool keyed = 0;
    is_cid_keyed = FT_Get_CID_Is_Internally_CID_Keyed(face, &keyed) == 0 && keyed != 0;
    if (!is_cid_keyed) return;
    for (FT_Long glyph = 0; glyph < face->num_glyphs; ++glyph) {
      FT_UInt cid = 0;
      if (FT_Get_CID_From_Glyph_Index(face, static_cast<FT_UInt>(glyph), &cid) == 0)
        glyphs_by_cid.emplace(cid, static_cast<unsigned>(glyph));
    }
  }

  // The first that leads to each glyph, but none of those that are private to fonts.
  void index_characters() {
    characters.emplace();
    if (FT_Select_Charmap(face, FT_ENCODING_UNICODE) != 0) return;
    FT_UInt glyph = 0;
    for (FT_ULong code = FT_Get_First_Char(face, &glyph); glyph != 0 && goes_on();
         code = FT_Get_Next_Char(face, code, &glyph)) {
      const bool is_private = (code >= 0xE000 && code < 0xF900) || code >= 0xF0000;
      if (!is_private) characters->emplace(glyph, static_cast<std::uint32_t>(code));
    }
  }

  std::string text_by_name(unsigned glyph) const {
    constexpr unsigned kLongest = 128;
    std::array<char, kLongest> name{};
    const bool is_named =
        FT_HAS_GLYPH_NAMES(face) && FT_Get_Glyph_Name(face, glyph, name.data(), kLongest) == 0;
    return is_named ? text_of_glyph(name.data()) : std::string();
  }

  FT_CharMap find_charmap(FT_UShort platform, FT_UShort encoding) const {
    for (int i = 0; i < face->num_charmaps; ++i)
      if (face->charmaps[i]->platform_id == platform && face->charmaps[i]->encoding_id == encoding)
        return face->charmaps[i];
    return nullptr;
  }

  unsigned look_up(FT_CharMap charmap, std::uint32_t code) {
    if (charmap == nullptr || FT_Set_Charmap(face, charmap) != 0) return 0;
    return FT_Get_Char_Index(face, code);
  }
};

FontProgram::FontProgram(std::unique_ptr<Impl> impl) : impl_(std::move(impl)) {}
FontProgram::~FontProgram() = default;

Result<std::shared_ptr<const FontProgram>> FontProgram::load(Bytes bytes, int face_index,
                                                             bool needs_outlines) {
  auto impl = std::make_unique<Impl>();
  impl->bytes = std::move(bytes);
  if (FT_Init_FreeType(&impl->library) != 0) return met_limit("no memory for a font");
  if (FT_New_Memory_Face(impl->library, impl->bytes.data(),
                         static_cast<FT_Long>(impl->bytes.size()), face_index, &impl->face) != 0)
    return Error(ErrorCode::malformed, "a font program cannot be read");
  if (needs_outlines && !FT_IS_SCALABLE(impl->face))
    return Error(ErrorCode::malformed, "a font program without outlines");
  impl->index_cids();
  return std::shared_ptr<const FontProgram>(new FontProgram(std::move(impl)));
}

std::shared_ptr<const Path> FontProgram::outline(unsigned glyph) const {
  const std::lock_guard lock(impl_->mutex);
  const auto found = impl_->outlines.find(glyph);
  if (found != impl_->outlines.end()) return found->second;
  std::shared_ptr<const Path> outline;
  if (FT_Load_Glyph(impl_->face, glyph, kLoadFlags) == 0 &&
      impl_->face->glyph->format == FT_GLYPH_FORMAT_OUTLINE) {
    OutlineBuilder builder{{}, 1 / impl_->units()};
    const FT_Outline_Funcs functions{OutlineBuilder::move,
                                     OutlineBuilder::line,
                                     OutlineBuilder::conic,
                                     OutlineBuilder::cubic,
                                     0,
                                     0};
    if (FT_Outline_Decompose(&impl_->face->glyph->outline, &functions, &builder) == 0) {
      if (builder.open) builder.path.close();
      if (!builder.path.is_empty()) outline = std::make_shared<const Path>(std::move(builder.path));
    }
  }
  return impl_->outlines.emplace(glyph, std::move(outline)).first->second;
}

double FontProgram::advance(unsigned glyph) const {
  const std::lock_guard lock(impl_->mutex);
  if (FT_Load_Glyph(impl_->face, glyph, kLoadFlags) != 0) return 0;
  return static_cast<double>(impl_->face->glyph->metrics.horiAdvance) / impl_->units();
}

unsigned FontProgram::glyph_count() const {
  return static_cast<unsigned>(std::max<FT_Long>(0, impl_->face->num_glyphs));
}

unsigned FontProgram::glyph_named(const std::string& name) const {
  const std::lock_guard lock(impl_->mutex);
  if (!FT_HAS_GLYPH_NAMES(impl_->face)) return 0;
  return FT_Get_Name_Index(impl_->face, name.c_str());
}

unsigned FontProgram::glyph_for_unicode(std::uint32_t code) const {
  const std::lock_guard lock(impl_->mutex);
  if (FT_Select_Charmap(impl_->face, FT_ENCODING_UNICODE) != 0) return 0;
  return FT_Get_Char_Index(impl_->face, code);
}

unsigned FontProgram::glyph_for_symbol(std::uint32_t code) const {
  const std::lock_guard lock(impl_->mutex);
  const FT_CharMap charmap = impl_->find_charmap(3, 0);
  // The codes of symbolic fonts may lie on any of these pages (9.6.5.4).
  for (const std::uint32_t page : {0xF000u, 0u, 0xF100u, 0xF200u})
    if (const unsigned glyph = impl_->look_up(charmap, page + code); glyph != 0) return glyph;
  return 0;
}

unsigned FontProgram::glyph_for_mac_code(std::uint32_t code) const {
  const std::lock_guard lock(impl_->mutex);
  return impl_->look_up(impl_->find_charmap(1, 0), code);
}

unsigned FontProgram::glyph_for_built_in(std::uint32_t code) const {
  const std::lock_guard lock(impl_->mutex);
  for (const FT_Encoding encoding : {FT_ENCODING_ADOBE_CUSTOM, FT_ENCODING_ADOBE_STANDARD})
    if (FT_Select_Charmap(impl_->face, encoding) == 0) return FT_Get_Char_Index(impl_->face, code);
  return 0;
}

unsigned FontProgram::glyph_for_cid(unsigned cid) const {
  if (!impl_->is_cid_keyed) return cid;
  const auto found = impl_->glyphs_by_cid.find(cid);
  if (found == impl_->glyphs_by_cid.end()) return 0;
  // FreeType takes CIDs for glyph numbers where the program stands in no TrueType wrapping.
  return FT_IS_SFNT(impl_->face) ? found->second : cid;
}

unsigned FontProgram::upright_glyph(std::uint32_t code) const {
  const std::lock_guard lock(impl_->mutex);
  if (!impl_->upright) impl_->upright = std::make_unique<const UprightForms>(bytes(), face_index());
  return impl_->upright->of(code);
}

bool FontProgram::is_cid_keyed() const { return impl_->is_cid_keyed; }

bool FontProgram::has_truetype_outlines() const {
  const std::lock_guard lock(impl_->mutex);
  FT_ULong length = 0;
  return FT_IS_SFNT(impl_->face) &&
         FT_Load_Sfnt_Table(impl_->face, FT_MAKE_TAG('g', 'l', 'y', 'f'), 0, nullptr, &length) == 0;
}

unsigned FontProgram::cid_of_glyph(unsigned glyph) const {
  if (!impl_->is_cid_keyed) return glyph;
  const std::lock_guard lock(impl_->mutex);
  FT_UInt cid = 0;
  return FT_Get_CID_From_Glyph_Index(impl_->face, glyph, &cid) == 0 ? cid : 0;
}

std::string FontProgram::text_of(unsigned glyph) const {
  const std::lock_guard lock(impl_->mutex);
  if (glyph == 0) return {};
  // Names say more than a map that FreeType makes of them, such as "f_f_i"; a real map says more
  // than names, some of which stand for several characters.
  if (!FT_IS_SFNT(impl_->face))
    if (std::string text = impl_->text_by_name(glyph); !text.empty()) return text;
  if (!impl_->characters) impl_->index_characters();
  const auto known = impl_->characters->find(glyph);
  if (known == impl_->characters->end()) return impl_->text_by_name(glyph);
  std::string text;
  objects::append_utf8(known->second, text);
  return text;
}

bool FontProgram::is_bold() const { return (impl_->face->style_flags & FT_STYLE_FLAG_BOLD) != 0; }
bool FontProgram::is_italic() const {
  return (impl_->face->style_flags & FT_STYLE_FLAG_ITALIC) != 0;
}

bool FontProgram::is_fixed_pitch() const { return FT_IS_FIXED_WIDTH(impl_->face) != 0; }
std::string FontProgram::family() const {
  return impl_->face->family_name == nullptr ? "" : impl_->face->family_name;
}
int FontProgram::face_count() const { return static_cast<int>(impl_->face->num_faces); }
int FontProgram::face_index() const { return static_cast<int>(impl_->face->face_index & 0xFFFF); }
ByteView FontProgram::bytes() const { return impl_->bytes; }
std::size_t FontProgram::size() const { return impl_->bytes.size(); }

}  // namespace lumvet::fonts
