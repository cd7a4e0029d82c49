// SPDX-License-Identifier: Apache-2.0
// What colors are without their color.
//
// Threads: a free function.
#pragma once

namespace lumvet {

// The part of light that a color gives to gray (ISO 32000-2, 10.4.2.2), from 0 to 255 as its
// components.
constexpr unsigned luminance(unsigned red, unsigned green, unsigned blue) {
  return (red * 77 + green * 151 + blue * 28 + 128) >> 8;
}

}  // namespace lumvet
