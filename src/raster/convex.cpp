// SPDX-License-Identifier: Apache-2.0
#include "raster/convex.h"

#include <algorithm>
#include <utility>

namespace lumvet::raster {
namespace {

// Positive on the inner side of the line from `a` to `b`.
double side_of(Point p, Point a, Point b) {
  return (b.x - a.x) * (p.y - a.y) - (b.y - a.y) * (p.x - a.x);
}

}  // namespace

std::vector<Point> convex_corners(const std::vector<Polyline>& lines) {
  if (lines.size() != 1) return {};
  std::vector<Point> corners = distinct_points(lines[0].points);
  const std::size_t count = corners.size();
  if (count < 3) return {};
  double area = 0;
  double least = 0;
  double most = 0;
  int turns_across = 0;  // changes between going right and going left
  bool goes_right = corners[0].x >= corners[count - 1].x;
  for (std::size_t i = 0; i < count; ++i) {
    const Point a = corners[i];
    const Point b = corners[(i + 1) % count];
    const double turn = side_of(corners[(i + 2) % count], a, b);
    least = std::min(least, turn);
    most = std::max(most, turn);
    area += a.x * b.y - a.y * b.x;
    if (a.x == b.x) continue;
    turns_across += (b.x > a.x) != goes_right ? 1 : 0;
    goes_right = b.x > a.x;
  }
  // What turns one way but goes around more than once is not convex.
  if (area == 0 || (least < 0 && most > 0) || turns_across > 3) return {};
  if (area < 0) std::reverse(corners.begin(), corners.end());
  return corners;
}

// By Sutherland and Hodgman: along one side of the convex outline after the other.
std::vector<Polyline> cut_by_convex(std::vector<Polyline> lines,
                                    const std::vector<Point>& corners) {
  std::vector<Point> kept;
  for (Polyline& line : lines)
    for (std::size_t i = 0; i < corners.size() && !line.points.empty(); ++i) {
      const Point a = corners[i];
      const Point b = corners[(i + 1) % corners.size()];
      kept.clear();
      Point from = line.points.back();
      double from_side = side_of(from, a, b);
      for (const Point to : line.points) {
        const double to_side = side_of(to, a, b);
        if ((from_side < 0) != (to_side < 0)) {
          const double part = from_side / (from_side - to_side);
          kept.push_back({from.x == to.x ? to.x : from.x + part * (to.x - from.x),
                          from.y == to.y ? to.y : from.y + part * (to.y - from.y)});
        }
        if (to_side >= 0) kept.push_back(to);
        from = to;
        from_side = to_side;
      }
      std::swap(line.points, kept);
    }
  std::erase_if(lines, [](const Polyline& line) { return line.points.size() < 3; });
  return lines;
}

}  // namespace lumvet::raster
