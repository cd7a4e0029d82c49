// SPDX-License-Identifier: Apache-2.0
// How a colour mixes with what is below it (ISO 32000-2, 11.3.5), in red, green and blue from 0 to
// 255.
//
// Threads: free functions.
#pragma once

#include <array>
#include <cstdint>
#include <optional>
#include <string_view>

namespace lumvet::color {

// In the order of tables 134 and 135.
enum class BlendMode {
  normal,
  multiply,
  screen,
  overlay,
  darken,
  lighten,
  color_dodge,
  color_burn,
  hard_light,
  soft_light,
  difference,
  exclusion,
  hue,
  saturation,
  color,
  luminosity,
};

// By the standard's name, "Multiply"; "Compatible" is normal; nothing for others.
std::optional<BlendMode> blend_mode_named(std::string_view name);

using Rgb8 = std::array<std::uint8_t, 3>;

// B(backdrop, source).
Rgb8 blend(BlendMode mode, const Rgb8& backdrop, const Rgb8& source);

}  // namespace lumvet::color
