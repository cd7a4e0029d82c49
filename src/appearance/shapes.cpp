// SPDX-License-Identifier: Apache-2.0
#include "appearance/shapes.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace lumvet::appearance {
namespace {

double length(Point p) { return std::hypot(p.x, p.y); }
Point scaled(Point p, double by) { return {p.x * by, p.y * by}; }
Point sum(Point a, Point b) { return {a.x + b.x, a.y + b.y}; }

double area_of(const std::vector<Point>& corners) {
  double twice = 0;
  for (std::size_t i = 0; i < corners.size(); ++i) {
    const Point a = corners[i];
    const Point b = corners[(i + 1) % corners.size()];
    twice += a.x * b.y - b.x * a.y;
  }
  return twice / 2;
}

// Of a line's end: how large its shape is, for a line so wide.
double end_size(double width) { return 4 + 2.5 * width; }

}  // namespace

Path polygon(const std::vector<Point>& corners, bool is_closed) {
  Path path;
  for (std::size_t i = 0; i < corners.size(); ++i)
    if (i == 0)
      path.move_to(corners[i]);
    else
      path.line_to(corners[i]);
  if (is_closed && !corners.empty()) path.close();
  return path;
}

// A cubic through each two points, along the way from the one before them to the one behind them.
Path smooth(const std::vector<Point>& points) {
  if (points.size() < 3) return polygon(points, false);
  Path path;
  path.move_to(points[0]);
  constexpr double kSixth = 1.0 / 6;
  for (std::size_t i = 0; i + 1 < points.size(); ++i) {
    const Point before = points[i > 0 ? i - 1 : 0];
    const Point after = points[std::min(i + 2, points.size() - 1)];
    path.curve_to(sum(points[i], scaled(points[i + 1] - before, kSixth)),
                  sum(points[i + 1], scaled(after - points[i], -kSixth)), points[i + 1]);
  }
  return path;
}

double cloud_height(double strength) { return 4 * std::max(strength, 0.25); }

Path cloud(std::vector<Point> corners, double strength) {
  if (corners.size() < 3) return polygon(corners, true);
  if (area_of(corners) < 0) std::reverse(corners.begin(), corners.end());
  const double height = cloud_height(strength);
  Path path;
  path.move_to(corners[0]);
  int arcs_left = 20'000;
  for (std::size_t i = 0; i < corners.size(); ++i) {
    const Point from = corners[i];
    const Point way = corners[(i + 1) % corners.size()] - from;
    const double whole = length(way);
    if (!(whole > 0)) continue;
    constexpr double kMostArcs = 2000;
    const double wanted = std::clamp(std::round(whole / (2.2 * height)), 1.0, kMostArcs);
    const int count = std::min(static_cast<int>(wanted), arcs_left);
    arcs_left -= count;
    if (count == 0) path.line_to(sum(from, way));
    // To the right of the way, which is outside.
    const Point outward = scaled({way.y, -way.x}, height * 4 / 3 / whole);
    for (int arc = 0; arc < count; ++arc) {
      const auto at = [&](int place) {
        return sum(from, scaled(way, static_cast<double>(place) / count));
      };
      const Point a = at(arc);
      const Point b = at(arc + 1);
      path.curve_to(sum(a, outward), sum(b, outward), b);
    }
  }
  path.close();
  return path;
}

std::vector<Point> corners_of(const Rect& r) {
  return {{r.left, r.bottom}, {r.right, r.bottom}, {r.right, r.top}, {r.left, r.top}};
}

std::vector<Point> around_ellipse(const Rect& r) {
  constexpr int kCorners = 24;
  std::vector<Point> corners;
  for (int i = 0; i < kCorners; ++i) {
    const double angle = 2 * std::numbers::pi * i / kCorners;
    corners.push_back({(r.left + r.right + r.width() * std::cos(angle)) / 2,
                       (r.bottom + r.top + r.height() * std::sin(angle)) / 2});
  }
  return corners;
}

double line_end_reach(double width) { return end_size(width) * 1.3 + width; }

std::optional<LineEnd> line_end(const std::string& style, Point at, Point from, double width) {
  const Point way = at - from;
  const double whole = length(way);
  const double size = end_size(width);
  // In a space in which the line comes from the left.
  const Point ahead = whole > 0 ? scaled(way, 1 / whole) : Point{1, 0};
  const Matrix there{ahead.x, ahead.y, -ahead.y, ahead.x, at.x, at.y};
  const auto made = [&](const std::vector<Point>& corners, bool is_closed, double shortened) {
    return LineEnd{polygon(corners, is_closed).transformed(there), is_closed, shortened};
  };
  const double half = size / 2;
  if (style == "Square")
    return made({{-half, -half}, {half, -half}, {half, half}, {-half, half}}, true, half);
  if (style == "Diamond") return made({{-half, 0}, {0, -half}, {half, 0}, {0, half}}, true, half);
  if (style == "Circle")
    return LineEnd{ellipse({-half, -half, size, size}).transformed(there), true, half};
  if (style == "OpenArrow") return made({{-size, half}, {0, 0}, {-size, -half}}, false, 0);
  if (style == "ClosedArrow") return made({{-size, half}, {0, 0}, {-size, -half}}, true, size);
  if (style == "ROpenArrow") return made({{size, half}, {0, 0}, {size, -half}}, false, 0);
  if (style == "RClosedArrow") return made({{size, half}, {0, 0}, {size, -half}}, true, 0);
  if (style == "Butt") return made({{0, half}, {0, -half}}, false, 0);
  // 60 degrees over the line.
  if (style == "Slash") return made({{half * 0.577, half}, {-half * 0.577, -half}}, false, 0);
  return std::nullopt;
}

}  // namespace lumvet::appearance
