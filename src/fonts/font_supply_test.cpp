// SPDX-License-Identifier: Apache-2.0
// Fonts that documents do not bring along: supplied by the application, chosen by the characters
// that predefined code maps stand for, or missing altogether.
#include "lumvet/fonts/font_supply.h"
#include "base/findings_list.h"
#include "fonts/font_matcher.h"

#include "fonts/font.h"
#include "fonts/predefined_encoding.h"
#include "fonts/substitute.h"
#include "tests/support/catch.h"
#include "tests/support/plain_resolver.h"
#include "tests/support/temporary_folder.h"

using namespace lumvet;
using fonts::Glyph;
using fonts::PredefinedEncoding;

namespace {

const std::filesystem::path kLiberation = "/usr/share/fonts/truetype/liberation";

std::vector<Glyph> glyphs(const Dict& dict, std::string_view text, const FontSupply& supply,
                          Findings& findings) {
  std::vector<Glyph> all;
  fonts::Font::make(dict, test::PlainResolver(), Limits{}, findings, fonts_of(supply))
      ->decode(text, [&](const Glyph& glyph) { all.push_back(glyph); });
  return all;
}

Object name(const char* text) { return Object::name(text); }

Dict simple_font(const char* base_font) {
  Array widths;
  for (int code = 65; code < 70; ++code) widths.push_back(Object(10 * code));
  return Dict{{"Subtype", name("TrueType")},
              {"BaseFont", name(base_font)},
              {"Encoding", name("WinAnsiEncoding")},
              {"FirstChar", Object(65)},
              {"Widths", Object(std::move(widths))}};
}

Dict composite_font(const char* encoding) {
  return Dict{
      {"Subtype", name("Type0")},
      {"BaseFont", name("Unheard")},
      {"Encoding", name(encoding)},
      {"DescendantFonts",
       Object(Array{Object(Dict{{"Subtype", name("CIDFontType2")},
                                {"W", Object(Array{Object(231), Object(Array{Object(500)})})}})})}};
}

}  // namespace

TEST_CASE("predefined code maps tell where codes end and what they mean", "[fonts]") {
  struct Row {
    const char* map;
    std::string_view text;
    std::vector<std::uint32_t> characters;
  };
  const Row rows[] = {
      {"90ms-RKSJ-H", "A\x82\xA0\xB1\x93\xFA", {'A', 0x3042, 0xFF71, 0x65E5}},
      {"EUC-H", "A\xA4\xA2\xC6\xFC", {'A', 0x3042, 0x65E5}},
      {"H", "\x24\x22\x46\x7C", {0x3042, 0x65E5}},
      {"V", "\x24\x22", {0x3042}},
      {"GBK-EUC-H", "A\xD6\xD0", {'A', 0x4E2D}},
      {"GBK2K-V", "\xD6\xD0\x81\x39\xEE\x39", {0x4E2D, 0x3400}},
      {"ETen-B5-H", "A\xA4\xA4", {'A', 0x4E2D}},
      {"KSCms-UHC-H", "A\xB0\xA1", {'A', 0xAC00}},
      {"UniJIS-UTF16-H", {"\x30\x42\xD8\x40\xDC\x0B", 6}, {0x3042, 0x2000B}},
      {"UniGB-UTF8-H", "A\xE4\xB8\xAD", {'A', 0x4E2D}},
      {"UniKS-UTF32-V", {"\x00\x00\xAC\x00", 4}, {0xAC00}},
  };
  for (const Row& row : rows) {
    CAPTURE(row.map);
    const auto encoding = PredefinedEncoding::named(row.map);
    REQUIRE(encoding != nullptr);
    CHECK(encoding->is_vertical() == (std::string_view(row.map).back() == 'V'));
    std::vector<std::uint32_t> characters;
    for (std::string_view text = row.text; !text.empty();) {
      const fonts::CodeRead read = encoding->next(text);
      characters.push_back(encoding->character(read).value_or(0));
      text.remove_prefix(read.bytes);
    }
    CHECK(characters == row.characters);
  }
  for (const char* none : {"", "Identity-H", "Ostrel-H", "90ms-RKSJ", "-H"})
    CHECK(PredefinedEncoding::named(none) == nullptr);
  // A code that is cut off, and one that means nothing.
  const auto encoding = PredefinedEncoding::named("90ms-RKSJ-H");
  CHECK(encoding->next("\x82").bytes == 1);
  CHECK_FALSE(encoding->character({0xFCFC, 2}));
}

TEST_CASE("without any font text shows as boxes of the right width", "[fonts]") {
  const FontSupply none(FontSupply::System::left_out);
  Findings findings;
  const auto letters = glyphs(simple_font("Unheard"), "AB ", none, findings);
  REQUIRE(letters.size() == 3);
  CHECK(findings.list().size() == 1);
  for (std::size_t i = 0; i < 2; ++i) {
    REQUIRE(letters[i].outline);
    const Rect box = letters[i].outline->bounds();
    CHECK(letters[i].width == Approx(0.65 + 0.01 * static_cast<double>(i)));
    CHECK(box.left > 0);
    CHECK(box.right < letters[i].width);
    CHECK(box.width() > letters[i].width * 0.6);
  }
  CHECK_FALSE(letters[2].outline);  // a space is one all the same

  const auto signs = glyphs(composite_font("90ms-RKSJ-H"), "\x82\xA0 \x81\x40", none, findings);
  REQUIRE(signs.size() == 3);
  CHECK(signs[0].outline);
  CHECK(signs[0].width == 1);
  CHECK(signs[1].width == 0.5);  // by its CID, 231
  CHECK_FALSE(signs[1].outline);
  CHECK_FALSE(signs[2].outline);  // the wide space
}

TEST_CASE("an application's fonts are taken by name, by style, or as the nearest", "[fonts]") {
  FontSupply supply(FontSupply::System::left_out);
  REQUIRE(supply.add_file(kLiberation / "LiberationSans-Regular.ttf").ok());
  REQUIRE(supply.add_file(kLiberation / "LiberationSans-Bold.ttf").ok());
  REQUIRE(supply.add_file(kLiberation / "LiberationMono-Regular.ttf").ok());
  CHECK(supply.size() == 3);
  const auto found = [&](const fonts::FontWish& wish) {
    return fonts::find_substitute(wish, fonts_of(supply));
  };
  CHECK(found({.name = "LiberationMono"})->is_fixed_pitch());
  CHECK(found({.name = "LiberationSans,Bold"})->is_bold());
  CHECK_FALSE(found({.name = "Unheard"})->is_bold());
  CHECK(found({.name = "Unheard", .fixed_pitch = true})->is_fixed_pitch());
  CHECK(found({.name = "Unheard-BoldOblique"})->is_bold());
  CHECK(found({.name = "Unheard", .language = "ja"}) == nullptr);  // none has its letters

  FontSupply folder(FontSupply::System::left_out);
  REQUIRE(folder.add_folder(kLiberation).ok());
  CHECK(folder.size() >= 12);
  CHECK(fonts_of(folder).identity != fonts_of(supply).identity);
}

TEST_CASE("what is no font is told, with its path", "[fonts]") {
  const test::TemporaryFolder folder;
  test::write_file(folder / "notes.txt", "no font");
  FontSupply supply;
  CHECK(supply.add_file(folder / "notes.txt").error().code() == ErrorCode::malformed);
  CHECK_THAT(supply.add_file(folder / "notes.txt").error().to_string(),
             Catch::Contains("notes.txt"));
  CHECK(supply.add_file(folder / "none.ttf").error().code() == ErrorCode::io);
  CHECK(supply.add_folder(folder / "none").error().code() == ErrorCode::io);
  CHECK(supply.add_folder(folder / ".").error().code() == ErrorCode::malformed);
  CHECK(supply.size() == 0);
}
