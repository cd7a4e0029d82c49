// SPDX-License-Identifier: Apache-2.0
#include "document/date_pattern.h"

#include <array>
#include <charconv>

namespace lumvet::document {
namespace {

constexpr std::array<std::string_view, 12> kMonths = {
    "January", "February", "March",     "April",   "May",      "June",
    "July",    "August",   "September", "October", "November", "December"};
constexpr std::array<std::string_view, 7> kDays = {"Sunday",   "Monday", "Tuesday", "Wednesday",
                                                   "Thursday", "Friday", "Saturday"};

char lower(char c) { return c >= 'A' && c <= 'Z' ? static_cast<char>(c - 'A' + 'a') : c; }

bool begins_with(std::string_view text, std::string_view word) {
  if (text.size() < word.size()) return false;
  for (std::size_t i = 0; i < word.size(); ++i)
    if (lower(text[i]) != lower(word[i])) return false;
  return true;
}

// The next part of a pattern: letters of one kind, or one character that stands for itself.
struct Part {
  char kind = 0;  // 0 for itself
  int length = 0;
  char self = 0;
};

Part next_part(std::string_view& pattern) {
  const char first = pattern.front();
  if (first == '\\' && pattern.size() > 1) {
    const Part part{0, 1, pattern[1]};
    pattern.remove_prefix(2);
    return part;
  }
  if (std::string_view("dmyHhMst").find(first) == std::string_view::npos) {
    pattern.remove_prefix(1);
    return {0, 1, first};
  }
  Part part{first, 0, 0};
  while (!pattern.empty() && pattern.front() == first && part.length < 4) {
    ++part.length;
    pattern.remove_prefix(1);
  }
  return part;
}

bool is_leap(int year) { return (year % 4 == 0 && year % 100 != 0) || year % 400 == 0; }

bool is_moment(const Moment& m) {
  constexpr std::array<int, 12> kLengths = {31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31};
  if (m.month < 1 || m.month > 12 || m.year < 0 || m.year > 9999) return false;
  const int length =
      kLengths[static_cast<std::size_t>(m.month - 1)] + (m.month == 2 && is_leap(m.year) ? 1 : 0);
  return m.day >= 1 && m.day <= length && m.hour >= 0 && m.hour < 24 && m.minute >= 0 &&
         m.minute < 60 && m.second >= 0 && m.second < 60;
}

// 0 for Sunday, of the calendar that is in use.
int weekday(const Moment& m) {
  constexpr std::array<int, 12> kShift = {0, 3, 2, 5, 0, 3, 5, 1, 4, 6, 2, 4};
  const int year = m.month < 3 ? m.year - 1 : m.year;
  return (year + year / 4 - year / 100 + year / 400 +
          kShift[static_cast<std::size_t>(m.month - 1)] + m.day) %
         7;
}

class MomentReader {
 public:
  explicit MomentReader(std::string_view text) : text_(text) { moment_.year = 2000; }

  std::optional<Moment> read(std::string_view pattern) {
    while (!pattern.empty()) {
      const Part part = next_part(pattern);
      if (part.kind == 0 ? !takes(part.self) : !read_part(part)) return std::nullopt;
    }
    if (!text_.empty()) return std::nullopt;
    if (is_afternoon_ && moment_.hour < 12) moment_.hour += 12;
    if (is_morning_ && moment_.hour == 12) moment_.hour = 0;
    return is_moment(moment_) ? std::optional(moment_) : std::nullopt;
  }

 private:
  bool takes(char c) {
    if (text_.empty() || text_.front() != c) return false;
    text_.remove_prefix(1);
    return true;
  }

  bool read_part(const Part& part) {
    switch (part.kind) {
      case 'd': {
        if (part.length <= 2) return number(moment_.day, 2);
        int ignored = 0;
        return word(kDays, part.length == 3, ignored);
      }
      case 'm': return part.length <= 2 ? number(moment_.month, 2) : month(part.length == 3);
      case 'y': return year(part.length);
      case 'H':
      case 'h': return number(moment_.hour, 2);
      case 'M': return number(moment_.minute, 2);
      case 's': return number(moment_.second, 2);
      default: return half();
    }
  }

  bool number(int& value, int digits) {
    std::size_t length = 0;
    while (length < text_.size() && length < static_cast<std::size_t>(digits) &&
           text_[length] >= '0' && text_[length] <= '9')
      ++length;
    if (length == 0) return false;
    std::from_chars(text_.data(), text_.data() + length, value);
    text_.remove_prefix(length);
    return true;
  }

  bool year(int length) {
    const std::size_t before = text_.size();
    if (!number(moment_.year, 4)) return false;
    const std::size_t digits = before - text_.size();
    if (digits == 2) moment_.year += moment_.year < 50 ? 2000 : 1900;
    return digits == 2 || (digits == 4 && length != 3);
  }

  bool month(bool is_short) {
    int place = 0;
    if (!word(kMonths, is_short, place)) return false;
    moment_.month = place + 1;
    return true;
  }

  template <std::size_t Count>
  bool word(const std::array<std::string_view, Count>& words, bool is_short, int& place) {
    for (std::size_t i = 0; i < Count; ++i) {
      const std::string_view whole = words[i];
      const std::string_view known = is_short ? whole.substr(0, 3) : whole;
      if (!begins_with(text_, known)) continue;
      text_.remove_prefix(known.size());
      place = static_cast<int>(i);
      return true;
    }
    return false;
  }

  bool half() {
    is_morning_ = begins_with(text_, "am");
    is_afternoon_ = begins_with(text_, "pm");
    if (!is_morning_ && !is_afternoon_) return false;
    text_.remove_prefix(2);
    return true;
  }

  std::string_view text_;
  Moment moment_;
  bool is_morning_ = false;
  bool is_afternoon_ = false;
};

std::string number_text(int value, int digits) {
  std::string text = std::to_string(value);
  if (static_cast<int>(text.size()) < digits)
    text.insert(0, static_cast<std::size_t>(digits) - text.size(), '0');
  return text;
}

}  // namespace

std::optional<Moment> read_moment(std::string_view text, std::string_view pattern) {
  return MomentReader(text).read(pattern);
}

std::string moment_text(const Moment& m, std::string_view pattern) {
  std::string text;
  while (!pattern.empty()) {
    const Part part = next_part(pattern);
    const int digits = part.length > 1 ? 2 : 1;
    const int hour = m.hour % 12 == 0 ? 12 : m.hour % 12;
    const auto named = [&](std::string_view word) {
      text += part.length == 3 ? word.substr(0, 3) : word;
    };
    switch (part.kind) {
      case 0: text += part.self; break;
      case 'd':
        if (part.length > 2)
          named(kDays[static_cast<std::size_t>(weekday(m))]);
        else
          text += number_text(m.day, digits);
        break;
      case 'm':
        if (part.length > 2)
          named(kMonths[static_cast<std::size_t>(m.month - 1)]);
        else
          text += number_text(m.month, digits);
        break;
      case 'y':
        text += part.length > 2 ? number_text(m.year, 4) : number_text(m.year % 100, 2);
        break;
      case 'H': text += number_text(m.hour, digits); break;
      case 'h': text += number_text(hour, digits); break;
      case 'M': text += number_text(m.minute, digits); break;
      case 's': text += number_text(m.second, digits); break;
      default: text += m.hour < 12 ? "am" : "pm"; break;
    }
  }
  return text;
}

}  // namespace lumvet::document
