// SPDX-License-Identifier: Apache-2.0
// Numbers, boxes and maps as the arrays that stand for them (ISO 32000-2, 7.9.5 and 8.3.3).
#pragma once

#include <initializer_list>

#include "lumvet/geometry/matrix.h"
#include "lumvet/objects/object.h"

namespace lumvet::document {

inline Array array_of(std::initializer_list<double> numbers) {
  return Array(numbers.begin(), numbers.end());
}
inline Array array_of(const Rect& r) { return array_of({r.left, r.bottom, r.right, r.top}); }
inline Array array_of(const Matrix& m) { return array_of({m.a, m.b, m.c, m.d, m.e, m.f}); }

}  // namespace lumvet::document
