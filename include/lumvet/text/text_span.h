// SPDX-License-Identifier: Apache-2.0
// A part of a text, such as a page's: what is found, or selected.
//
// Threads: a value. Since: 0.2
#pragma once

#include <cstddef>

namespace lumvet {

struct TextSpan {
  std::size_t begin = 0;  // bytes
  std::size_t end = 0;    // one behind the last
  bool operator==(const TextSpan&) const = default;
};

}  // namespace lumvet
