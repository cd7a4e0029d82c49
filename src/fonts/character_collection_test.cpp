// SPDX-License-Identifier: Apache-2.0
// The named code maps and the collections that they lead to, held against the converters of ICU and
// against what the standards for the codes say of their order.
#include "fonts/character_collection.h"

#include <unicode/normalizer2.h>

#include "base/findings_list.h"
#include "fonts/font.h"
#include "fonts/predefined_encoding.h"
#include "lumvet/fonts/font_supply.h"
#include "tests/support/catch.h"
#include "tests/support/plain_resolver.h"

using namespace lumvet;
using fonts::CharacterCollection;
using fonts::CodeRead;
using fonts::PredefinedEncoding;

namespace {

std::shared_ptr<const PredefinedEncoding> map_named(std::string_view name) {
  auto map = PredefinedEncoding::named(name);
  REQUIRE(map != nullptr);
  return map;
}

// Both without the differences of compatibility: wide and narrow, radicals, ligatures.
bool look_alike(std::uint32_t one, std::uint32_t other) {
  UErrorCode status = U_ZERO_ERROR;
  const icu::Normalizer2* forms = icu::Normalizer2::getNFKCInstance(status);
  const auto plain = [&](std::uint32_t character) {
    return forms->normalize(icu::UnicodeString(static_cast<UChar32>(character)), status);
  };
  return plain(one) == plain(other);
}

// All codes that a map reads from one or two bytes.
std::vector<CodeRead> codes_of(const PredefinedEncoding& map) {
  std::vector<CodeRead> codes;
  for (int first = 0; first < 256; ++first)
    for (int second = 0; second < 256; ++second) {
      const char text[] = {static_cast<char>(first), static_cast<char>(second)};
      const CodeRead read = map.next({text, 2});
      codes.push_back(read);
      if (read.bytes == 1) break;
    }
  return codes;
}

}  // namespace

TEST_CASE("every code map of the standard's table 116 leads to characters of its collection",
          "[fonts]") {
  struct Row {
    std::string_view name;  // without the direction
    std::string_view ordering;
    std::size_t codes;  // that lead to a CID: of the national standard, or of its two byte part
  };
  const Row row = GENERATE(values<Row>({
      {"GB-EUC", "GB1", 7445},           {"GBpc-EUC", "GB1", 7445},
      {"GBK-EUC", "GB1", 21886},         {"GBKp-EUC", "GB1", 21886},
      {"GBK2K", "GB1", 21886},           {"UniGB-UCS2", "GB1", 21800},
      {"UniGB-UTF16", "GB1", 21800},     {"B5pc", "CNS1", 13400},
      {"HKscs-B5", "CNS1", 13400},       {"ETen-B5", "CNS1", 13400},
      {"ETenms-B5", "CNS1", 13400},      {"CNS-EUC", "CNS1", 5800},
      {"UniCNS-UCS2", "CNS1", 13400},    {"UniCNS-UTF16", "CNS1", 13400},
      {"83pv-RKSJ", "Japan1", 6879},     {"90ms-RKSJ", "Japan1", 6879},
      {"90msp-RKSJ", "Japan1", 6879},    {"90pv-RKSJ", "Japan1", 6879},
      {"Add-RKSJ", "Japan1", 6879},      {"Ext-RKSJ", "Japan1", 6879},
      {"EUC", "Japan1", 6879},           {"", "Japan1", 6879},
      {"UniJIS-UCS2", "Japan1", 13000},  {"UniJIS-UCS2-HW", "Japan1", 13000},
      {"UniJIS-UTF16", "Japan1", 13000}, {"UniJIS2004-UTF16", "Japan1", 13000},
      {"KSC-EUC", "Korea1", 3335},       {"KSCms-UHC", "Korea1", 12157},
      {"KSCms-UHC-HW", "Korea1", 12157}, {"KSCpc-EUC", "Korea1", 3335},
      {"UniKS-UCS2", "Korea1", 12157},   {"UniKS-UTF16", "Korea1", 12157},
  }));
  CAPTURE(row.name);
  const std::string prefix = row.name.empty() ? "" : std::string(row.name) + "-";
  const auto level = map_named(prefix + "H");
  const auto upright = map_named(prefix + "V");
  CHECK(&level->collection() == CharacterCollection::named(row.ordering));
  std::size_t known = 0;
  std::size_t wrong = 0;
  std::size_t turned = 0;
  for (const CodeRead& read : codes_of(*level)) {
    const auto cid = level->cid(read);
    if (!cid) continue;
    ++known;
    const auto meant = level->character(read);
    const auto shown = level->collection().character(*cid);
    // Codes of ASCII lead to the signs of the country's own standard: currencies, a line above.
    const bool is_letter = read.code < 0x80;
    if (!is_letter && (!meant || !shown || !look_alike(*meant, *shown))) ++wrong;
    const auto down = upright->cid(read);
    REQUIRE(down);
    if (*down != *cid) {
      ++turned;
      CHECK(level->collection().is_upright(*down));
    }
  }
  CHECK(known >= row.codes);
  CHECK(wrong <= known / 100);  // some characters of Unicode share a form: signs, accents
  CHECK((turned > 0) == (row.ordering != "Korea1"));
}

TEST_CASE("identifiers follow the order of the national standards", "[fonts]") {
  struct Row {
    std::string_view map;
    std::uint32_t code;
    std::size_t bytes;
    std::uint32_t cid;
  };
  const Row rows[] = {
      {"90ms-RKSJ-H", 'A', 1, 264},
      {"90msp-RKSJ-H", 'A', 1, 34},
      {"90ms-RKSJ-H", 0x8140, 2, 633},
      {"90ms-RKSJ-H", 0x829F, 2, 842},
      {"90ms-RKSJ-H", 0x889F, 2, 1125},
      {"90ms-RKSJ-H", 0xB1, 1, 343},
      {"EUC-H", 0xB0A1, 2, 1125},
      {"H", 0x3021, 2, 1125},
      {"H", 0x7426, 2, 8285},
      {"H", 0x2821, 2, 7479},
      {"EUC-H", 0xA1C6, 2, 670},
      {"UniJIS-UTF16-H", 0x2018, 2, 98},
      {"UniJIS-UCS2-H", 0x2018, 2, 670},
      {"UniJIS-UCS2-HW-H", 'A', 2, 264},
      {"UniJIS-UCS2-H", 'A', 2, 34},
      {"GB-EUC-H", 'A', 1, 847},
      {"GBKp-EUC-H", 'A', 1, 34},
      {"GB-EUC-H", 0xB0A1, 2, 940},
      {"GB-EUC-V", 0xA1A2, 2, 575},
      {"GBK-EUC-H", 0x8140, 2, 10072},
      {"GBK-EUC-H", 0xFEA0, 2, 22126},
      {"ETen-B5-H", 0xA440, 2, 595},
      {"ETen-B5-H", 0xC940, 2, 5996},
      {"ETen-B5-H", 0xC94A, 2, 628},
      {"ETen-B5-H", 'A', 1, 13681},
      {"CNS-EUC-H", 0xC4A1, 2, 595},
      {"KSC-EUC-H", 0xB0A1, 2, 1086},
      {"KSCms-UHC-H", 0x8141, 2, 9333},
      {"KSC-EUC-H", 0xC8FE, 2, 3435},
      {"UniKS-UTF16-H", 0xD7A3, 2, 18154},
  };
  for (const Row& row : rows) {
    CAPTURE(row.map, row.code);
    CHECK(map_named(row.map)->cid({row.code, row.bytes}) == row.cid);
  }
  // Forms of 1983 and of 2004; a character beyond the first plane.
  CHECK(map_named("UniJIS-UTF16-H")->cid({0x8FBB, 2}) == 3056);
  CHECK(map_named("UniJIS2004-UTF16-H")->cid({0x8FBB, 2}) == 8267);
  const auto beyond = map_named("UniJIS-UTF16-H")->next({"\xD8\x40\xDC\x0B", 4});
  CHECK(map_named("UniJIS-UTF16-H")->cid(beyond));
  CHECK(CharacterCollection::named("Identity") == nullptr);
}

TEST_CASE("the CIDs of a named map lead to widths, and to characters where no font is there",
          "[fonts]") {
  const auto shown = [](const char* encoding, const char* ordering, std::string_view text) {
    const Object system(Dict{{"Registry", Object::string("Adobe")},
                             {"Ordering", Object::string(ordering)},
                             {"Supplement", Object(2)}});
    const Object widths(
        Array{Object(264), Object(Array{Object(600)}), Object(843), Object(844), Object(700)});
    const Object cid_font(Dict{{"Subtype", Object::name("CIDFontType2")},
                               {"BaseFont", Object::name("Unheard")},
                               {"CIDSystemInfo", system},
                               {"W", widths}});
    const Dict dict{{"Subtype", Object::name("Type0")},
                    {"BaseFont", Object::name("Unheard")},
                    {"Encoding", Object::name(encoding)},
                    {"DescendantFonts", Object(Array{cid_font})}};
    Findings findings;
    const auto font = fonts::Font::make(dict, test::PlainResolver(), Limits{}, findings,
                                        fonts_of(FontSupply(FontSupply::System::left_out)));
    std::string words;
    std::vector<double> advances;
    font->decode(text, [&](const fonts::Glyph& glyph) {
      words += glyph.text;
      advances.push_back(glyph.width);
    });
    return std::pair(words, advances);
  };
  using Advances = std::vector<double>;
  CHECK(shown("90ms-RKSJ-H", "Japan1", "A\x82\xA0\x88\x9F") ==
        std::pair(std::string("Aあ亜"), Advances{0.6, 0.7, 1}));
  // By the CIDs themselves.
  CHECK(shown("Identity-H", "Japan1", {"\x01\x08\x03\x4B\x04\x65", 6}) ==
        std::pair(std::string("Aあ亜"), Advances{0.6, 0.7, 1}));
  CHECK(shown("Identity-H", "Ostrel", {"\x01\x08", 2}).first.empty());
}
