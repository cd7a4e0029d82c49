// SPDX-License-Identifier: Apache-2.0
#include "lumvet/document/field_format.h"

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>

#include "base/digits.h"
#include "document/date_pattern.h"
#include "document/script_call.h"

namespace lumvet {
namespace {

using document::Moment;
using document::read_moment;
using document::ScriptCall;
using Kind = FieldFormat::Kind;
using Separators = FieldFormat::Separators;
using How = FieldReckoning::How;

constexpr double kLargest = 1e15;
constexpr std::string_view kShown = "before the value is shown";
constexpr std::string_view kKeystroke = "keystroke";
constexpr std::string_view kChanged = "value changed";
constexpr std::string_view kReckoned = "value calculated";

constexpr std::array<std::string_view, 14> kDatePatterns = {
    "m/d",         "m/d/yy",       "mm/dd/yy",       "mm/yy",       "d-mmm",
    "d-mmm-yy",    "dd-mmm-yy",    "yy-mm-dd",       "mmm-yy",      "mmmm-yy",
    "mmm d, yyyy", "mmmm d, yyyy", "m/d/yy h:MM tt", "m/d/yy HH:MM"};
constexpr std::array<std::string_view, 4> kTimePatterns = {"HH:MM", "h:MM tt", "HH:MM:ss",
                                                           "h:MM:ss tt"};
constexpr std::array<std::string_view, 4> kMasks = {"99999", "99999-9999", "(999) 999-9999",
                                                    "999-99-9999"};
constexpr std::array<std::pair<std::string_view, How>, 5> kHow = {{{"SUM", How::sum},
                                                                   {"PRD", How::product},
                                                                   {"AVG", How::average},
                                                                   {"MIN", How::least},
                                                                   {"MAX", How::most}}};

// The calls at an event, of the scripts that are nothing else.
std::vector<ScriptCall> calls_at(const FormField& field, std::string_view event) {
  std::vector<ScriptCall> calls;
  for (const Trigger& trigger : field.triggers)
    if (trigger.event == event)
      for (const Action& action : trigger.actions)
        if (auto call = document::read_script_call(action.target))
          calls.push_back(*std::move(call));
  return calls;
}

// Which of some things a number counts, from 0; the first for what is none of them.
std::size_t counted(const ScriptCall& call, std::size_t place, std::size_t count) {
  const double number = call.at<double>(place, 0);
  return number >= 0 && number < static_cast<double>(count) ? static_cast<std::size_t>(number) : 0;
}

std::optional<FieldFormat> format_in(const ScriptCall& call) {
  FieldFormat format;
  const std::string& name = call.function;
  const auto is = [&](const char* stem) {
    return name == std::string(stem) + "_Format" || name == std::string(stem) + "_Keystroke";
  };
  const auto is_patterned = [&](const char* stem) {
    return name == std::string(stem) + "_FormatEx" || name == std::string(stem) + "_KeystrokeEx";
  };
  const auto with_pattern = [&](Kind kind, std::string_view pattern) -> std::optional<FieldFormat> {
    format.kind = kind;
    format.pattern = pattern;
    if (pattern.empty()) return std::nullopt;
    return format;
  };
  if (is("AFNumber") || is("AFPercent")) {
    format.kind = is("AFNumber") ? Kind::number : Kind::percent;
    format.decimals = static_cast<int>(std::clamp(call.at<double>(0, 2), 0.0, 10.0));
    format.separators = static_cast<Separators>(counted(call, 1, 5));
    if (format.kind == Kind::percent) return format;
    format.negative = static_cast<FieldFormat::Negative>(counted(call, 2, 4));
    format.currency = call.at<std::string>(4, {});
    format.currency_is_before = call.at<bool>(5, false);
    return format;
  }
  if (is_patterned("AFDate")) return with_pattern(Kind::date, call.at<std::string>(0, {}));
  if (is("AFDate")) return with_pattern(Kind::date, kDatePatterns[counted(call, 0, 14)]);
  if (is_patterned("AFTime")) return with_pattern(Kind::time, call.at<std::string>(0, {}));
  if (is("AFTime")) return with_pattern(Kind::time, kTimePatterns[counted(call, 0, 4)]);
  if (is_patterned("AFSpecial")) return with_pattern(Kind::mask, call.at<std::string>(0, {}));
  if (is("AFSpecial")) return with_pattern(Kind::mask, kMasks[counted(call, 0, 4)]);
  return std::nullopt;
}

std::optional<FieldRange> range_in(const ScriptCall& call) {
  if (call.function != "AFRange_Validate") return std::nullopt;
  FieldRange range;
  if (call.at<bool>(0, false)) range.least = call.at<double>(1, 0);
  if (call.at<bool>(2, false)) range.most = call.at<double>(3, 0);
  return range;
}

std::optional<FieldReckoning> reckoning_in(const ScriptCall& call) {
  if (call.function != "AFSimple_Calculate") return std::nullopt;
  const std::string how = call.at<std::string>(0, {});
  for (const auto& [name, known] : kHow)
    if (how == name) return FieldReckoning{known, call.at<ScriptCall::Texts>(1, {})};
  return std::nullopt;
}

template <typename T>
std::optional<T> first_of(const std::vector<ScriptCall>& calls,
                          std::optional<T> (*read)(const ScriptCall&)) {
  for (const ScriptCall& call : calls)
    if (std::optional<T> found = read(call)) return found;
  return std::nullopt;
}

bool takes_points(Separators separators) {
  return separators == Separators::comma_point || separators == Separators::none_point ||
         separators == Separators::apostrophe_point;
}

// Without what stands around a number: its currency, spaces, a sign of percent, parentheses.
std::string bare_number(const FieldFormat& format, std::string_view written) {
  std::string text(written);
  const auto without = [&](std::string_view part) {
    if (const std::size_t at = text.find(part); !part.empty() && at != std::string::npos)
      text.erase(at, part.size());
  };
  std::string_view currency = format.currency;
  while (!currency.empty() && currency.front() == ' ') currency.remove_prefix(1);
  while (!currency.empty() && currency.back() == ' ') currency.remove_suffix(1);
  without(currency);
  std::string bare;
  bool is_negative = false;
  for (const char c : text) {
    if (c == ' ' || c == ')') continue;
    if (c == '(')
      is_negative = true;
    else if (c != '\'' || format.separators != Separators::apostrophe_point)
      bare += c;
  }
  if (format.kind == Kind::percent && bare.ends_with('%')) bare.pop_back();
  return (is_negative ? "-" : "") + bare;
}

// Groups of three digits behind the first separator, up to the end of the whole part.
bool is_grouped(std::string_view text, char separator) {
  std::size_t at = text.find(separator);
  while (at < text.size() && text[at] == separator) {
    std::size_t digits = 0;
    while (at + 1 + digits < text.size() && is_digit(text[at + 1 + digits])) ++digits;
    if (digits != 3) return false;
    at += 4;
  }
  return text.find(separator, at) == std::string_view::npos;
}

std::optional<double> written_number(const FieldFormat& format, std::string_view written) {
  std::string text = bare_number(format, written);
  if (auto number = number_in(text)) return number;
  const char point = takes_points(format.separators) ? '.' : ',';
  const char group = point == '.' ? ',' : '.';
  if (text.find(group) != std::string::npos && !is_grouped(text, group)) return std::nullopt;
  std::erase(text, group);
  std::replace(text.begin(), text.end(), ',', '.');
  return number_in(text);
}

Result<std::string> kept_number(const FieldFormat& format, std::string_view written) {
  auto number = written_number(format, written);
  if (!number)
    return Error(ErrorCode::invalid_argument, "takes a number, such as " +
                                                  shown_value(format, "1234.5") + "; '" +
                                                  std::string(written) + "' is none");
  if (format.kind == Kind::percent && written.find('%') != std::string_view::npos) *number /= 100;
  return number_text(*number);
}

std::optional<Moment> written_moment(const FieldFormat& format, std::string_view written) {
  if (auto moment = read_moment(written, format.pattern)) return moment;
  const std::vector<std::string_view> usual =
      format.kind == Kind::date
          ? std::vector<std::string_view>{"yyyy-mm-dd", "yyyy-mm-dd HH:MM", "yyyy-mm-ddTHH:MM:ss"}
          : std::vector<std::string_view>{"HH:MM", "HH:MM:ss"};
  for (const std::string_view pattern : usual)
    if (auto moment = read_moment(written, pattern)) return moment;
  return std::nullopt;
}

bool is_placeholder(char c) { return c == '9' || c == 'A' || c == 'O' || c == 'X'; }

bool fits(char place, char c) {
  const bool is_letter = (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z');
  switch (place) {
    case '9': return is_digit(c);
    case 'A': return is_letter;
    case 'O': return is_letter || is_digit(c);
    default: return true;
  }
}

// With the fixed characters of the mask, which may be left out when it is written.
std::optional<std::string> masked(std::string_view mask, std::string_view written) {
  std::string text;
  std::size_t at = 0;
  for (const char place : mask) {
    if (!is_placeholder(place)) {
      text += place;
      if (at < written.size() && written[at] == place) ++at;
      continue;
    }
    if (at >= written.size() || !fits(place, written[at])) return std::nullopt;
    text += written[at++];
  }
  return at == written.size() ? std::optional(text) : std::nullopt;
}

std::string shown_number(const FieldFormat& format, double number) {
  if (format.kind == Kind::percent) number *= 100;
  std::array<char, 64> digits{};
  const auto written = std::to_chars(digits.data(), digits.data() + digits.size(), std::abs(number),
                                     std::chars_format::fixed, format.decimals);
  const std::string_view plain(digits.data(),
                               static_cast<std::size_t>(written.ptr - digits.data()));
  const std::size_t whole = std::min(plain.find('.'), plain.size());
  const bool has_groups =
      format.separators != Separators::none_point && format.separators != Separators::none_comma;
  const char group = format.separators == Separators::comma_point   ? ','
                     : format.separators == Separators::point_comma ? '.'
                                                                    : '\'';
  std::string text;
  for (std::size_t i = 0; i < whole; ++i) {
    if (has_groups && i > 0 && (whole - i) % 3 == 0) text += group;
    text += plain[i];
  }
  if (whole < plain.size())
    text += (takes_points(format.separators) ? "." : ",") + std::string(plain.substr(whole + 1));
  text = format.currency_is_before ? format.currency + text : text + format.currency;
  if (format.kind == Kind::percent) text += " %";
  const bool is_zero = plain.find_first_of("123456789") == std::string_view::npos;
  if (number >= 0 || is_zero) return text;
  using Negative = FieldFormat::Negative;
  switch (format.negative) {
    case Negative::minus: return "-" + text;
    case Negative::red: return text;
    default: return "(" + text + ")";
  }
}

std::string call_of(const FieldFormat& format, const char* what) {
  const std::string end = std::string(what) + "(";
  switch (format.kind) {
    case Kind::number:
    case Kind::percent: {
      std::string call = (format.kind == Kind::number ? "AFNumber_" : "AFPercent_") + end +
                         std::to_string(format.decimals) + ", " +
                         std::to_string(static_cast<int>(format.separators));
      if (format.kind == Kind::number)
        call += ", " + std::to_string(static_cast<int>(format.negative)) + ", 0, " +
                document::script_text(format.currency) +
                (format.currency_is_before ? ", true" : ", false");
      return call + ");";
    }
    default: {
      const char* stem = format.kind == Kind::date   ? "AFDate_"
                         : format.kind == Kind::time ? "AFTime_"
                                                     : "AFSpecial_";
      return std::string(stem) + what + "Ex(" + document::script_text(format.pattern) + ");";
    }
  }
}

}  // namespace

std::optional<FieldFormat> format_of(const FormField& field) {
  if (auto shown = first_of(calls_at(field, kShown), format_in)) return shown;
  return first_of(calls_at(field, kKeystroke), format_in);
}
std::optional<FieldRange> range_of(const FormField& field) {
  return first_of(calls_at(field, kChanged), range_in);
}
std::optional<FieldReckoning> reckoning_of(const FormField& field) {
  return first_of(calls_at(field, kReckoned), reckoning_in);
}

bool has_other_scripts(const FormField& field) {
  for (const Trigger& trigger : field.triggers)
    for (const Action& action : trigger.actions) {
      if (action.kind != Action::Kind::script) continue;
      const auto call = document::read_script_call(action.target);
      if (!call || (!format_in(*call) && !range_in(*call) && !reckoning_in(*call))) return true;
    }
  return false;
}

Result<std::string> kept_value(const FieldFormat& format, std::string_view written) {
  if (written.empty()) return std::string();
  if (format.kind == Kind::number || format.kind == Kind::percent)
    return kept_number(format, written);
  const auto takes = [&](const std::string& what) {
    return Error(ErrorCode::invalid_argument,
                 "takes " + what + "; '" + std::string(written) + "' is none");
  };
  if (format.kind == Kind::mask) {
    const auto text = masked(format.pattern, written);
    if (!text) return takes("a text of the form " + format.pattern);
    return *text;
  }
  const auto moment = written_moment(format, written);
  if (!moment) {
    const Moment example{2026, 4, 12, 14, 5, 0};
    return takes((format.kind == Kind::date ? "a date, such as " : "a time, such as ") +
                 document::moment_text(example, format.pattern));
  }
  return document::moment_text(*moment, format.pattern);
}

std::string shown_value(const FieldFormat& format, const std::string& kept) {
  if (kept.empty() || (format.kind != Kind::number && format.kind != Kind::percent)) return kept;
  const auto number = written_number(format, kept);
  return number ? shown_number(format, *number) : kept;
}

bool is_shown_red(const FieldFormat& format, const std::string& kept) {
  using Negative = FieldFormat::Negative;
  if (format.kind != Kind::number) return false;
  if (format.negative != Negative::red && format.negative != Negative::red_parentheses)
    return false;
  return written_number(format, kept).value_or(0) < 0;
}

std::optional<double> number_in(std::string_view text) {
  if (text.starts_with('+')) text.remove_prefix(1);
  if (text.empty() || text.find_first_of("eEnN") != std::string_view::npos) return std::nullopt;
  double number = 0;
  const auto read = std::from_chars(text.data(), text.data() + text.size(), number);
  if (read.ec != std::errc() || read.ptr != text.data() + text.size()) return std::nullopt;
  return std::abs(number) <= kLargest ? std::optional(number) : std::nullopt;
}

std::string number_text(double number) {
  std::array<char, 64> digits{};
  const auto written = std::to_chars(digits.data(), digits.data() + digits.size(), number,
                                     std::chars_format::fixed, 10);
  std::string text(digits.data(), written.ptr);
  while (text.ends_with('0')) text.pop_back();
  if (text.ends_with('.')) text.pop_back();
  return text == "-0" ? "0" : text;
}

std::string show_script(const FieldFormat& format) { return call_of(format, "Format"); }
std::string keystroke_script(const FieldFormat& format) { return call_of(format, "Keystroke"); }

std::string script_of(const FieldRange& range) {
  const auto side = [](const std::optional<double>& bound) {
    return (bound ? "true, " : "false, ") + number_text(bound.value_or(0));
  };
  return "AFRange_Validate(" + side(range.least) + ", " + side(range.most) + ");";
}

std::string script_of(const FieldReckoning& reckoning) {
  std::string names;
  for (const std::string& name : reckoning.fields)
    names += (names.empty() ? "" : ", ") + document::script_text(name);
  std::string_view how;
  for (const auto& [name, known] : kHow)
    if (known == reckoning.how) how = name;
  return "AFSimple_Calculate(" + document::script_text(how) + ", new Array(" + names + "));";
}

}  // namespace lumvet
