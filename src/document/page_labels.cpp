// SPDX-License-Identifier: Apache-2.0
#include "document/page_labels.h"

#include <algorithm>
#include <array>

#include "base/attempt.h"
#include "document/name_tree.h"
#include "document/text_entries.h"

namespace lumvet::document {
namespace {

// Each of the pages that bear it has one of its own.
constexpr std::size_t kLongestPrefix = 1000;  // bytes

std::string roman(std::int64_t number) {
  struct Sign {
    std::int64_t value;
    std::string_view text;
  };
  constexpr std::array<Sign, 13> kSigns = {{{1000, "M"},
                                            {900, "CM"},
                                            {500, "D"},
                                            {400, "CD"},
                                            {100, "C"},
                                            {90, "XC"},
                                            {50, "L"},
                                            {40, "XL"},
                                            {10, "X"},
                                            {9, "IX"},
                                            {5, "V"},
                                            {4, "IV"},
                                            {1, "I"}}};
  std::string text;
  for (const Sign& sign : kSigns)
    for (; number >= sign.value; number -= sign.value) text += sign.text;
  return text;
}

// A to Z, then AA to ZZ, then AAA (table 161).
std::string letters(std::int64_t number) {
  return std::string(static_cast<std::size_t>((number - 1) / 26 + 1),
                     static_cast<char>('A' + (number - 1) % 26));
}

}  // namespace

std::string_view style_of(Numerals numerals) {
  switch (numerals) {
    case Numerals::decimal: return "D";
    case Numerals::roman_upper: return "R";
    case Numerals::roman_lower: return "r";
    case Numerals::letters_upper: return "A";
    case Numerals::letters_lower: return "a";
    case Numerals::none: break;
  }
  return "";
}

std::string numeral(std::int64_t number, std::string_view style) {
  constexpr std::int64_t kMost = 10'000;  // longer ones are nobody's page number
  if (number < 1 || number > kMost) return std::to_string(number);
  std::string text;
  if (style == "R" || style == "r")
    text = roman(number);
  else if (style == "A" || style == "a")
    text = letters(number);
  else
    return std::to_string(number);
  if (style == "r" || style == "a")
    for (char& c : text) c = static_cast<char>(c - 'A' + 'a');
  return text;
}

PageLabels::PageLabels(const file::ObjectStore& store, const Dict& catalog) {
  walk_tree(store, catalog["PageLabels"], "Nums", [&](const Object& key, const Object& value) {
    const Object object = store.resolve(value);
    if (!key.is_integer() || key.as_integer() < 0 || !object.is_dict()) return;
    const Dict& dict = object.as_dict();
    if (!Attempt::follow(sizeof(Range))) return;
    std::string prefix = text_entry(store, dict, "P");
    if (prefix.size() > kLongestPrefix) {
      store.findings().add({"a page label of " + std::to_string(prefix.size()) +
                                " bytes; its first " + std::to_string(kLongestPrefix) +
                                " were taken",
                            {},
                            value.as_reference()});
      prefix.resize(kLongestPrefix);
      while (!prefix.empty() && (prefix.back() & 0x80) != 0) prefix.pop_back();
    }
    ranges_.push_back({key.as_integer(), store.get(dict, "S").as_name(), std::move(prefix),
                       store.get(dict, "St").as_integer(1)});
  });
  std::stable_sort(ranges_.begin(), ranges_.end(),
                   [](const Range& a, const Range& b) { return a.first < b.first; });
  if (!ranges_.empty() && ranges_.front().first != 0) {
    store.findings().add(
        {"the page labels do not begin at the first page; numbers were taken "
         "before them",
         {},
         catalog["PageLabels"].as_reference()});
    ranges_.insert(ranges_.begin(), Range{0, "D", {}, 1});
  }
}

PageLabels::Label PageLabels::label(int index) const {
  const auto after =
      std::upper_bound(ranges_.begin(), ranges_.end(), index,
                       [](int page, const Range& range) { return page < range.first; });
  if (after == ranges_.begin()) return {"D", {}, std::int64_t{index} + 1};
  const Range& range = *(after - 1);
  return {range.style, range.prefix, range.start + (index - range.first)};
}

std::string PageLabels::Label::text() const {
  return style.empty() ? prefix : prefix + numeral(number, style);
}

}  // namespace lumvet::document
