// SPDX-License-Identifier: Apache-2.0
// A path: subpaths of straight lines and cubic Bézier curves.
// Threads: a value; const methods may run concurrently.
#pragma once

#include <cstdint>
#include <string>
#include <vector>

#include "lumvet/base/export.h"
#include "lumvet/geometry/matrix.h"

namespace lumvet {

enum class FillRule : std::uint8_t { nonzero, even_odd };

class LUMVET_EXPORT Path {
 public:
  // move and line take one point, curve three (two controls and the end), close none.
  enum class Segment : std::uint8_t { move, line, curve, close };
  using Segments = std::basic_string<Segment>;  // those of short paths need no memory of their own

  void move_to(Point p);
  // Without a current point, lines and curves begin at their first point.
  void line_to(Point p);
  void curve_to(Point control1, Point control2, Point end);
  void close();
  void add_rect(const Rect& rect);
  void append(const Path& other, const Matrix& placed);
  void clear();

  bool operator==(const Path&) const = default;
  bool is_empty() const { return segments_.empty(); }
  Point current_point() const { return points_.empty() ? Point{} : current_; }
  const Segments& segments() const { return segments_; }
  const std::vector<Point>& points() const { return points_; }

  // Of all points, controls included; Rect::nothing() for an empty path.
  Rect bounds() const;
  Path transformed(const Matrix& matrix) const;

 private:
  Segments segments_;
  std::vector<Point> points_;
  Point current_;
  Point start_;
};

}  // namespace lumvet
