// SPDX-License-Identifier: Apache-2.0
// Parts of a plane that are to be emptied: convex, of any number.
//
// Threads: immutable once made; const methods may run concurrently.
#pragma once

#include <vector>

#include "appearance/shapes.h"
#include "lumvet/geometry/matrix.h"
#include "lumvet/geometry/quad.h"

namespace lumvet::redacting {

using Polygon = std::vector<Point>;

// The area within, of either direction.
double extent_of(const Polygon& polygon);
// The corners in the order around them, however they were given.
Polygon hull_of(Polygon points);
Rect bounds_of(const Polygon& polygon);
using appearance::corners_of;
// What of a polygon lies on the left side of the way from `a` to `b`.
Polygon left_of(const Polygon& polygon, Point a, Point b);

class Areas {
 public:
  Areas() = default;
  // Those without an extent are left out.
  explicit Areas(const std::vector<Polygon>& polygons);

  bool is_empty() const { return hulls_.empty(); }
  const std::vector<Polygon>& hulls() const { return hulls_; }  // counterclockwise
  Rect bounds() const { return bounds_; }
  // Smaller by so much on each side; those that would vanish stay as they are.
  Areas shrunk(double by) const;
  // In a space that `by` leads to.
  Areas mapped(const Matrix& by) const;

  bool touches(const Rect& rect) const;
  // Which part of a convex polygon lies within, 0 to 1; where areas lie over one another the
  // largest part counts.
  double share_of(const Polygon& polygon) const;
  // What lies outside, in pieces that do not lie over one another, of a polygon of any shape. The
  // pieces of all contours of a shape are filled together, by the shape's rule.
  std::vector<Polygon> outside(const Polygon& polygon) const;

 private:
  std::vector<Polygon> hulls_;
  Rect bounds_ = Rect::nothing();
};

}  // namespace lumvet::redacting
