// SPDX-License-Identifier: Apache-2.0
// Fonts of one-byte codes: Type 1, TrueType, Type 3 (ISO 32000-2, 9.6).
#include <algorithm>
#include <array>
#include <cmath>
#include <vector>

#include "fonts/cmap.h"
#include "fonts/encoding.h"
#include "fonts/font_parts.h"
#include "fonts/standard_widths.h"

namespace lumvet::fonts {
namespace {

constexpr std::int64_t kSymbolicFlag = 1 << 2;

// The names that /Encoding gives, and whether it gave any.
struct Encoding {
  std::array<std::string, 256> names;
  bool has_base = false;
  std::array<bool, 256> differs{};
};

Encoding read_encoding(const Dict& dict, std::string_view base_font, const FontContext& context) {
  Encoding encoding;
  const auto fill = [&encoding](const EncodingTable& table) {
    for (std::size_t i = 0; i < 256; ++i) encoding.names[i] = table[i];
  };
  const Object stated = context.resolver.get(dict, "Encoding");
  const std::string base_name =
      stated.is_name() ? std::string(stated.as_name())
                       : context.resolver.get(stated.as_dict(), "BaseEncoding").as_name();
  if (const EncodingTable* table = find_encoding(base_name)) {
    fill(*table);
    encoding.has_base = true;
  } else if (const EncodingTable* built_in = built_in_encoding(plain_name(base_font))) {
    fill(*built_in);
  }
  const Object differences = context.resolver.get(stated.as_dict(), "Differences");
  std::int64_t code = 0;
  for (const Object& item : differences.as_array()) {
    const Object entry = context.resolver.resolve(item);
    if (entry.is_number()) {
      code = entry.as_integer();
    } else if (entry.is_name()) {
      if (code >= 0 && code < 256) {
        encoding.names[static_cast<std::size_t>(code)] = entry.as_name();
        encoding.differs[static_cast<std::size_t>(code)] = true;
      }
      ++code;
    }
  }
  return encoding;
}

class SimpleFont final : public Font {
 public:
  SimpleFont(const LineExtent& extent, FontTraits traits) : Font(extent, std::move(traits)) {}

  std::array<Glyph, 256> glyphs;
  std::optional<Type3> procedures;
  std::array<std::string, 256> texts;  // UTF-8, by code

  void decode(std::string_view text,
              const std::function<void(const Glyph&)>& visit) const override {
    for (const char c : text) visit(glyphs[static_cast<std::uint8_t>(c)]);
  }
  const Type3* type3() const override { return procedures ? &*procedures : nullptr; }
  // Once all is known.
  void finish() {
    for (std::size_t code = 0; code < 256; ++code) {
      glyphs[code].text = texts[code];
      if (glyphs[code].outline) glyphs[code].ink = glyphs[code].outline->bounds();
    }
  }
};

std::array<std::string, 256> texts_of(const Encoding& encoding,
                                      const std::optional<CMap>& to_unicode) {
  std::array<std::string, 256> texts;
  for (std::uint32_t code = 0; code < 256; ++code) {
    if (to_unicode) texts[code] = to_unicode->text(code);
    if (texts[code].empty()) texts[code] = text_of_glyph(encoding.names[code]);
  }
  return texts;
}

unsigned glyph_by_name(const FontProgram& program, const std::string& name) {
  if (name.empty() || name == ".notdef") return 0;
  if (const unsigned glyph = program.glyph_named(name); glyph != 0) return glyph;
  const auto unicode = unicode_of_glyph(name);
  if (!unicode) return 0;
  if (const unsigned glyph = program.glyph_for_unicode(*unicode); glyph != 0) return glyph;
  // Substitutes may lack the look-alikes that some names mean.
  switch (*unicode) {
    case 0x00A0: return program.glyph_for_unicode(' ');
    case 0x00AD:
    case 0x2212: return program.glyph_for_unicode('-');
    case 0x2206: return program.glyph_for_unicode(0x0394);
    case 0x2126: return program.glyph_for_unicode(0x03A9);
    case 0x00B5: return program.glyph_for_unicode(0x03BC);
    default: break;
  }
  // Small capitals, raised and old figures of fonts for experts, as plain ones.
  const std::string plain(plain_glyph_name(name));
  return plain.empty() ? 0 : glyph_by_name(program, plain);
}

unsigned mac_code_of(const std::string& name) {
  const EncodingTable& table = mac_roman_encoding();
  for (unsigned code = 32; code < 256; ++code)
    if (table[code] == name) return code;
  return 0;
}

// 9.6.5.4: by name through Unicode or the Mac codes when the font is not symbolic and its encoding
// is known, otherwise by code through the font's own tables.
unsigned truetype_glyph(const FontProgram& program, unsigned code, const Encoding& encoding,
                        bool symbolic) {
  const std::string& name = encoding.names[code];
  const bool named = !name.empty() && (!symbolic || encoding.differs[code]);
  if (named) {
    if (const auto unicode = unicode_of_glyph(name))
      if (const unsigned glyph = program.glyph_for_unicode(*unicode); glyph != 0) return glyph;
    if (const unsigned mac = mac_code_of(name); mac != 0)
      if (const unsigned glyph = program.glyph_for_mac_code(mac); glyph != 0) return glyph;
    if (const unsigned glyph = program.glyph_named(name); glyph != 0) return glyph;
  }
  if (const unsigned glyph = program.glyph_for_symbol(code); glyph != 0) return glyph;
  if (const unsigned glyph = program.glyph_for_mac_code(code); glyph != 0) return glyph;
  if (!name.empty())
    if (const unsigned glyph = glyph_by_name(program, name); glyph != 0) return glyph;
  return program.glyph_for_unicode(code);
}

unsigned type1_glyph(const FontProgram& program, unsigned code, const Encoding& encoding) {
  const std::string& name = encoding.names[code];
  if (encoding.has_base || encoding.differs[code] || !name.empty())
    if (const unsigned glyph = glyph_by_name(program, name); glyph != 0) return glyph;
  if (encoding.differs[code]) return 0;
  return encoding.has_base ? 0 : program.glyph_for_built_in(code);
}

// Whether a glyph of that name leaves a mark.
bool is_mark(const std::string& name) {
  if (name.empty() || name == ".notdef" || name == "space") return false;
  const auto unicode = unicode_of_glyph(name);
  return !unicode || (*unicode > ' ' && *unicode != 0xA0 && *unicode != 0xAD);
}

void read_widths(const Dict& dict, const Dict& descriptor, const FontContext& context,
                 std::array<double, 256>& widths) {
  const double missing = context.resolver.get(descriptor, "MissingWidth").as_number(0);
  const Object list = context.resolver.get(dict, "Widths");
  if (!list.is_array()) return;
  const std::int64_t first = context.resolver.get(dict, "FirstChar").as_integer();
  widths.fill(missing);
  for (std::size_t i = 0; i < list.as_array().size(); ++i) {
    const std::int64_t code = first + static_cast<std::int64_t>(i);
    if (code >= 0 && code < 256)
      widths[static_cast<std::size_t>(code)] =
          context.resolver.resolve(list.as_array()[i]).as_number(missing);
  }
}

// Of the standard fonts, where the document says nothing.
void take_standard_widths(std::string_view font, const Encoding& encoding,
                          std::array<double, 256>& widths) {
  for (std::size_t code = 0; code < widths.size(); ++code) {
    std::string_view name = encoding.names[code];
    if (name.empty()) name = standard_encoding()[code];
    if (!std::isnan(widths[code])) continue;
    if (const auto width = standard_width(font, name)) widths[code] = *width;
  }
}

std::vector<double> numbers_of(const Dict& dict, std::string_view key, const FontContext& context) {
  std::vector<double> numbers;
  const Object list = context.resolver.get(dict, key);
  for (const Object& number : list.as_array())
    numbers.push_back(context.resolver.resolve(number).as_number());
  return numbers;
}

// Of the box around the glyphs of a Type 3 font, which may be of any size.
LineExtent extent_of_box(const std::vector<double>& box, const Matrix& to_text_space) {
  if (box.size() != 4 || !(box[1] != box[3])) return {};
  const Rect placed = to_text_space.bounds_of({std::min(box[0], box[2]), std::min(box[1], box[3]),
                                               std::max(box[0], box[2]), std::max(box[1], box[3])});
  constexpr double kMost = 1e4;  // of the font size
  const bool is_sound = placed.top > placed.bottom && placed.top < kMost && placed.bottom > -kMost;
  return is_sound ? LineExtent{placed.top, placed.bottom} : LineExtent();
}

std::shared_ptr<const Font> make_type3(const Dict& dict, const Encoding& encoding,
                                       const std::array<double, 256>& widths,
                                       const FontContext& context) {
  Type3 procedures;
  const std::vector<double> m = numbers_of(dict, "FontMatrix", context);
  procedures.matrix = {0.001, 0, 0, 0.001, 0, 0};
  if (m.size() == 6) procedures.matrix = {m[0], m[1], m[2], m[3], m[4], m[5]};
  auto font = std::make_shared<SimpleFont>(
      extent_of_box(numbers_of(dict, "FontBBox", context), procedures.matrix),
      read_traits(context.resolver.get(dict, "Name").as_name(),
                  context.resolver.get(dict, "FontDescriptor").as_dict(), context));
  procedures.resources = context.resolver.get(dict, "Resources").as_dict();
  const Object streams = context.resolver.get(dict, "CharProcs");
  for (unsigned code = 0; code < 256; ++code) {
    Glyph& glyph = font->glyphs[code];
    glyph.code = code;
    glyph.width = std::isnan(widths[code]) ? 0 : widths[code] * procedures.matrix.a;
    procedures.procedures.push_back(streams.as_dict()[encoding.names[code]]);
  }
  font->procedures = std::move(procedures);
  font->texts = texts_of(encoding, read_to_unicode(dict, context));
  font->finish();
  return font;
}

}  // namespace

std::shared_ptr<const Font> make_simple_font(const Dict& dict, const FontContext& context) {
  const Object base_font_object = context.resolver.get(dict, "BaseFont");
  const std::string_view base_font = base_font_object.as_name();
  const Object descriptor_object = context.resolver.get(dict, "FontDescriptor");
  const Dict& descriptor = descriptor_object.as_dict();
  Encoding encoding = read_encoding(dict, base_font, context);
  std::array<double, 256> widths;
  widths.fill(std::nan(""));  // not said
  read_widths(dict, descriptor, context, widths);
  if (context.resolver.get(dict, "Subtype").is_name("Type3"))
    return make_type3(dict, encoding, widths, context);

  const LoadedProgram loaded = load_program(base_font, descriptor, "", context);
  if (!loaded.embedded) take_standard_widths(plain_name(base_font), encoding, widths);
  const bool symbolic =
      (context.resolver.get(descriptor, "Flags").as_integer() & kSymbolicFlag) != 0;
  const bool unencoded = !encoding.has_base && built_in_encoding(plain_name(base_font)) == nullptr;
  if (!loaded.is_truetype && !loaded.embedded && unencoded) {
    // A substitute's own encoding means nothing to this document.
    for (std::size_t i = 0; i < 256; ++i)
      if (!encoding.differs[i]) encoding.names[i] = standard_encoding()[i];
  }
  if (loaded.is_truetype && !symbolic && unencoded)
    for (std::size_t i = 0; i < 256; ++i)
      if (!encoding.differs[i]) encoding.names[i] = standard_encoding()[i];
  auto font = std::make_shared<SimpleFont>(read_line_extent(descriptor, context),
                                           read_traits(base_font, descriptor, context));
  font->texts = texts_of(encoding, read_to_unicode(dict, context));
  for (unsigned code = 0; code < 256; ++code) {
    Glyph& glyph = font->glyphs[code];
    glyph.code = code;
    glyph.width = std::isnan(widths[code]) ? 0 : widths[code] / 1000;
    if (!loaded.program) {
      if (is_mark(encoding.names[code])) glyph.outline = box_of_width(glyph.width);
      continue;
    }
    const FontProgram& program = *loaded.program;
    const unsigned number = loaded.is_truetype ? truetype_glyph(program, code, encoding, symbolic)
                                               : type1_glyph(program, code, encoding);
    glyph.is_missing = number == 0 && is_mark(encoding.names[code]);
    if (loaded.embedded && font->texts[code].empty()) font->texts[code] = program.text_of(number);
    if (number == 0 && !loaded.embedded) {
      if (glyph.is_missing && glyph.width > 0) glyph.outline = box_of_width(glyph.width);
      continue;
    }
    const double advance = program.advance(number);
    if (std::isnan(widths[code])) glyph.width = advance;
    if (!loaded.embedded && advance > 0 && glyph.width > 0) glyph.stretch = glyph.width / advance;
    // Embedded Type 1 fonts show nothing for codes they do not know.
    if (number != 0 || loaded.is_truetype) glyph.outline = program.outline(number);
  }
  font->finish();
  return font;
}

}  // namespace lumvet::fonts
