// SPDX-License-Identifier: Apache-2.0
#include "text/bidirectional.h"

#include <algorithm>
#include <cstdint>
#include <memory>
#include <numeric>

#include <unicode/ubidi.h>
#include <unicode/uchar.h>

namespace lumvet::text {
namespace {

bool goes_right(char32_t c) { return u_charDirection(static_cast<UChar32>(c)) == U_LEFT_TO_RIGHT; }

struct Close {
  void operator()(UBiDi* bidi) const { ubidi_close(bidi); }
};

constexpr char16_t kLetter = 'a';

// Stands for a character of a higher plane, which would take two units.
char16_t in_one_unit(char32_t c) {
  constexpr char16_t kHebrewLetter = 0x5D0;
  constexpr char32_t kHigher = 0x10000;
  if (c < kHigher) return static_cast<char16_t>(c);
  return is_right_to_left(c) ? kHebrewLetter : kLetter;
}

}  // namespace

bool is_right_to_left(char32_t c) {
  constexpr char32_t kFirst = 0x590;  // Hebrew is the first
  if (c < kFirst) return false;
  const UCharDirection direction = u_charDirection(static_cast<UChar32>(c));
  return direction == U_RIGHT_TO_LEFT || direction == U_RIGHT_TO_LEFT_ARABIC;
}

bool has_right_to_left(std::u32string_view characters) {
  return std::any_of(characters.begin(), characters.end(), is_right_to_left);
}

bool mostly_goes_left(std::u32string_view characters) {
  return std::count_if(characters.begin(), characters.end(), is_right_to_left) >=
         std::count_if(characters.begin(), characters.end(), goes_right);
}

std::vector<std::size_t> order_of_reading(const std::u32string& seen) {
  std::vector<std::size_t> order(seen.size());
  std::iota(order.begin(), order.end(), std::size_t{0});
  if (!has_right_to_left(seen)) return order;
  std::u16string units;
  // A number that stands right behind Latin letters, as in "LX-200", is a part of their word.
  bool is_in_word = false;
  for (const char32_t c : seen) {
    is_in_word = goes_right(c) || (is_in_word && c != ' ' && !is_right_to_left(c));
    units += is_in_word && u_isdigit(static_cast<UChar32>(c)) != 0 ? kLetter : in_one_unit(c);
  }
  UErrorCode failed = U_ZERO_ERROR;
  const std::unique_ptr<UBiDi, Close> bidi(ubidi_open());
  ubidi_setReorderingMode(bidi.get(), UBIDI_REORDER_INVERSE_LIKE_DIRECT);
  ubidi_setPara(bidi.get(), units.data(), static_cast<int32_t>(units.size()),
                static_cast<UBiDiLevel>(mostly_goes_left(seen) ? 1 : 0), nullptr, &failed);
  std::vector<int32_t> map(units.size());
  ubidi_getVisualMap(bidi.get(), map.data(), &failed);
  if (U_FAILURE(failed)) return order;
  for (std::size_t i = 0; i < order.size(); ++i)
    if (map[i] >= 0) order[i] = static_cast<std::size_t>(map[i]);
  return order;
}

}  // namespace lumvet::text
