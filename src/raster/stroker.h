// SPDX-License-Identifier: Apache-2.0
// Outlines of stroked lines (ISO 32000-2, 8.4.3): widths, caps, joins, dashes.
#pragma once

#include <vector>

#include "lumvet/geometry/stroke_style.h"
#include "raster/polyline.h"

namespace lumvet::raster {

// Polygons that, filled by the nonzero rule, are the stroke. Everything in the units of `lines`;
// round caps and joins stay within `tolerance`.
std::vector<Polyline> stroke(const std::vector<Polyline>& lines, const StrokeStyle& style,
                             double tolerance);

}  // namespace lumvet::raster
