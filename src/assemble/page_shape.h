// SPDX-License-Identifier: Apache-2.0
// How a page is seen: its crop box, turned.
//
// Threads: values.
#pragma once

#include <string>

#include "lumvet/assemble/paper.h"
#include "lumvet/document/document.h"

namespace lumvet::assemble {

struct Shape {
  Rect crop;
  int rotation = 0;  // degrees to the right
  double user_unit = 1;

  double width() const {  // points
    return (rotation % 180 == 0 ? crop.width() : crop.height()) * user_unit;
  }
  double height() const { return (rotation % 180 == 0 ? crop.height() : crop.width()) * user_unit; }
  std::string size() const;  // "595 × 842 points"
  // To points from the lower left corner of the page as it is seen, y upward.
  Matrix to_shown() const;
};

Shape shape_of(const Page& page);

// Its crop box without what is cut off where it is shown.
Rect cropped(const Shape& shape, const Margins& margins);

}  // namespace lumvet::assemble
