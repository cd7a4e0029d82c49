// SPDX-License-Identifier: Apache-2.0
// The paths that marks are made of: smoothed strokes, clouds, the ends of lines.
//
// Threads: free functions.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "lumvet/draw/drawing.h"

namespace lumvet::appearance {

Path polygon(const std::vector<Point>& corners, bool is_closed);
// Through all points, without corners.
Path smooth(const std::vector<Point>& points);
// A closed row of arcs along a polygon, that bulge outward; `strength` from 0 to 2 (12.5.4).
Path cloud(std::vector<Point> corners, double strength);
double cloud_height(double strength);  // by which it is larger than its polygon, in points
std::vector<Point> corners_of(const Rect& r);
std::vector<Point> around_ellipse(const Rect& r);

// What stands at an end of a line (table 179).
struct LineEnd {
  Path shape;
  bool is_filled = false;  // with the interior color
  double shortened = 0;    // by which the line ends before it
};
// `at` is the end, `from` where the line comes from. Nothing for "None" and what is not known.
std::optional<LineEnd> line_end(const std::string& style, Point at, Point from, double width);
// How far such an end reaches around its point.
double line_end_reach(double width);

}  // namespace lumvet::appearance
