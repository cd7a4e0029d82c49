// SPDX-License-Identifier: Apache-2.0
// Where something stands in a text that a person wrote.
//
// Threads: free functions.
#pragma once

#include <algorithm>
#include <string>
#include <string_view>

namespace lumvet {

// "line 3, column 12", from a byte on.
inline std::string text_place(std::string_view text, std::size_t byte) {
  byte = std::min(byte, text.size());
  const std::string_view before = text.substr(0, byte);
  const auto line = std::count(before.begin(), before.end(), '\n') + 1;
  const std::size_t begin =
      before.rfind('\n') == std::string_view::npos ? 0 : before.rfind('\n') + 1;
  const auto column = std::count_if(before.begin() + static_cast<std::ptrdiff_t>(begin),
                                    before.end(), [](char c) { return (c & 0xC0) != 0x80; });
  return "line " + std::to_string(line) + ", column " + std::to_string(column + 1);
}

}  // namespace lumvet
