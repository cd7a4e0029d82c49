// SPDX-License-Identifier: Apache-2.0
// Where two pictures of one size differ.
//
// Threads: free functions.
#pragma once

#include <vector>

#include "lumvet/raster/raster.h"

namespace lumvet::compare {

// In pixels.
struct PixelBox {
  int left = 0;
  int top = 0;
  int right = 0;   // beyond the last
  int bottom = 0;  // beyond the last
};

// Boxes around what differs by more than so many levels in any part of a color; what lies close
// together is in one box, none overlap, and there are at most 200. Both have one size and format,
// of 8 bits a part.
std::vector<PixelBox> different_places(const Raster& before, const Raster& after, int tolerance);

}  // namespace lumvet::compare
