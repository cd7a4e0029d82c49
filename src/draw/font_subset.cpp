// SPDX-License-Identifier: Apache-2.0
#include "draw/font_subset.h"

#include <hb-ot.h>
#include <hb-subset.h>

#include <array>
#include <cmath>

#include "crypto/digest.h"
#include "lumvet/base/bytes.h"
#include "objects/text_string.h"

namespace lumvet::draw {
namespace {

struct ReleaseSubset {
  void operator()(hb_subset_input_t* input) const { hb_subset_input_destroy(input); }
  void operator()(hb_subset_plan_t* plan) const { hb_subset_plan_destroy(plan); }
};
using BlobPtr = std::unique_ptr<hb_blob_t, Release>;

constexpr double kThousand = 1000;

ByteView bytes_of(hb_blob_t* blob) {
  unsigned length = 0;
  const char* data = hb_blob_get_data(blob, &length);
  return {reinterpret_cast<const std::uint8_t*>(data), length};
}

BlobPtr table(hb_face_t* face, hb_tag_t tag) { return BlobPtr(hb_face_reference_table(face, tag)); }

// A signed number of two bytes in a table; 0 beyond its end.
int number_at(ByteView bytes, std::size_t at) {
  if (at + 2 > bytes.size()) return 0;
  return static_cast<std::int16_t>(bytes[at] << 8 | bytes[at + 1]);
}

// The name by which programs know it, of those characters that names are made of.
std::string postscript_name(hb_face_t* face, const std::string& family) {
  std::array<char, 128> text{};
  unsigned size = text.size();
  hb_ot_name_get_utf8(face, HB_OT_NAME_ID_POSTSCRIPT_NAME, HB_LANGUAGE_INVALID, &size, text.data());
  std::string name;
  for (const char c : size > 0 ? std::string(text.data(), size) : family)
    if (c > ' ' && c < 127 && std::string_view("()<>[]{}/%").find(c) == std::string_view::npos)
      name += c;
  return name.empty() ? "Font" : name;
}

// Six letters that no other subset of the font has (9.9.2), the same each time.
std::string subset_tag(const std::map<unsigned, std::string>& texts, const std::string& name) {
  std::string key = name;
  for (const auto& [glyph, text] : texts) key += "," + std::to_string(glyph);
  crypto::Digest digest(crypto::DigestKind::md5);
  digest.update(as_bytes(key));
  std::string tag;
  const Bytes sum = digest.finish();
  for (std::size_t i = 0; i < 6; ++i) tag += static_cast<char>('A' + sum[i] % 26);
  return tag + "+";
}

Result<std::unique_ptr<hb_face_t, Release>> cut_down(const Face& face,
                                                     const std::map<unsigned, std::string>& texts) {
  const std::unique_ptr<hb_subset_input_t, ReleaseSubset> input(hb_subset_input_create_or_fail());
  if (!input) return Error(ErrorCode::limit, "no memory for a font");
  hb_subset_input_set_flags(input.get(), HB_SUBSET_FLAGS_RETAIN_GIDS);
  for (const auto& [glyph, text] : texts) hb_set_add(hb_subset_input_glyph_set(input.get()), glyph);
  hb_set_t* drop = hb_subset_input_set(input.get(), HB_SUBSET_SETS_DROP_TABLE_TAG);
  for (const char* tag : {"GSUB", "GPOS", "GDEF", "kern", "name", "post", "OS/2", "cmap", "DSIG",
                          "COLR", "CPAL", "SVG "})
    hb_set_add(drop, hb_tag_from_string(tag, 4));
  // A variable font becomes the one that it is at its place.
  std::array<hb_ot_var_axis_info_t, 32> axes{};
  unsigned count = axes.size();
  hb_ot_var_get_axis_infos(face.face.get(), 0, &count, axes.data());
  for (unsigned i = 0; i < count; ++i) {
    const hb_tag_t tag = axes[i].tag;
    std::array<char, 5> text{};
    hb_tag_to_string(tag, text.data());
    const auto own = face.axes.find(text.data());
    hb_subset_input_pin_axis_location(
        input.get(), face.face.get(), tag,
        own == face.axes.end() ? axes[i].default_value : static_cast<float>(own->second));
  }
  const std::unique_ptr<hb_subset_plan_t, ReleaseSubset> plan(
      hb_subset_plan_create_or_fail(face.face.get(), input.get()));
  std::unique_ptr<hb_face_t, Release> subset;
  if (plan) subset.reset(hb_subset_plan_execute_or_fail(plan.get()));
  if (!subset)
    return Error(ErrorCode::unsupported,
                 "the font " + face.program->family() + " cannot be cut down for embedding");
  return subset;
}

// "<0041>" and so on, of UTF-16.
std::string hex_of(const std::string& utf8) {
  std::string hex = "<";
  for (const char16_t unit : objects::utf8_to_utf16(utf8)) append_digits(unit, hex);
  return hex + ">";
}

// From codes back to characters (9.10.3).
Object to_unicode(const Face& face, const std::map<unsigned, std::string>& texts,
                  file::Ledger& ledger) {
  std::vector<std::string> lines;
  for (const auto& [glyph, text] : texts) {
    if (text.empty()) continue;
    std::string line = "<";
    append_digits(face.code_of(glyph), line);
    lines.push_back(line + "> " + hex_of(text) + "\n");
  }
  std::string map =
      "/CIDInit /ProcSet findresource begin\n12 dict begin\nbegincmap\n"
      "/CIDSystemInfo << /Registry (Adobe) /Ordering (UCS) /Supplement 0 >> def\n"
      "/CMapName /Characters def\n/CMapType 2 def\n"
      "1 begincodespacerange\n<0000> <FFFF>\nendcodespacerange\n";
  constexpr std::size_t kMostInBlock = 100;
  for (std::size_t first = 0; first < lines.size(); first += kMostInBlock) {
    const std::size_t end = std::min(lines.size(), first + kMostInBlock);
    map += std::to_string(end - first) + " beginbfchar\n";
    for (std::size_t i = first; i < end; ++i) map += lines[i];
    map += "endbfchar\n";
  }
  map += "endcmap\nCMapName currentdict /CMap defineresource pop\nend\nend\n";
  return ledger.add(Stream::of({}, Bytes(map.begin(), map.end())));
}

Object program_stream(hb_face_t* face, bool is_truetype, file::Ledger& ledger) {
  const BlobPtr blob =
      is_truetype ? BlobPtr(hb_face_reference_blob(face)) : table(face, HB_TAG('C', 'F', 'F', ' '));
  const ByteView bytes = bytes_of(blob.get());
  Dict dict;
  if (is_truetype)
    dict.set("Length1", static_cast<std::int64_t>(bytes.size()));
  else
    dict.set("Subtype", Object::name("CIDFontType0C"));
  return ledger.add(Stream::of(std::move(dict), Bytes(bytes.begin(), bytes.end())));
}

Dict descriptor(const Face& of, const std::string& name) {
  hb_face_t* face = of.face.get();
  const double scale = kThousand / hb_face_get_upem(face);
  const BlobPtr head = table(face, HB_TAG('h', 'e', 'a', 'd'));
  Array box;
  for (const std::size_t at : {36, 38, 40, 42})
    box.push_back(std::round(number_at(bytes_of(head.get()), at) * scale));
  // Table 121.
  constexpr int kFixedPitch = 1;
  constexpr int kSymbolic = 4;
  constexpr int kItalic = 64;
  const int flags = kSymbolic | (of.program->is_fixed_pitch() ? kFixedPitch : 0) |
                    (of.program->is_italic() ? kItalic : 0);
  const double weight = hb_style_get_value(of.font.get(), HB_STYLE_TAG_WEIGHT);
  return Dict{{"Type", Object::name("FontDescriptor")},
              {"FontName", Object::name(name)},
              {"Flags", flags},
              {"FontBBox", Object(std::move(box))},
              {"ItalicAngle",
               static_cast<double>(hb_style_get_value(of.font.get(), HB_STYLE_TAG_SLANT_ANGLE))},
              {"Ascent", std::round(of.ascent * kThousand)},
              {"Descent", std::round(of.descent * kThousand)},
              {"CapHeight", std::round(of.cap_height * kThousand)},
              {"StemV", std::round(weight / 5)}};
}

}  // namespace

void append_digits(unsigned code, std::string& out) {
  constexpr std::string_view kDigits = "0123456789ABCDEF";
  for (const int shift : {12, 8, 4, 0}) out += kDigits[(code >> shift) & 15];
}

bool has_outlines(hb_face_t* face) {
  return hb_blob_get_length(table(face, HB_TAG('g', 'l', 'y', 'f')).get()) > 0 ||
         hb_blob_get_length(table(face, HB_TAG('C', 'F', 'F', ' ')).get()) > 0;
}

Result<std::unique_ptr<hb_face_t, Release>> face_to_embed(const fonts::FontProgram& program) {
  const ByteView bytes = program.bytes();
  const BlobPtr blob(hb_blob_create(reinterpret_cast<const char*>(bytes.data()),
                                    static_cast<unsigned>(bytes.size()), HB_MEMORY_MODE_READONLY,
                                    nullptr, nullptr));
  std::unique_ptr<hb_face_t, Release> face(
      hb_face_create(blob.get(), static_cast<unsigned>(program.face_index())));
  if (!has_outlines(face.get()) && hb_ot_color_has_png(face.get()) == 0)
    return Error(ErrorCode::unsupported, "the font " + program.family() +
                                             " is neither TrueType nor OpenType; name another");
  constexpr std::size_t kRights = 8;
  constexpr int kRestricted = 2;
  const BlobPtr rights = table(face.get(), HB_TAG('O', 'S', '/', '2'));
  if ((number_at(bytes_of(rights.get()), kRights) & 0xF) == kRestricted)
    return Error(ErrorCode::unsupported, "the font " + program.family() +
                                             " must not be embedded, says its maker; name another");
  return face;
}

namespace {

// How far glyphs of lines that run downward go, and where they hang (9.7.4.3).
Array hangings(const Face& face, const std::map<unsigned, std::string>& texts) {
  std::map<unsigned, std::array<double, 3>> by_code;
  for (const auto& [glyph, text] : texts) {
    hb_position_t x = 0;
    hb_position_t y = 0;
    hb_font_get_glyph_v_origin(face.font.get(), glyph, &x, &y);
    const double scale = kThousand / face.units;
    by_code[face.code_of(glyph)] = {hb_font_get_glyph_v_advance(face.font.get(), glyph) * scale,
                                    x * scale, y * scale};
  }
  Array all;
  for (const auto& [code, places] : by_code) {
    Array own;
    for (const double place : places) own.push_back(std::round(place * 10) / 10);
    all.push_back(static_cast<std::int64_t>(code));
    all.push_back(Object(std::move(own)));
  }
  return all;
}

}  // namespace

Result<Object> font_of(const Face& face, bool runs_down,
                       const std::map<unsigned, std::string>& texts, file::Ledger& ledger) {
  LUMVET_TRY(const auto subset, cut_down(face, texts));
  const bool is_truetype =
      hb_blob_get_length(table(subset.get(), HB_TAG('g', 'l', 'y', 'f')).get()) > 0;
  std::map<unsigned, double> by_code;
  for (const auto& [glyph, text] : texts)
    by_code[face.code_of(glyph)] =
        hb_font_get_glyph_h_advance(face.font.get(), glyph) * kThousand / face.units;
  Array widths;
  for (const auto& [code, width] : by_code) {
    widths.push_back(static_cast<std::int64_t>(code));
    widths.push_back(Array{Object(std::round(width * 10) / 10)});
  }
  const std::string plain = postscript_name(face.face.get(), face.program->family());
  std::string key = plain;
  for (const auto& [tag, value] : face.axes) key += ";" + tag + std::to_string(value);
  if (runs_down) key += ";down";
  const std::string name = subset_tag(texts, key) + plain;
  Dict about = descriptor(face, name);
  about.set(is_truetype ? "FontFile2" : "FontFile3",
            program_stream(subset.get(), is_truetype, ledger));
  Dict descendant{{"Type", Object::name("Font")},
                  {"Subtype", Object::name(is_truetype ? "CIDFontType2" : "CIDFontType0")},
                  {"BaseFont", Object::name(name)},
                  {"CIDSystemInfo", Dict{{"Registry", Object::string("Adobe")},
                                         {"Ordering", Object::string("Identity")},
                                         {"Supplement", 0}}},
                  {"FontDescriptor", ledger.add(std::move(about))},
                  {"W", Object(std::move(widths))}};
  if (is_truetype) descendant.set("CIDToGIDMap", Object::name("Identity"));
  if (runs_down) descendant.set("W2", Object(hangings(face, texts)));
  const std::string encoding = runs_down ? "Identity-V" : "Identity-H";
  return Object(Dict{{"Type", Object::name("Font")},
                     {"Subtype", Object::name("Type0")},
                     {"BaseFont", Object::name(is_truetype ? name : name + "-" + encoding)},
                     {"Encoding", Object::name(encoding)},
                     {"DescendantFonts", Array{Object(ledger.add(std::move(descendant)))}},
                     {"ToUnicode", to_unicode(face, texts, ledger)}});
}

}  // namespace lumvet::draw
