// SPDX-License-Identifier: Apache-2.0
// Numbers as operands of content streams.
#pragma once

#include <cmath>
#include <initializer_list>
#include <string>

#include "objects/serializer.h"

namespace lumvet::objects {

// Each with a blank behind.
inline void append_numbers(std::initializer_list<double> values, std::string& out) {
  for (const double value : values) {
    serialize_number(value, out);
    out += ' ';
  }
}

// The same, no finer than anybody sees.
inline void append_rounded(std::initializer_list<double> values, std::string& out) {
  constexpr double kFine = 1e5;
  for (const double value : values) append_numbers({std::round(value * kFine) / kFine}, out);
}

}  // namespace lumvet::objects
