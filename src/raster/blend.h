// SPDX-License-Identifier: Apache-2.0
// Colours over pixels: the "source over" of premultiplied 8-bit channels, rounded to nearest.
#pragma once

#include <cstdint>

namespace lumvet::raster {

// x / 255, rounded, for x up to 255 * 255.
inline unsigned div255(unsigned x) {
  x += 128;
  return (x + (x >> 8)) >> 8;
}

inline void blend_pixel(std::uint8_t* pixel, unsigned red, unsigned green, unsigned blue,
                        unsigned alpha) {
  const unsigned rest = 255 - alpha;
  pixel[0] = static_cast<std::uint8_t>(div255(red * alpha) + div255(pixel[0] * rest));
  pixel[1] = static_cast<std::uint8_t>(div255(green * alpha) + div255(pixel[1] * rest));
  pixel[2] = static_cast<std::uint8_t>(div255(blue * alpha) + div255(pixel[2] * rest));
  pixel[3] = static_cast<std::uint8_t>(alpha + div255(pixel[3] * rest));
}

// A pixel whose colours are already multiplied, made fainter by `alpha` first.
inline void blend_premultiplied(std::uint8_t* pixel, const std::uint8_t* source, unsigned alpha) {
  const unsigned source_alpha = div255(source[3] * alpha);
  const unsigned rest = 255 - source_alpha;
  for (int i = 0; i < 3; ++i)
    pixel[i] = static_cast<std::uint8_t>(div255(source[i] * alpha) + div255(pixel[i] * rest));
  pixel[3] = static_cast<std::uint8_t>(source_alpha + div255(pixel[3] * rest));
}

}  // namespace lumvet::raster
