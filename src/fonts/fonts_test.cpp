// SPDX-License-Identifier: Apache-2.0
#include "base/findings_list.h"
#include "fonts/cmap.h"
#include "fonts/encoding.h"
#include "fonts/font.h"
#include "fonts/font_matcher.h"
#include "fonts/substitute.h"
#include "lumvet/fonts/font_supply.h"
#include "tests/support/catch.h"
#include "tests/support/plain_resolver.h"
#include "tests/support/temporary_folder.h"

using namespace lumvet;
using fonts::Glyph;
using test::parse;

namespace {

Bytes font_file(const char* name) {
  const std::string text =
      test::read_file(std::string("/usr/share/fonts/truetype/liberation/") + name + ".ttf");
  REQUIRE(text.size() > 1000);
  return {as_bytes(text).begin(), as_bytes(text).end()};
}

std::vector<Glyph> glyphs(const Dict& dict, std::string_view text, Findings& findings) {
  std::vector<Glyph> all;
  fonts::Font::make(dict, test::PlainResolver(), Limits{}, findings, fonts_of(FontSupply()))
      ->decode(text, [&](const Glyph& glyph) { all.push_back(glyph); });
  return all;
}

Object embedded(const char* name, int flags) {
  return Dict{{"FontFile2", Object(Stream::of({}, font_file(name)))}, {"Flags", flags}};
}

}  // namespace

TEST_CASE("encodings hold what the standard's tables show", "[fonts]") {
  CHECK((*fonts::find_encoding("WinAnsiEncoding"))[0x80] == "Euro");
  CHECK((*fonts::find_encoding("WinAnsiEncoding"))[0x95] == "bullet");
  CHECK((*fonts::find_encoding("WinAnsiEncoding"))[0x8F] == "bullet");  // unused codes are bullets
  CHECK((*fonts::find_encoding("MacRomanEncoding"))[0x8A] == "adieresis");
  CHECK((*fonts::find_encoding("StandardEncoding"))[0x27] == "quoteright");
  CHECK((*fonts::find_encoding("StandardEncoding"))[0xAE] == "fi");
  CHECK((*fonts::built_in_encoding("Symbol"))[0x61] == "alpha");
  CHECK((*fonts::built_in_encoding("ZapfDingbats"))[0x21] == "a1");
  CHECK(fonts::find_encoding("NoEncoding") == nullptr);
}

TEST_CASE("glyph names mean characters", "[fonts]") {
  CHECK(fonts::unicode_of_glyph("A") == 0x41u);
  CHECK(fonts::unicode_of_glyph("germandbls") == 0xDFu);
  CHECK(fonts::unicode_of_glyph("uni20AC") == 0x20ACu);
  CHECK(fonts::unicode_of_glyph("u1F309") == 0x1F309u);
  CHECK(fonts::unicode_of_glyph("a.sc") == 0x61u);
  CHECK_FALSE(fonts::unicode_of_glyph("g4711x"));
}

TEST_CASE("a code map reads codes of several lengths", "[fonts]") {
  const auto cmap =
      fonts::CMap::parse(
          as_bytes("/CIDInit /ProcSet findresource begin 12 dict begin begincmap /WMode 1 def\n"
                   "2 begincodespacerange <00> <80> <8140> <9FFC> endcodespacerange\n"
                   "1 begincidrange <20> <7e> 231 endcidrange\n"
                   "2 begincidrange <8140> <817e> 633 <8180> <81ac> 696 endcidrange\n"
                   "1 begincidchar <80> 97 endcidchar endcmap"))
          .value();
  CHECK(cmap.is_vertical());
  const auto first = cmap.next("A\x81\x41");
  CHECK(first.bytes == 1);
  CHECK(cmap.cid(first) == 231 + 0x41 - 0x20);
  const auto second = cmap.next("\x81\x41");
  CHECK(second.bytes == 2);
  CHECK(cmap.cid(second) == 634);
  CHECK(cmap.cid({0x80, 1}) == 97);
  CHECK(cmap.cid({0x817F, 2}) == std::nullopt);
  CHECK(cmap.next("\xFF").bytes == 1);
  CHECK_FALSE(fonts::CMap::parse(as_bytes("nothing here")).ok());
}

TEST_CASE("maps made to be slow are cut: endless texts for a code, endless code spaces",
          "[fonts]") {
  std::string text = "1 beginbfchar <61> <";
  for (int i = 0; i < 5000; ++i) text += "0062";
  const auto long_one = fonts::CMap::parse(as_bytes(text + "> endbfchar")).value();
  CHECK(long_one.text(0x61) == std::string(256, 'b'));
  std::string spaces = "1 begincodespacerange <00> <7F> ";
  for (int i = 0; i < 5000; ++i) spaces += "<80000000> <80000000> ";
  spaces += "<8000> <FFFF> endcodespacerange 1 begincidrange <00> <7F> 1 endcidrange";
  const auto many = fonts::CMap::parse(as_bytes(spaces)).value();
  CHECK(many.next("a").bytes == 1);
  CHECK(many.next("\x80\x01").bytes == 1);  // the last space was one too many
}

TEST_CASE("a ToUnicode map gives characters by range, list and pair", "[fonts]") {
  const auto cmap =
      fonts::CMap::parse(
          as_bytes(
              "1 begincodespacerange <0000> <FFFF> endcodespacerange 2 beginbfrange <0010> <0012> "
              "<0041> "
              "<0020> <0021> [<00DF> <D83CDF09>] endbfrange 1 beginbfchar <0030> <20AC> endbfchar"))
          .value();
  CHECK(cmap.unicode(0x11) == 0x42u);
  CHECK(cmap.unicode(0x20) == 0xDFu);
  CHECK(cmap.unicode(0x21) == 0x1F309u);
  CHECK(cmap.unicode(0x30) == 0x20ACu);
  CHECK_FALSE(cmap.unicode(0x13));
}

TEST_CASE("what a simple font lacks is told apart from what is blank", "[fonts]") {
  Findings findings;
  const bool is_embedded = GENERATE(true, false);
  const Dict dict{
      {"Subtype", Object::name("TrueType")},
      {"BaseFont", Object::name("LiberationSans")},
      {"FontDescriptor",
       is_embedded ? embedded("LiberationSans-Regular", 32) : parse("<</Flags 32>>")},
      {"Encoding", parse("<</BaseEncoding/WinAnsiEncoding/Differences[1/u1F309/space/nbspace]>>")},
      {"FirstChar", 1},
      {"Widths", Array{700, 300, 300}}};
  const auto shown = glyphs(dict, "\x01\x02\x03", findings);
  REQUIRE(shown.size() == 3);
  CHECK(shown[0].is_missing);
  CHECK(shown[0].outline);  // the font's own sign, or a box
  CHECK_FALSE(shown[1].is_missing);
  CHECK_FALSE(shown[2].is_missing);
}

TEST_CASE("a TrueType font shows named glyphs at the widths it states", "[fonts]") {
  Findings findings;
  const Dict dict{
      {"Subtype", Object::name("TrueType")},
      {"BaseFont", Object::name("Sample")},
      {"FontDescriptor", embedded("LiberationSans-Regular", 32)},
      {"Encoding", parse("<</BaseEncoding/WinAnsiEncoding/Differences[1/germandbls]>>")},
      {"FirstChar", 65},
      {"Widths", Array{700, 600}}};
  const auto shown = glyphs(dict, "AB\x01 ", findings);
  const auto program = fonts::FontProgram::load(font_file("LiberationSans-Regular")).value();
  REQUIRE(shown.size() == 4);
  CHECK(shown[0].width == 0.7);
  CHECK(shown[1].width == 0.6);
  CHECK(shown[0].stretch == 1);  // an embedded font keeps its shapes
  const auto same_shape = [&](const Glyph& glyph, std::uint32_t unicode) {
    const auto expected = program->outline(program->glyph_for_unicode(unicode));
    return glyph.outline && expected && glyph.outline->points() == expected->points();
  };
  CHECK(same_shape(shown[0], 'A'));
  CHECK(same_shape(shown[1], 'B'));
  CHECK(same_shape(shown[2], 0xDF));
  CHECK_FALSE(shown[3].outline);
  CHECK(findings.list().empty());
}

TEST_CASE("a composite font takes two bytes a glyph, through its maps", "[fonts]") {
  Findings findings;
  const auto program = fonts::FontProgram::load(font_file("LiberationSans-Regular")).value();
  const unsigned gid = program->glyph_for_unicode('Q');
  Bytes map(20);
  map[2 * 7] = static_cast<std::uint8_t>(gid >> 8);
  map[2 * 7 + 1] = static_cast<std::uint8_t>(gid);
  const Dict descendant{{"Subtype", Object::name("CIDFontType2")},
                        {"FontDescriptor", embedded("LiberationSans-Regular", 4)},
                        {"DW", 500},
                        {"W", parse("[7[812]8 9 300]")},
                        {"CIDToGIDMap", Object(Stream::of({}, map))}};
  const Dict dict{{"Subtype", Object::name("Type0")},
                  {"BaseFont", Object::name("Sample")},
                  {"Encoding", Object::name("Identity-H")},
                  {"DescendantFonts", Array{Object(descendant)}}};
  const auto shown = glyphs(dict, std::string("\0\x07\0\x09\0\x01\0", 7), findings);
  REQUIRE(shown.size() == 4);
  CHECK(shown[0].outline->points() == program->outline(gid)->points());
  CHECK(shown[0].width == 0.812);
  CHECK(shown[1].width == 0.3);
  CHECK(shown[2].width == 0.5);
  CHECK(shown[0].code_bytes == 2);
}

TEST_CASE("vertical fonts hang their glyphs by other origins", "[fonts]") {
  Findings findings;
  const auto metrics = [&](const std::string& entries, const char* encoding) {
    Dict cid_font =
        parse("<</Subtype/CIDFontType2/CIDToGIDMap/Identity/DW 600" + entries + ">>").as_dict();
    cid_font.set("FontDescriptor", embedded("LiberationSans-Regular", 4));
    const Dict dict{{"Subtype", Object::name("Type0")},
                    {"BaseFont", Object::name("Upright")},
                    {"Encoding", Object::name(encoding)},
                    {"DescendantFonts", Array{Object(cid_font)}}};
    std::string text;
    for (const Glyph& glyph : glyphs(dict, std::string("\0\x24\0\x25\0\x26", 6), findings)) {
      if (!glyph.vertical) return std::string("horizontal");
      char line[64];
      std::snprintf(line, sizeof line, "%g %g %g,", glyph.vertical->advance,
                    glyph.vertical->origin.x, glyph.vertical->origin.y);
      text += line;
    }
    return text;
  };
  CHECK(metrics("", "Identity-H") == "horizontal");
  CHECK(metrics("", "Identity-V") == "-1 0.3 0.88,-1 0.3 0.88,-1 0.3 0.88,");
  CHECK(metrics("/DW2[800 -900]/W2[37[-500 250 700]38 40 -700 1 2]", "Identity-V") ==
        "-0.9 0.3 0.8,-0.5 0.25 0.7,-0.7 0.001 0.002,");
  CHECK(findings.list().empty());
}

TEST_CASE("a font that is not embedded is replaced and stretched to the stated widths", "[fonts]") {
  Findings findings;
  const Dict dict{{"Subtype", Object::name("TrueType")},
                  {"BaseFont", Object::name("ABCDEF+OstrelGrotesk-Bold")},
                  {"Encoding", Object::name("WinAnsiEncoding")},
                  {"FirstChar", 65},
                  {"Widths", Array{1400}}};
  const auto shown = glyphs(dict, "A", findings);
  REQUIRE(shown[0].outline);
  CHECK(shown[0].width == 1.4);
  CHECK(shown[0].stretch > 1.5);
  REQUIRE(findings.list().size() == 1);
  CHECK_THAT(findings.list()[0].what, Catch::Contains("OstrelGrotesk-Bold"));
}

TEST_CASE("the standard fonts bring their own widths and need no finding", "[fonts]") {
  Findings findings;
  const auto width = [&](const char* font, const char* text) {
    return glyphs(Dict{{"Subtype", Object::name("Type1")}, {"BaseFont", Object::name(font)}}, text,
                  findings)[0]
        .width;
  };
  CHECK(width("Helvetica", "A") == Approx(0.667).margin(0.002));
  CHECK(width("Times-Roman", "A") == Approx(0.722).margin(0.002));
  CHECK(width("Courier-Bold", "i") == Approx(0.6).margin(0.002));
  CHECK(width("Symbol", "a") == Approx(0.631).margin(0.002));
  CHECK(findings.list().empty());
}

TEST_CASE("a damaged font program is replaced and reported with its place", "[fonts]") {
  Findings findings;
  Bytes broken = font_file("LiberationSans-Regular");
  broken.resize(200);
  const Dict dict{{"Subtype", Object::name("TrueType")},
                  {"BaseFont", Object::name("Broken")},
                  {"Encoding", Object::name("WinAnsiEncoding")},
                  {"FontDescriptor", Dict{{"FontFile2", Object(Stream::of({}, broken))}}}};
  CHECK(glyphs(dict, "A", findings)[0].outline);
  REQUIRE(findings.list().size() == 1);
  CHECK(findings.list()[0].offset.has_value());
}

TEST_CASE("bold and italic wishes are met where the system can", "[fonts]") {
  const FontSupply none;
  const auto found = [&](const fonts::FontWish& wish) {
    return fonts::find_substitute(wish, fonts_of(none));
  };
  CHECK(found({.name = "Arial,Bold"})->is_bold());
  CHECK(found({.name = "Unheard", .serif = true, .italic = true})->is_italic());
  CHECK_FALSE(found({.name = "Arial"})->is_bold());
}

TEST_CASE("a standard font without widths has its own, whatever stands in for it", "[fonts]") {
  Findings findings;
  const Dict helvetica{{"Subtype", Object::name("Type1")}, {"BaseFont", Object::name("Helvetica")}};
  const auto all = glyphs(helvetica, "iW", findings);
  CHECK(all[0].width == Approx(0.222));
  CHECK(all[1].width == Approx(0.944));
  const Dict stated{{"Subtype", Object::name("Type1")},
                    {"BaseFont", Object::name("Helvetica")},
                    {"FirstChar", 105},
                    {"Widths", Array{Object(500)}}};
  CHECK(glyphs(stated, "i", findings)[0].width == Approx(0.5));
  CHECK(findings.list().empty());
}

TEST_CASE("a symbolic TrueType font may lie in an OpenType file", "[fonts]") {
  Findings findings;
  const Dict descriptor{{"FontFile3", Object(Stream::of({{"Subtype", Object::name("OpenType")}},
                                                        font_file("LiberationSans-Regular")))},
                        {"Flags", 4}};
  const Dict font{{"Subtype", Object::name("TrueType")},
                  {"BaseFont", Object::name("ABCDEF+Other")},
                  {"FontDescriptor", descriptor}};
  const auto all = glyphs(font, "AB", findings);
  CHECK(all[0].outline != nullptr);
  CHECK(all[1].outline != nullptr);
  CHECK(all[0].outline != all[1].outline);
}
