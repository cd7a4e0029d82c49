// SPDX-License-Identifier: Apache-2.0
// Bytes as pairs of hexadecimal digits, as XFDF has them.
//
// Threads: free functions.
#pragma once

#include <optional>
#include <string>

#include "objects/lexer.h"
#include "objects/serializer.h"

namespace lumvet::exchange {

inline std::string as_hex(ByteView bytes) {
  std::string digits;
  digits.reserve(2 * bytes.size());
  objects::append_hex(as_text(bytes), digits);
  return digits;
}

// White space may stand anywhere; nothing for what is no such pairs.
inline std::optional<Bytes> bytes_of_hex(std::string_view hex) {
  Bytes bytes;
  bytes.reserve(hex.size() / 2);
  int high = -1;
  for (const char c : hex) {
    const int digit = objects::hex_digit(static_cast<std::uint8_t>(c));
    if (digit < 0) {
      if (std::string_view(" \t\r\n").find(c) == std::string_view::npos) return std::nullopt;
      continue;
    }
    if (high < 0) {
      high = digit;
      continue;
    }
    bytes.push_back(static_cast<std::uint8_t>(high * 16 + digit));
    high = -1;
  }
  return high < 0 ? std::optional(std::move(bytes)) : std::nullopt;
}

}  // namespace lumvet::exchange
