// SPDX-License-Identifier: Apache-2.0
// How colors go over what is below (ISO 32000-2, 11.3.5).
//
// Threads: values. Since: 0.2
#pragma once

namespace lumvet {

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

}  // namespace lumvet
