// SPDX-License-Identifier: Apache-2.0
#include "assemble/page_shape.h"

namespace lumvet::assemble {

Matrix Shape::to_shown() const {
  Matrix turned;
  switch (rotation) {
    case 90: turned = {0, -1, 1, 0, -crop.bottom, crop.right}; break;
    case 180: turned = {-1, 0, 0, -1, crop.right, crop.top}; break;
    case 270: turned = {0, 1, -1, 0, crop.top, -crop.left}; break;
    default: turned = Matrix::translation(-crop.left, -crop.bottom); break;
  }
  return turned.then(Matrix::scaling(user_unit, user_unit));
}

std::string Shape::size() const {
  return std::to_string(static_cast<int>(width())) + " × " +
         std::to_string(static_cast<int>(height())) + " points";
}

Shape shape_of(const Page& page) { return {page.crop_box(), page.rotation(), page.user_unit()}; }

Rect cropped(const Shape& shape, const Margins& m) {
  const Rect& box = shape.crop;
  const auto without = [&](double left, double bottom, double right, double top) {
    return Rect{box.left + left / shape.user_unit, box.bottom + bottom / shape.user_unit,
                box.right - right / shape.user_unit, box.top - top / shape.user_unit};
  };
  switch (shape.rotation) {
    case 90: return without(m.top, m.left, m.bottom, m.right);
    case 180: return without(m.right, m.top, m.left, m.bottom);
    case 270: return without(m.bottom, m.right, m.top, m.left);
    default: return without(m.left, m.bottom, m.right, m.top);
  }
}

}  // namespace lumvet::assemble
