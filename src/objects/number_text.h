// SPDX-License-Identifier: Apache-2.0
// Numbers as operands of content streams.
#pragma once

#include <initializer_list>
#include <string>

#include "objects/serialiser.h"

namespace lumvet::objects {

// Each with a blank behind.
inline void append_numbers(std::initializer_list<double> values, std::string& out) {
  for (const double value : values) {
    serialise_number(value, out);
    out += ' ';
  }
}

}  // namespace lumvet::objects
