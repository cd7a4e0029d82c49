// SPDX-License-Identifier: Apache-2.0
// Characters that take a square each, as Chinese, Japanese and Korean ones do.
//
// Threads: free functions.
#pragma once

#include <string_view>

#include "objects/text_string.h"

namespace lumvet::text {

inline bool is_wide(char32_t c) {
  return (c >= 0x2E80 && c < 0xA4D0) || (c >= 0xAC00 && c < 0xD7B0) ||
         (c >= 0xF900 && c < 0xFB00) || (c >= 0xFE30 && c < 0xFE50) ||
         (c >= 0xFF00 && c < 0xFFF0) || (c >= 0x20000 && c < 0x40000);
}

// 0 for none.
inline char32_t first_of(std::string_view characters) {
  std::size_t at = 0;
  return characters.empty() ? 0 : objects::next_code_point(characters, at);
}

}  // namespace lumvet::text
