// SPDX-License-Identifier: Apache-2.0
#include "redact/areas.h"

#include <algorithm>
#include <cmath>

namespace lumvet::redacting {
namespace {

// Twice the extent of the triangle, positive when `p` lies left of the way from `a` to `b`.
double side_of(Point a, Point b, Point p) {
  return (b.x - a.x) * (p.y - a.y) - (b.y - a.y) * (p.x - a.x);
}

double signed_extent(const Polygon& polygon) {
  double sum = 0;
  for (std::size_t i = 0; i < polygon.size(); ++i) {
    const Point a = polygon[i];
    const Point b = polygon[(i + 1) % polygon.size()];
    sum += a.x * b.y - b.x * a.y;
  }
  return sum / 2;
}

// Where the way crosses the line, told alike from both sides.
Point crossing(Point from, Point to, double from_side, double to_side) {
  const bool is_turned = to.x < from.x || (to.x == from.x && to.y < from.y);
  if (is_turned) return crossing(to, from, to_side, from_side);
  const double t = from_side / (from_side - to_side);
  return {from.x + t * (to.x - from.x), from.y + t * (to.y - from.y)};
}

bool is_apart(const Rect& a, const Rect& b) {
  return a.right <= b.left || b.right <= a.left || a.top <= b.bottom || b.top <= a.bottom;
}

}  // namespace

double extent_of(const Polygon& polygon) { return std::abs(signed_extent(polygon)); }

Rect bounds_of(const Polygon& polygon) {
  Rect bounds = Rect::nothing();
  for (const Point p : polygon) bounds.include(p);
  return bounds;
}

Polygon hull_of(Polygon points) {
  std::sort(points.begin(), points.end(),
            [](Point a, Point b) { return a.x < b.x || (a.x == b.x && a.y < b.y); });
  points.erase(std::unique(points.begin(), points.end()), points.end());
  if (points.size() < 3) return {};
  Polygon hull;
  for (int half = 0; half < 2; ++half) {
    const std::size_t begin = hull.size();
    for (const Point p : points) {
      while (hull.size() >= begin + 2 &&
             side_of(hull[hull.size() - 2], hull[hull.size() - 1], p) <= 0)
        hull.pop_back();
      hull.push_back(p);
    }
    hull.pop_back();
    std::reverse(points.begin(), points.end());
  }
  return hull;
}

Polygon left_of(const Polygon& polygon, Point a, Point b) {
  Polygon kept;
  for (std::size_t i = 0; i < polygon.size(); ++i) {
    const Point from = polygon[i];
    const Point to = polygon[(i + 1) % polygon.size()];
    const double from_side = side_of(a, b, from);
    const double to_side = side_of(a, b, to);
    if (from_side >= 0) kept.push_back(from);
    if ((from_side > 0 && to_side < 0) || (from_side < 0 && to_side > 0))
      kept.push_back(crossing(from, to, from_side, to_side));
  }
  return kept;
}

Areas::Areas(const std::vector<Polygon>& polygons) {
  constexpr double kLeast = 1e-6;
  for (const Polygon& polygon : polygons) {
    Polygon hull = hull_of(polygon);
    if (hull.size() < 3 || !(extent_of(hull) > kLeast)) continue;
    for (const Point p : hull) bounds_.include(p);
    hulls_.push_back(std::move(hull));
  }
}

Areas Areas::shrunk(double by) const {
  std::vector<Polygon> all;
  all.reserve(hulls_.size());
  for (const Polygon& hull : hulls_) {
    Polygon inner = hull;
    for (std::size_t i = 0; i < hull.size() && !inner.empty(); ++i) {
      const Point a = hull[i];
      const Point b = hull[(i + 1) % hull.size()];
      const double length = std::hypot(b.x - a.x, b.y - a.y);
      if (!(length > 0)) continue;
      const Point in{-(b.y - a.y) / length * by, (b.x - a.x) / length * by};
      inner = left_of(inner, {a.x + in.x, a.y + in.y}, {b.x + in.x, b.y + in.y});
    }
    all.push_back(inner.size() > 2 ? inner : hull);
  }
  return Areas(all);
}

Areas Areas::mapped(const Matrix& by) const {
  std::vector<Polygon> all;
  all.reserve(hulls_.size());
  for (const Polygon& hull : hulls_) {
    Polygon moved;
    moved.reserve(hull.size());
    for (const Point p : hull) moved.push_back(by.apply(p));
    all.push_back(std::move(moved));
  }
  return Areas(all);
}

bool Areas::touches(const Rect& rect) const {
  if (is_empty() || is_apart(rect, bounds_)) return false;
  return std::any_of(hulls_.begin(), hulls_.end(),
                     [&](const Polygon& hull) { return !is_apart(rect, bounds_of(hull)); });
}

double Areas::share_of(const Polygon& polygon) const {
  const double whole = extent_of(polygon);
  if (!(whole > 0) || !touches(bounds_of(polygon))) return 0;
  double most = 0;
  for (const Polygon& hull : hulls_) {
    Polygon inside = polygon;
    for (std::size_t i = 0; i < hull.size() && !inside.empty(); ++i)
      inside = left_of(inside, hull[i], hull[(i + 1) % hull.size()]);
    most = std::max(most, extent_of(inside) / whole);
  }
  return most;
}

std::vector<Polygon> Areas::outside(const Polygon& polygon) const {
  std::vector<Polygon> pieces{polygon};
  for (const Polygon& hull : hulls_) {
    std::vector<Polygon> left;
    for (const Polygon& piece : pieces) {
      if (is_apart(bounds_of(piece), bounds_of(hull))) {
        left.push_back(piece);
        continue;
      }
      // Beyond one side after the other, of what lies within those before it.
      Polygon rest = piece;
      for (std::size_t i = 0; i < hull.size() && !rest.empty(); ++i) {
        const Point a = hull[i];
        const Point b = hull[(i + 1) % hull.size()];
        Polygon beyond = left_of(rest, b, a);
        if (beyond.size() > 2) left.push_back(std::move(beyond));
        rest = left_of(rest, a, b);
      }
    }
    pieces = std::move(left);
  }
  return pieces;
}

}  // namespace lumvet::redacting
