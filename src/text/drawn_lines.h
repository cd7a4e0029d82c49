// SPDX-License-Identifier: Apache-2.0
// Lines that are drawn along and across lines of text, as those of tables: strokes and thin boxes.
//
// Threads: free functions.
#pragma once

#include <vector>

#include "content/scene_data.h"
#include "text/letters.h"

namespace lumvet::text {

// Points, in the frame of a direction.
struct DrawnLine {
  double at = 0;  // across the lines of text, of one that goes along them; along, of the others
  double begin = 0;
  double end = 0;
};

struct DrawnLines {
  std::vector<DrawnLine> along;  // sorted by place; what is drawn in parts is put together
  std::vector<DrawnLine> across;
  std::vector<DrawnLine> gaps;  // across too: where columns are parted and nothing is drawn

  // Whether one of those across lies between two places along a line of text, at its height.
  bool is_drawn(double from, double to, double height) const;
  // Whether a line across or a gap lies between two places along a line of text, at its height.
  bool part(double from, double to, double height) const;
  // Whether a gap lies between two places along a line, and above one height and below another.
  bool has_gap(double from, double to, double top, double bottom) const;
};

DrawnLines drawn_lines(const content::SceneData& scene, const Direction& direction);

}  // namespace lumvet::text
