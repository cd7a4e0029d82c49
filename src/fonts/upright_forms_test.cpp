// SPDX-License-Identifier: Apache-2.0
// Forms for lines that run downward, of a font that gets a table of them here: Liberation Sans with
// an A that is shown as a B.
#include "fonts/upright_forms.h"

#include <fstream>
#include <iterator>

#include "base/findings_list.h"
#include "fonts/font.h"
#include "lumvet/fonts/font_supply.h"
#include "tests/support/catch.h"
#include "tests/support/plain_resolver.h"
#include "tests/support/temporary_folder.h"

using namespace lumvet;

namespace {

const char* const kLiberation = "/usr/share/fonts/truetype/liberation/LiberationSans-Regular.ttf";

std::string file_text(const std::filesystem::path& path) {
  std::ifstream in(path, std::ios::binary);
  return {std::istreambuf_iterator<char>(in), {}};
}

std::string word(unsigned value) {
  return {static_cast<char>(value >> 8 & 0xFF), static_cast<char>(value & 0xFF)};
}
std::string long_word(std::size_t value) {
  return word(static_cast<unsigned>(value >> 16)) + word(static_cast<unsigned>(value & 0xFFFF));
}

// A table GSUB (OpenType) of one feature, one lookup and one glyph.
std::string substitution_table(unsigned glyph, unsigned form) {
  const std::string scripts =
      word(1) + "DFLT" + word(8) + word(4) + word(0) + word(0) + word(0xFFFF) + word(1) + word(0);
  const std::string features = word(1) + "vert" + word(8) + word(0) + word(1) + word(0);
  const std::string lookups = word(1) + word(4) + word(1) + word(0) + word(1) + word(8) + word(1) +
                              word(6) + word(form - glyph) + word(1) + word(1) + word(glyph);
  const auto size = [](const std::string& text) { return static_cast<unsigned>(text.size()); };
  return word(1) + word(0) + word(10) + word(10 + size(scripts)) +
         word(10 + size(scripts) + size(features)) + scripts + features + lookups;
}

// A font file whose table GSUB is replaced.
std::string with_table(const std::string& file, const std::string& table) {
  const auto number = [&](std::size_t at) {
    std::size_t value = 0;
    for (std::size_t i = 0; i < 4; ++i)
      value = value << 8 | static_cast<std::uint8_t>(file[at + i]);
    return value;
  };
  const std::size_t count = number(4) >> 16;
  std::string header = file.substr(0, 12);
  std::string body;
  for (std::size_t i = 0; i < count; ++i) {
    const std::size_t entry = 12 + 16 * i;
    const std::string tag = file.substr(entry, 4);
    const std::string data =
        tag == "GSUB" ? table : file.substr(number(entry + 8), number(entry + 12));
    header += tag + file.substr(entry + 4, 4) + long_word(12 + 16 * count + body.size()) +
              long_word(data.size());
    body += data;
    body.resize((body.size() + 3) / 4 * 4);
  }
  return header + body;
}

struct Turned {
  std::string file;
  unsigned plain = 0;
  unsigned form = 0;
};

Turned turned_font() {
  const std::string file = file_text(kLiberation);
  const auto program = fonts::FontProgram::load({file.begin(), file.end()}).value();
  const unsigned a = program->glyph_for_unicode('A');
  const unsigned b = program->glyph_for_unicode('B');
  return {with_table(file, substitution_table(a, b)), a, b};
}

// The bounds of a text's glyphs under a font that is not embedded.
std::vector<Rect> shown(const char* encoding, const char* ordering, std::string_view text,
                        const FontSupply& supply) {
  const Dict cid_font{{"Subtype", Object::name("CIDFontType2")},
                      {"CIDSystemInfo", Object(Dict{{"Ordering", Object::string(ordering)}})}};
  const std::string map_text = "1 beginbfchar <0022> <0041> endbfchar";
  const Dict dict{{"Subtype", Object::name("Type0")},
                  {"BaseFont", Object::name("Unheard")},
                  {"Encoding", Object::name(encoding)},
                  {"ToUnicode", Object(Stream::of({}, {map_text.begin(), map_text.end()}))},
                  {"DescendantFonts", Object(Array{Object(cid_font)})}};
  Findings findings;
  std::vector<Rect> bounds;
  fonts::Font::make(dict, test::PlainResolver(), Limits{}, findings, fonts_of(supply))
      ->decode(text, [&](const fonts::Glyph& glyph) { bounds.push_back(glyph.outline->bounds()); });
  return bounds;
}

}  // namespace

TEST_CASE("a font's own forms for lines downward are found, others stay as they are", "[fonts]") {
  const Turned turned = turned_font();
  const fonts::UprightForms forms(as_bytes(turned.file), 0);
  CHECK(forms.of('A') == turned.form);
  CHECK(forms.of('B') == turned.form);
  const std::string plain = file_text(kLiberation);
  CHECK(fonts::UprightForms(as_bytes(plain), 0).of('A') == turned.plain);
  CHECK(forms.of(0x3042) == 0);
  CHECK(fonts::UprightForms(as_bytes("no font at all"), 0).of('A') == 0);
}

TEST_CASE("a substitute shows its forms for lines downward in such lines only", "[fonts]") {
  const test::TemporaryFolder folder;
  const Turned turned = turned_font();
  std::ofstream(folder / "turned.ttf", std::ios::binary) << turned.file;
  FontSupply supply(FontSupply::System::left_out);
  REQUIRE(supply.add_file(folder / "turned.ttf").ok());
  const auto program = fonts::FontProgram::load({turned.file.begin(), turned.file.end()}).value();
  const Rect plain = program->outline(turned.plain)->bounds();
  const Rect form = program->outline(turned.form)->bounds();
  CHECK(shown("Identity-H", "Identity", {"\x00\x22", 2}, supply) == std::vector<Rect>{plain});
  CHECK(shown("Identity-V", "Identity", {"\x00\x22", 2}, supply) == std::vector<Rect>{form});
  // Letters within Japanese, which the only font there is has none of.
  CHECK(shown("Identity-H", "Japan1", {"\x00\x22", 2}, supply) == std::vector<Rect>{plain});
}
