// SPDX-License-Identifier: Apache-2.0
// What codes stand for where only the font program or the shape of a dictionary tells it.
#include "base/findings_list.h"
#include "fonts/font.h"
#include "fonts/font_matcher.h"
#include "fonts/font_program.h"
#include "lumvet/fonts/font_supply.h"
#include "objects/text_string.h"
#include "tests/support/catch.h"
#include "tests/support/plain_resolver.h"
#include "tests/support/temporary_folder.h"

using namespace lumvet;

namespace {

Bytes liberation_sans() {
  const std::string text =
      test::read_file("/usr/share/fonts/truetype/liberation/LiberationSans-Regular.ttf");
  REQUIRE(text.size() > 1000);
  return {as_bytes(text).begin(), as_bytes(text).end()};
}

std::shared_ptr<const fonts::Font> font_of(const Dict& dict) {
  Findings findings;
  return fonts::Font::make(dict, test::PlainResolver(), Limits{}, findings, fonts_of(FontSupply()));
}

std::string read_with(const fonts::Font& font, const std::string& codes) {
  std::string text;
  font.decode(codes, [&](const fonts::Glyph& glyph) { text += glyph.text; });
  return text;
}

}  // namespace

TEST_CASE("a font program tells what its glyphs stand for", "[fonts]") {
  const auto program = fonts::FontProgram::load(liberation_sans()).value();
  for (const std::uint32_t character : {0x51u, 0xE4u, 0x3A9u, 0x416u, 0x20ACu}) {
    std::string expected;
    objects::append_utf8(character, expected);
    CHECK(program->text_of(program->glyph_for_unicode(character)) == expected);
  }
  CHECK(program->text_of(0).empty());
  CHECK(program->text_of(program->glyph_count() + 7).empty());
}

TEST_CASE("codes without a map stand for what the embedded program's glyphs do", "[fonts]") {
  const auto program = fonts::FontProgram::load(liberation_sans()).value();
  const Dict descriptor{{"FontFile2", Object(Stream::of({}, liberation_sans()))}, {"Flags", 4}};
  const Dict descendant{{"Subtype", Object::name("CIDFontType2")},
                        {"CIDToGIDMap", Object::name("Identity")},
                        {"FontDescriptor", Object(descriptor)}};
  const auto composite = font_of({{"Subtype", Object::name("Type0")},
                                  {"BaseFont", Object::name("Sample")},
                                  {"Encoding", Object::name("Identity-H")},
                                  {"DescendantFonts", Array{Object(descendant)}}});
  const unsigned number = program->glyph_for_unicode('Q');
  const std::string code{static_cast<char>(number >> 8), static_cast<char>(number & 0xFF)};
  for (int i = 0; i < 2; ++i) CHECK(read_with(*composite, code + code) == "QQ");
  CHECK(read_with(*composite, "\xFF\xF0").empty());
  const auto symbolic = font_of({{"Subtype", Object::name("TrueType")},
                                 {"BaseFont", Object::name("Sample")},
                                 {"FontDescriptor", Object(descriptor)}});
  CHECK(read_with(*symbolic, "Q") == "Q");
}

TEST_CASE("lines of a Type 3 font are as high as its glyphs, whatever its units", "[fonts]") {
  const auto extent = [](const char* entries) {
    const std::string text =
        std::string("<</Subtype/Type3/CharProcs<<>>/Encoding<<>>") + entries + ">>";
    return font_of(test::parse(text).as_dict())->line_extent();
  };
  CHECK(extent("/FontMatrix[1 0 0 -1 0 0]/FontBBox[0 -29 81 100]").ascent == 29);
  CHECK(extent("/FontMatrix[1 0 0 -1 0 0]/FontBBox[0 -29 81 100]").descent == -100);
  CHECK(extent("/FontMatrix[.01 0 0 .01 0 0]/FontBBox[0 -25 90 75]").ascent == Approx(0.75));
  // Nothing said, or nonsense.
  for (const char* entries :
       {"/FontBBox[0 0 0 0]", "/FontMatrix[9000000 0 0 9000000 0 0]/FontBBox[0 0 9 9]",
        "/FontBBox[1 2]"})
    CHECK(extent(entries).ascent == fonts::LineExtent().ascent);
}
