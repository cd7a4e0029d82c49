// SPDX-License-Identifier: Apache-2.0
// How lines are stroked (ISO 32000-2, 8.4.3).
// Threads: a value.
#pragma once

#include <cstdint>
#include <vector>

namespace lumvet {

enum class LineCap : std::uint8_t { butt, round, square };
enum class LineJoin : std::uint8_t { miter, round, bevel };

struct StrokeStyle {
  double width = 1;  // in the units of the path; 0 is the thinnest line a device can draw
  LineCap cap = LineCap::butt;
  LineJoin join = LineJoin::miter;
  double miter_limit = 10;
  std::vector<double> dashes = {};  // lengths on and off in turn; empty for a solid line
  double dash_phase = 0;
  // Whether level and upright lines go onto whole pixels, so that all look equally wide (10.7.5).
  bool adjusted = false;
  bool operator==(const StrokeStyle&) const = default;
};

}  // namespace lumvet
