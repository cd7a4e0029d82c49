// SPDX-License-Identifier: Apache-2.0
#include <algorithm>
#include <charconv>

#include "base/digits.h"
#include "document/page_labels.h"
#include "lumvet/document/page_label.h"

namespace lumvet {
namespace {

constexpr int kMostPages = 10'000'000;

bool is_all(std::string_view text, std::string_view of) {
  return !text.empty() && text.find_first_not_of(of) == std::string_view::npos;
}

// The number that is written so; 0 when it is none.
int number_written(std::string_view text, Numerals numerals) {
  constexpr int kMostNumeral = 4000;
  if (numerals == Numerals::decimal) {
    int number = 0;
    const auto read = std::from_chars(text.data(), text.data() + text.size(), number);
    return read.ec == std::errc() && number <= kMostPages ? number : 0;
  }
  const std::string_view style = document::style_of(numerals);
  for (int number = 1; number < kMostNumeral; ++number)
    if (document::numeral(number, style) == text) return number;
  return 0;
}

// "A-1" is a prefix and where counting begins; what ends in no number is called so.
void read_label(std::string_view label, LabelRun& run) {
  constexpr std::string_view kDigits = "0123456789";
  const std::size_t digits = label.find_last_not_of(kDigits) + 1;  // 0 when there is nothing else
  const auto not_alphanumeric = [](char c) {
    const char lower = static_cast<char>(c | 0x20);
    return !(lower >= 'a' && lower <= 'z') && !is_digit(c);
  };
  const auto last = std::find_if(label.rbegin(), label.rend(), not_alphanumeric);
  const auto letters = static_cast<std::size_t>(label.rend() - last);
  const auto take = [&](std::size_t from, Numerals numerals) {
    run.number = number_written(label.substr(from), numerals);
    if (run.number == 0) return false;
    run.prefix = label.substr(0, from);
    run.numerals = numerals;
    return true;
  };
  const std::string_view tail = label.substr(letters);
  if (digits < label.size() && take(digits, Numerals::decimal)) return;
  if (is_all(tail, "ivxlcdm") && take(letters, Numerals::roman_lower)) return;
  if (is_all(tail, "IVXLCDM") && take(letters, Numerals::roman_upper)) return;
  if (tail.size() == 1 && take(letters, Numerals::letters_lower)) return;
  if (tail.size() == 1 && take(letters, Numerals::letters_upper)) return;
  run = {run.first_page, Numerals::none, std::string(label), 1};
}

std::string_view trimmed(std::string_view text) {
  while (!text.empty() && text.front() == ' ') text.remove_prefix(1);
  while (!text.empty() && text.back() == ' ') text.remove_suffix(1);
  return text;
}

}  // namespace

Result<std::vector<LabelRun>> LabelRun::parse(std::string_view text) {
  std::vector<LabelRun> runs;
  while (!text.empty()) {
    const std::size_t comma = std::min(text.find(','), text.size());
    const std::string_view part = trimmed(text.substr(0, comma));
    text.remove_prefix(std::min(comma + 1, text.size()));
    const std::size_t equals = part.find('=');
    const std::string_view page = trimmed(part.substr(0, std::min(equals, part.size())));
    LabelRun run;
    const auto read = std::from_chars(page.data(), page.data() + page.size(), run.first_page);
    const bool is_page = read.ec == std::errc() && read.ptr == page.data() + page.size() &&
                         run.first_page >= 1 && run.first_page <= kMostPages;
    if (equals == std::string_view::npos || !is_page)
      return Error(ErrorCode::invalid_argument,
                   "'" + std::string(part) +
                       "' is not a page and what it is called; write for example 1=i, 8=1, 90=A-1");
    --run.first_page;
    read_label(trimmed(part.substr(equals + 1)), run);
    runs.push_back(std::move(run));
  }
  return runs;
}

}  // namespace lumvet
