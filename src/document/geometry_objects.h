// SPDX-License-Identifier: Apache-2.0
// Boxes (ISO 32000-2, 7.9.5), points, colors and maps as the arrays of numbers that stand for them.
#pragma once

#include <algorithm>
#include <optional>
#include <vector>

#include "lumvet/geometry/matrix.h"
#include "objects/read_numbers.h"

namespace lumvet::document {

using objects::numbers_of;

inline Array array_of(std::initializer_list<double> numbers) {
  return Array(numbers.begin(), numbers.end());
}
inline Array array_of(const Rect& r) { return array_of({r.left, r.bottom, r.right, r.top}); }
inline Array array_of(const Matrix& m) { return array_of({m.a, m.b, m.c, m.d, m.e, m.f}); }

inline std::vector<Point> points_of(const objects::Resolver& resolver, const Object& object) {
  const std::vector<double> numbers = numbers_of(resolver, object);
  std::vector<Point> points;
  points.reserve(numbers.size() / 2);
  for (std::size_t i = 0; i + 1 < numbers.size(); i += 2)
    points.push_back({numbers[i], numbers[i + 1]});
  return points;
}

// With its corners in order; nothing when it is no rectangle.
inline std::optional<Rect> rect_of(const objects::Resolver& resolver, const Object& object) {
  const std::vector<double> n = numbers_of(resolver, object);
  if (n.size() < 4) return std::nullopt;
  return Rect{std::min(n[0], n[2]), std::min(n[1], n[3]), std::max(n[0], n[2]),
              std::max(n[1], n[3])};
}

}  // namespace lumvet::document
