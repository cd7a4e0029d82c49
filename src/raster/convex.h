// SPDX-License-Identifier: Apache-2.0
// Cutting outlines by convex ones, exactly.
// Threads: functions of values.
#pragma once

#include <vector>

#include "raster/polyline.h"

namespace lumvet::raster {

// Corners of one closed line that is convex, in the direction in which the inside is where
// cross products are positive; nothing when the lines are something else or have no area.
std::vector<Point> convex_corners(const std::vector<Polyline>& lines);

// What of the lines' inside lies inside of `corners` as well. Pieces that are apart may stay joined
// by lines that run there and back, which cover nothing.
std::vector<Polyline> cut_by_convex(std::vector<Polyline> lines, const std::vector<Point>& corners);

}  // namespace lumvet::raster
