// SPDX-License-Identifier: Apache-2.0
// A CID-keyed font program made by hand after Adobe's Technical Note 5176: three glyphs, squares of
// 100, 500 and 900 units, which have the CIDs 0, 500 and 10.
#include "base/findings_list.h"
#include "fonts/font.h"
#include "fonts/font_matcher.h"
#include "fonts/font_program.h"
#include "lumvet/fonts/font_supply.h"
#include "tests/support/catch.h"
#include "tests/support/plain_resolver.h"

using namespace lumvet;

namespace {

std::string word(int value) {
  return {static_cast<char>(value >> 8), static_cast<char>(value & 0xFF)};
}

// A number of a dictionary in five bytes, and of a glyph in three.
std::string number(int value) { return "\x1D" + word(value >> 16) + word(value & 0xFFFF); }
std::string small(int value) { return "\x1C" + word(value); }

std::string index_of(const std::vector<std::string>& items) {
  if (items.empty()) return word(0);
  std::string text = word(static_cast<int>(items.size())) + "\x02";
  std::size_t at = 1;
  text += word(static_cast<int>(at));
  for (const std::string& item : items) text += word(static_cast<int>(at += item.size()));
  for (const std::string& item : items) text += item;
  return text;
}

std::string square(int side) {
  return small(side) + small(0) + small(0) + "\x15" +                           // width, rmoveto
         small(side) + "\x06" + small(side) + "\x07" + small(-side) + "\x06" +  // h-, v-, hlineto
         "\x0E";
}

Bytes cid_font() {
  const std::string header("\x01\x00\x04\x02", 4);
  const std::string names = index_of({"OstrelCid"});
  const std::string strings = index_of({"Adobe", "Identity"});
  const std::string none = index_of({});
  const std::string charset = std::string(1, '\0') + word(500) + word(10);
  const std::string select = std::string("\x00\x00\x00\x00", 4);  // all of the first dictionary
  const std::string glyphs = index_of({square(100), square(500), square(900)});
  const std::string private_dict = number(0) + "\x14" + number(0) + "\x15";  // the default widths
  // Their places stand in the top dictionary, whose own size does not depend on them.
  const auto top = [&](int start) {
    const int charset_at = start;
    const int select_at = charset_at + static_cast<int>(charset.size());
    const int glyphs_at = select_at + static_cast<int>(select.size());
    const int private_at = glyphs_at + static_cast<int>(glyphs.size());
    const int array_at = private_at + static_cast<int>(private_dict.size());
    const std::string dict = number(391) + number(392) + number(0) + "\x0C\x1E" +  // ROS
                             number(600) + "\x0C\x22" +                            // CIDCount
                             number(charset_at) + "\x0F" + number(glyphs_at) + "\x11" +
                             number(array_at) + "\x0C\x24" + number(select_at) + "\x0C\x25";
    const std::string font =
        number(static_cast<int>(private_dict.size())) + number(private_at) + "\x12";
    return std::pair(index_of({dict}), index_of({font}));
  };
  const std::size_t before =
      header.size() + names.size() + top(0).first.size() + strings.size() + none.size();
  const auto [dict, fonts] = top(static_cast<int>(before));
  const std::string file =
      header + names + dict + strings + none + charset + select + glyphs + private_dict + fonts;
  return {as_bytes(file).begin(), as_bytes(file).end()};
}

}  // namespace

TEST_CASE("CIDs of a subset lead to their glyphs, whatever place those have", "[fonts]") {
  // Seen in a Chinese document: only the glyphs whose place happened to be another's CID showed.
  const auto program = fonts::FontProgram::load(cid_font()).value();
  const auto side = [&](unsigned cid) {
    const auto outline = program->outline(program->glyph_for_cid(cid));
    return outline ? outline->bounds().width() : 0;
  };
  CHECK(side(500) == Approx(0.5));
  CHECK(side(10) == Approx(0.9));
  CHECK(program->advance(program->glyph_for_cid(500)) == Approx(0.5));
  CHECK(program->glyph_for_cid(1) == 0);
  CHECK(program->glyph_for_cid(77) == 0);
}

TEST_CASE("a character that an embedded font lacks is told from one that it has", "[fonts]") {
  const Dict descriptor{{"FontFile3", Object(Stream::of({}, cid_font()))}};
  const Dict cid_keyed{{"Subtype", Object::name("CIDFontType0")},
                       {"FontDescriptor", Object(descriptor)}};
  const Dict font{{"Subtype", Object::name("Type0")},
                  {"BaseFont", Object::name("OstrelCid")},
                  {"Encoding", Object::name("Identity-H")},
                  {"DescendantFonts", Object(Array{Object(cid_keyed)})}};
  Findings findings;
  std::vector<bool> missing;
  fonts::Font::make(font, test::PlainResolver(), Limits{}, findings, fonts_of(FontSupply()))
      ->decode({"\x01\xF4\x01\x2C\x00\x0A", 6},
               [&](const fonts::Glyph& glyph) { missing.push_back(glyph.is_missing); });
  CHECK(missing == std::vector<bool>{false, true, false});
}

TEST_CASE("an embedded code map builds on another", "[fonts]") {
  // Code 0x0041 by the map itself, the others by what it builds on, however that is stated.
  const std::string own = "1 begincidchar <0041> 500 endcidchar";
  const Dict identity{{"UseCMap", Object::name("Identity-H")}};
  const Bytes other_text = [] {
    const std::string_view text =
        "1 begincodespacerange <0000> <FFFF> endcodespacerange 1 begincidchar <000A> 10 endcidchar";
    return Bytes(as_bytes(text).begin(), as_bytes(text).end());
  }();
  const Dict other{{"UseCMap", Object(Stream::of({}, other_text))}};
  const Dict unknown{{"UseCMap", Object::name("Ostrel-H")}};
  struct Way {
    Dict dict;
    std::string begin;
    std::size_t findings;
    double advance;  // of code 0x000A
  };
  for (const auto& [dict, begin, count, advance] :
       {Way{identity, "", 0, 0.9}, Way{other, "", 0, 0.9}, Way{{}, "/Identity-H usecmap ", 0, 0.9},
        Way{unknown, "1 begincodespacerange <0000> <FFFF> endcodespacerange ", 1, 0.1}}) {
    const std::string text = begin + own;
    const Dict cid_keyed{
        {"Subtype", Object::name("CIDFontType0")},
        {"FontDescriptor", Object(Dict{{"FontFile3", Object(Stream::of({}, cid_font()))}})}};
    const Dict font{{"Subtype", Object::name("Type0")},
                    {"BaseFont", Object::name("OstrelCid")},
                    {"Encoding", Object(Stream::of(dict, {text.begin(), text.end()}))},
                    {"DescendantFonts", Object(Array{Object(cid_keyed)})}};
    Findings findings;
    std::vector<double> sides;
    fonts::Font::make(font, test::PlainResolver(), Limits{}, findings, fonts_of(FontSupply()))
        ->decode({"\x00\x41\x00\x0A", 4}, [&](const fonts::Glyph& glyph) {
          sides.push_back(glyph.outline ? glyph.outline->bounds().width() : 0);
        });
    REQUIRE(sides.size() == 2);
    CHECK(sides[0] == Approx(0.5));
    CHECK(sides[1] == Approx(advance));
    CHECK(findings.list().size() == count);
  }
}

TEST_CASE("the form that an embedded program has is taken where it lacks the one asked for",
          "[fonts]") {
  // The hand-made program has CIDs 10 and 500: ')' of Japan1, and a Roman numeral. Code 0x29 is CID
  // 240 in half width.
  const Dict cid_keyed{
      {"Subtype", Object::name("CIDFontType0")},
      {"CIDSystemInfo", Object(Dict{{"Ordering", Object::string("Japan1")}})},
      {"W", Object(Array{Object(10), Object(Array{Object(600)}), Object(241),
                         Object(Array{Object(500)})})},
      {"FontDescriptor", Object(Dict{{"FontFile3", Object(Stream::of({}, cid_font()))}})}};
  const Dict font{{"Subtype", Object::name("Type0")},
                  {"BaseFont", Object::name("OstrelCid")},
                  {"Encoding", Object::name("90ms-RKSJ-H")},
                  {"DescendantFonts", Object(Array{Object(cid_keyed)})}};
  Findings findings;
  std::vector<fonts::Glyph> shown;
  fonts::Font::make(font, test::PlainResolver(), Limits{}, findings, fonts_of(FontSupply()))
      ->decode(")*", [&](const fonts::Glyph& glyph) { shown.push_back(glyph); });
  REQUIRE(shown.size() == 2);
  CHECK(shown[0].width == 0.6);
  CHECK_FALSE(shown[0].is_missing);
  CHECK(shown[0].outline->bounds().width() == Approx(0.9));
  CHECK(shown[1].width == 0.5);  // it has no other either
  CHECK(shown[1].is_missing);
}
