// SPDX-License-Identifier: Apache-2.0
// Paths as straight lines.
#pragma once

#include <vector>

#include "lumvet/geometry/path.h"

namespace lumvet::raster {

// How far lines may leave the curves that they stand for, in pixels.
inline constexpr double kTolerance = 0.05;

struct Polyline {
  std::vector<Point> points;  // without the first repeated at the end
  bool closed = false;
};

// Points of a closed line without those that repeat the one before.
std::vector<Point> distinct_points(std::vector<Point> points);

// Curves become lines that stay within `tolerance` of them, after mapping by `placed`.
std::vector<Polyline> flatten(const Path& path, const Matrix& placed, double tolerance);

}  // namespace lumvet::raster
