// SPDX-License-Identifier: Apache-2.0
// What colours are without their colour.
//
// Threads: a free function.
#pragma once

namespace lumvet {

// The part of light that a colour gives to grey (ISO 32000-2, 10.4.2.2), from 0 to 255 as its
// components.
constexpr unsigned luminance(unsigned red, unsigned green, unsigned blue) {
  return (red * 77 + green * 151 + blue * 28 + 128) >> 8;
}

}  // namespace lumvet
