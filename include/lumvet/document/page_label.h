// SPDX-License-Identifier: Apache-2.0
// What is printed on pages as their number (ISO 32000-2, 12.4.2).
//
// Threads: values. Since: 0.2
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "lumvet/base/export.h"
#include "lumvet/base/result.h"

namespace lumvet {

enum class Numerals {
  none,  // the prefix alone
  decimal,
  roman_upper,  // IV
  roman_lower,
  letters_upper,  // A to Z, then AA to ZZ
  letters_lower,
};

// Pages that are numbered on, up to where the next run begins.
struct LabelRun {
  int first_page = 0;  // from 0
  Numerals numerals = Numerals::decimal;
  std::string prefix = {};  // UTF-8
  int number = 1;           // of the first page
  bool operator==(const LabelRun&) const = default;

  // By examples: "1=Cover, 2=i, 8=1, 90=A-1" calls page 1 "Cover", numbers from page 2 on i, ii,
  // iii, from page 8 on 1, 2, 3, and from page 90 on. Errors: invalid_argument.
  LUMVET_EXPORT static Result<std::vector<LabelRun>> parse(std::string_view text);
};

}  // namespace lumvet
