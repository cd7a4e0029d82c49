// SPDX-License-Identifier: Apache-2.0
// How a page of another document lies on a page: a letterhead, a watermark.
//
// Threads: values. Since: 0.2
#pragma once

#include <optional>

namespace lumvet {

// Where something stands on a page as it is shown.
enum class Anchor {
  top_left,
  top,
  top_right,
  left,
  center,
  right,
  bottom_left,
  bottom,
  bottom_right
};

struct Overlay {
  Anchor anchor = Anchor::center;
  double margin = 0;                 // points, from the sides that the anchor names
  std::optional<double> scale = {};  // without it as large as the page has room for
  double opacity = 1;                // 0 to 1
  bool beneath = false;              // what the page shows; white paper in a scan covers it
};

}  // namespace lumvet
