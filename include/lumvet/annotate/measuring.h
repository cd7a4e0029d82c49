// SPDX-License-Identifier: Apache-2.0
// What marks measure on a drawing (ISO 32000-2, 12.9): lengths, areas and angles, in its units.
//
//   lumvet::Annotation gap =
//       lumvet::mark_through(page, lumvet::Annotation::Kind::line, {{80, 120}, {318, 120}});
//   gap.measure = std::make_shared<lumvet::Measure>(lumvet::drawing_scale(50, "m"));  // 1:50
//   gap.contents = lumvet::measured_text(gap, *gap.measure);                          // "4.2 m"
//   gap.has_caption = true;
//
// Threads: free functions. Since: 0.2
#pragma once

#include <optional>
#include <string>

#include "lumvet/annotate/annotations.h"
#include "lumvet/document/measured_area.h"

namespace lumvet {

// Of a drawing on which everything is so many times smaller, in "m", "cm", "mm", "km", "ft", "in"
// or, of other names, in points. Errors: none; a scale that is none counts as 1.
LUMVET_EXPORT Measure drawing_scale(double times, const std::string& unit, int decimals = 2);
// That the page itself states for the place of a mark: of its last measured area that holds the
// mark's middle, of drawings alone. Errors: as Page::measured_areas'.
LUMVET_EXPORT Result<std::optional<Measure>> measure_of(const Page& page, const Annotation& mark);

// Points along a line, a polyline or strokes, or around a polygon, a square or a circle; 0 for
// others.
LUMVET_EXPORT double length_of(const Annotation& mark);
// Square points within a polygon, a square, a circle or a closed line; 0 for others.
LUMVET_EXPORT double area_of(const Annotation& mark);

// A number of units, as the standard writes it: "3 ft 4 1/2 in". `value` is in the first unit's
// base, points multiplied by the factor of x.
LUMVET_EXPORT std::string in_units(double value, const std::vector<MeasureUnit>& units);
// Of lines and strokes their length, of shapes their area; empty for other marks, and for measures
// of maps.
LUMVET_EXPORT std::string measured_text(const Annotation& mark, const Measure& measure);

}  // namespace lumvet
