// SPDX-License-Identifier: Apache-2.0
// How opaque the edges of letters are made, so that a pixel that is half covered gives half of the
// light: a screen's light goes with a power of the values it is sent.
//
// Threads: immutable, share freely.
#pragma once

#include <array>
#include <cstdint>

namespace lumvet::raster {

class ScreenGamma {
 public:
  // The power, kept between 0.5 and 3; with 1 everything stays as it is.
  explicit ScreenGamma(double gamma);

  // The opacity for each coverage, 0 to 255, of letters of a luminance from 0 to 255. They are
  // taken to stand on their opposite: the dark ones on what is light.
  const std::array<std::uint8_t, 256>& opacities(unsigned luminance) const {
    return tables_[(luminance + kStep / 2) / kStep];
  }

 private:
  static constexpr unsigned kStep = 15;  // of luminance, from one table to the next
  std::array<std::array<std::uint8_t, 256>, 255 / kStep + 1> tables_{};
};

}  // namespace lumvet::raster
