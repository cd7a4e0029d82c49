// SPDX-License-Identifier: Apache-2.0
// Colors of annotations as lists and files write them.
//
// Threads: free functions.
#pragma once

#include <algorithm>
#include <array>
#include <cmath>
#include <string>
#include <string_view>
#include <vector>

namespace lumvet::annotate {

// "#B03020", of gray, red-green-blue or inks.
inline std::string hex_color(const std::vector<double>& parts) {
  std::array<double, 3> rgb{};
  if (parts.size() == 1) rgb = {parts[0], parts[0], parts[0]};
  if (parts.size() == 3) rgb = {parts[0], parts[1], parts[2]};
  if (parts.size() == 4)
    for (std::size_t i = 0; i < 3; ++i) rgb[i] = (1 - parts[i]) * (1 - parts[3]);
  std::string text = "#";
  constexpr std::string_view kDigits = "0123456789ABCDEF";
  for (const double part : rgb) {
    const auto byte = static_cast<std::size_t>(std::lround(std::clamp(part, 0.0, 1.0) * 255));
    text += kDigits[byte / 16];
    text += kDigits[byte % 16];
  }
  return text;
}

}  // namespace lumvet::annotate
