// SPDX-License-Identifier: Apache-2.0
// Images that look as if somebody had taken them, computed from nothing.
#pragma once

#include "lumvet/raster/raster.h"

namespace demo {

struct Photo {
  int width = 0;
  int height = 0;
  lumvet::Bytes rgb;
};

// A footbridge over a river in the hills; `seed` varies hills, light and water.
Photo bridge_photo(int width, int height, unsigned seed);

// A round seal with a soft border, as rows of red, green, blue and alpha.
struct Seal {
  int size = 0;
  lumvet::Bytes rgba;
};
Seal make_seal(int size);

// The raster as it would come from a scanner: slightly turned, grained, darker to the edges.
lumvet::Bytes scanned_gray(const lumvet::Raster& sheet, double degrees, unsigned seed);

lumvet::Bytes to_jpeg(const lumvet::Bytes& samples, int width, int height, int channels,
                      int quality);

}  // namespace demo
