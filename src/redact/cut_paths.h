// SPDX-License-Identifier: Apache-2.0
// Paths without what lies in some areas.
//
// Threads: free functions.
#pragma once

#include <optional>
#include <vector>

#include "lumvet/geometry/path.h"
#include "lumvet/geometry/stroke_style.h"
#include "redact/areas.h"

namespace lumvet::redacting {

// A filled path, by the same rule; subpaths and curves that touch nothing stay as they are. Nothing
// when all of them do. `fine` is how far lines may lie from the curves they stand for.
std::optional<Path> cut_filling(const Path& path, const Areas& areas, double fine);

// A part of a line that is left, and where its dashes begin.
struct LinePart {
  Path path;
  double dash_phase = 0;
};
// A stroked path without what is drawn within the areas alone: its ends lie so far inside that what
// is seen outside is the same. Nothing when it comes near none of them.
std::optional<std::vector<LinePart>> cut_stroke(const Path& path, const StrokeStyle& style,
                                                const Areas& areas, double fine);

}  // namespace lumvet::redacting
