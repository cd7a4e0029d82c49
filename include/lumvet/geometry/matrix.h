// SPDX-License-Identifier: Apache-2.0
// Points, rectangles and affine maps. The unit is whatever the caller says: points (1/72 inch) on
// pages, pixels in rasters.
// Threads: values.
#pragma once

#include <algorithm>
#include <cmath>
#include <limits>

namespace lumvet {

struct Point {
  double x = 0;
  double y = 0;
  bool operator==(const Point&) const = default;
};
inline Point operator+(Point a, Point b) { return {a.x + b.x, a.y + b.y}; }
inline Point operator-(Point a, Point b) { return {a.x - b.x, a.y - b.y}; }
inline Point operator*(Point a, double times) { return {a.x * times, a.y * times}; }

// left <= right and bottom <= top, in a system where y grows upward; in rasters bottom is the
// smaller y all the same.
struct Rect {
  double left = 0;
  double bottom = 0;
  double right = 0;
  double top = 0;

  double width() const { return right - left; }
  double height() const { return top - bottom; }
  bool is_empty() const { return !(right > left && top > bottom); }
  bool operator==(const Rect&) const = default;

  // Grown so that it holds `point`.
  void include(Point point) {
    left = std::min(left, point.x);
    right = std::max(right, point.x);
    bottom = std::min(bottom, point.y);
    top = std::max(top, point.y);
  }
  Rect intersected(const Rect& other) const {
    return {std::max(left, other.left), std::max(bottom, other.bottom),
            std::min(right, other.right), std::min(top, other.top)};
  }
  Rect grown(double by) const { return {left - by, bottom - by, right + by, top + by}; }
  // Holds nothing yet; include() makes it the bounds of points.
  static Rect nothing() {
    constexpr double kFar = std::numeric_limits<double>::infinity();
    return {kFar, kFar, -kFar, -kFar};
  }
};

// Maps (x, y) to (a x + c y + e, b x + d y + f) (ISO 32000-2, 8.3.3).
struct Matrix {
  double a = 1;
  double b = 0;
  double c = 0;
  double d = 1;
  double e = 0;
  double f = 0;

  bool operator==(const Matrix&) const = default;

  Point apply(Point p) const { return {a * p.x + c * p.y + e, b * p.x + d * p.y + f}; }

  // First this map, then `next`.
  Matrix then(const Matrix& next) const {
    return {a * next.a + b * next.c,          a * next.b + b * next.d,
            c * next.a + d * next.c,          c * next.b + d * next.d,
            e * next.a + f * next.c + next.e, e * next.b + f * next.d + next.f};
  }

  double determinant() const { return a * d - b * c; }
  bool is_invertible() const {
    const double area = determinant();
    return std::isfinite(area) && std::abs(area) > 1e-30;
  }
  // Only if is_invertible().
  Matrix inverse() const {
    const double s = 1 / determinant();
    return {d * s, -b * s, -c * s, a * s, (c * f - d * e) * s, (b * e - a * f) * s};
  }
  // By how much lengths grow on average.
  double scale() const { return std::sqrt(std::abs(determinant())); }

  // The bounds of the mapped rectangle.
  Rect bounds_of(const Rect& r) const {
    Rect bounds = Rect::nothing();
    bounds.include(apply({r.left, r.bottom}));
    bounds.include(apply({r.right, r.bottom}));
    bounds.include(apply({r.left, r.top}));
    bounds.include(apply({r.right, r.top}));
    return bounds;
  }

  static Matrix translation(double x, double y) { return {1, 0, 0, 1, x, y}; }
  static Matrix scaling(double x, double y) { return {x, 0, 0, y, 0, 0}; }
};

}  // namespace lumvet
