// SPDX-License-Identifier: Apache-2.0
#include "fonts/cmap.h"

#include <map>
#include <random>

#include "tests/support/catch.h"

using namespace lumvet;
using fonts::CMap;

namespace {

std::string hex(unsigned code) {
  constexpr char kDigits[] = "0123456789ABCDEF";
  std::string text = "<";
  for (int shift = 12; shift >= 0; shift -= 4) text += kDigits[code >> shift & 15];
  return text + ">";
}

CMap parsed(const std::string& mappings) {
  return CMap::parse(as_bytes("1 begincodespacerange <0000> <FFFF> endcodespacerange " + mappings))
      .value();
}

}  // namespace

TEST_CASE("of ranges that overlap the later one counts where both are, in both kinds of maps",
          "[fonts]") {
  const CMap within = parsed(
      "1 begincidrange <0041> <0045> 100 endcidrange "
      "1 begincidchar <0043> 7 endcidchar");
  CHECK(within.cid({0x41, 2}) == 100);
  CHECK(within.cid({0x43, 2}) == 7);
  CHECK(within.cid({0x44, 2}) == 103);
  CHECK(within.cid({0x45, 2}) == 104);
  CHECK(within.cid({0x46, 2}) == std::nullopt);
  // Any ranges against a list of all codes.
  std::mt19937 engine(9);
  const auto random = [&](unsigned count) {
    return std::uniform_int_distribution<unsigned>(0, count - 1)(engine);
  };
  for (int trial = 0; trial < 50; ++trial) {
    std::map<unsigned, unsigned> plain;
    std::string cids;
    std::string characters;
    for (int i = 0; i < 12; ++i) {
      const unsigned first = 0x40 + random(40);
      const unsigned last = first + random(12);
      const unsigned value = 0x100 + random(500);
      for (unsigned code = first; code <= last; ++code) plain[code] = value + code - first;
      cids += "1 begincidrange " + hex(first) + hex(last) + " " + std::to_string(value) +
              " endcidrange ";
      characters += "1 beginbfrange " + hex(first) + hex(last) + hex(value) + " endbfrange ";
    }
    const CMap map = parsed(cids);
    const CMap text = parsed(characters);
    int wrong = 0;
    for (unsigned code = 0x30; code < 0x80; ++code) {
      const auto known = plain.find(code);
      wrong += map.cid({code, 2}).value_or(0) == (known == plain.end() ? 0 : known->second) ? 0 : 1;
      wrong +=
          text.unicode(code) == (known == plain.end() ? std::nullopt : std::optional(known->second))
              ? 0
              : 1;
    }
    CHECK(wrong == 0);
  }
}
