// SPDX-License-Identifier: Apache-2.0
// Colors as people write them: "C03028", or with a '#' in front.
#pragma once

#include <array>
#include <string>

#include <lumvet/base/result.h>

namespace tool {

// Red, green, blue from 0 to 1. Errors: invalid_argument.
inline lumvet::Result<std::array<double, 3>> parse_color(const std::string& word) {
  constexpr double kMost = 255;
  const std::string digits = word.starts_with('#') ? word.substr(1) : word;
  if (digits.size() != 6 || digits.find_first_not_of("0123456789abcdefABCDEF") != digits.npos)
    return lumvet::Error(lumvet::ErrorCode::invalid_argument,
                         "'" + word + "' is no color; write RRGGBB, as in C03028");
  std::array<double, 3> color{};
  for (std::size_t i = 0; i < color.size(); ++i)
    color[i] = std::stoi(digits.substr(2 * i, 2), nullptr, 16) / kMost;
  return color;
}

}  // namespace tool
