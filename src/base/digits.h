// SPDX-License-Identifier: Apache-2.0
#pragma once

#include <cstdint>

namespace lumvet {

// 0 to 9 of ASCII, whatever the locale.
constexpr bool is_digit(std::uint8_t byte) { return byte >= '0' && byte <= '9'; }
constexpr bool is_digit(char c) { return c >= '0' && c <= '9'; }

}  // namespace lumvet
