// SPDX-License-Identifier: Apache-2.0
// What items of lists begin with: bullets, numbers and letters.
//
// Threads: free functions.
#pragma once

#include <cstddef>
#include <optional>
#include <string_view>

namespace lumvet::text {

struct ListMarker {
  enum class Kind { bullet, number, letter };

  Kind kind = Kind::bullet;
  int number = 1;          // that it says
  std::size_t length = 0;  // bytes, with the white space behind it
};

// Of a line; nothing where it begins with none, or says nothing behind it.
std::optional<ListMarker> list_marker(std::string_view line);

}  // namespace lumvet::text
