// SPDX-License-Identifier: Apache-2.0
// What fields of forms ask of their values: numbers, dates, masks, ranges, and sums of other
// fields.
//
//   for (const lumvet::FormField& field : document.form().value().fields)
//     if (const auto format = lumvet::format_of(field))
//       std::cout << lumvet::shown_value(*format, field.value());  // "1,240.50 mm"
//
// Forms state this as scripts that call one of the functions which viewers have built in. A call
// with nothing but numbers and texts in it is read here as data; every other script is left alone,
// and nothing is ever run. Threads: values and free functions. Since: 0.2
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "lumvet/base/export.h"
#include "lumvet/base/result.h"
#include "lumvet/document/form.h"

namespace lumvet {

struct FieldFormat {
  enum class Kind { number, percent, date, time, mask };
  // Between thousands, and before decimals.
  enum class Separators { comma_point, none_point, point_comma, none_comma, apostrophe_point };
  enum class Negative { minus, red, parentheses, red_parentheses };

  Kind kind = Kind::number;
  int decimals = 2;
  Separators separators = Separators::comma_point;
  Negative negative = Negative::minus;
  std::string currency = {};  // " mm"; with the spaces that it needs
  bool currency_is_before = false;
  // Of dates and times "dd.mm.yyyy", "h:MM tt"; of masks 9 for a digit, A for a letter, O for
  // either, X for anything, and other characters for themselves.
  std::string pattern = {};
  bool operator==(const FieldFormat&) const = default;
};

struct FieldRange {
  std::optional<double> least = {};
  std::optional<double> most = {};
  bool operator==(const FieldRange&) const = default;
};

// A value that follows from those of other fields, or of all fields of a group.
struct FieldReckoning {
  enum class How { sum, product, average, least, most };
  How how = How::sum;
  std::vector<std::string> fields = {};  // full names
  bool operator==(const FieldReckoning&) const = default;
};

// Nothing where a field asks for none, or in a way that is no built-in one.
LUMVET_EXPORT std::optional<FieldFormat> format_of(const FormField& field);
LUMVET_EXPORT std::optional<FieldRange> range_of(const FormField& field);
LUMVET_EXPORT std::optional<FieldReckoning> reckoning_of(const FormField& field);
// Whether scripts stand at its events that are none of these.
LUMVET_EXPORT bool has_other_scripts(const FormField& field);

// What a field keeps of what a person or a program writes: numbers with a point and without
// separators ("1240.5", also of "1,240.50 mm"; one point alone always stands before decimals),
// dates and times as the field shows them (also of "2026-04-12", "14:05"), masks with their fixed
// characters. An empty text stays empty. Errors: invalid_argument, with what the field takes.
LUMVET_EXPORT Result<std::string> kept_value(const FieldFormat& format, std::string_view written);
// As people read it; what does not fit the format, as it is.
LUMVET_EXPORT std::string shown_value(const FieldFormat& format, const std::string& kept);
// Whether viewers show it in red.
LUMVET_EXPORT bool is_shown_red(const FieldFormat& format, const std::string& kept);
// Nothing for what is no number, or is none that a form can hold.
LUMVET_EXPORT std::optional<double> number_in(std::string_view text);
// "12.5"; at most ten decimals, without zeros at the end.
LUMVET_EXPORT std::string number_text(double number);

// The calls that say the same in a form: of the events "before the value is shown" and "keystroke",
// "value changed" and "value calculated".
LUMVET_EXPORT std::string show_script(const FieldFormat& format);
LUMVET_EXPORT std::string keystroke_script(const FieldFormat& format);
LUMVET_EXPORT std::string script_of(const FieldRange& range);
LUMVET_EXPORT std::string script_of(const FieldReckoning& reckoning);

}  // namespace lumvet
