// SPDX-License-Identifier: Apache-2.0
// Edges that an outline passes more than once. Under the even-odd rule what is passed twice parts
// nothing (ISO 32000-2, 8.5.3.3.3); what is covered of a pixel at such an edge cannot be told from
// a sum of areas, so they are taken out before.
// Threads: functions of values.
#pragma once

#include <vector>

#include "raster/coverage.h"

namespace lumvet::raster {

// Takes out pairs of edges that lie upon one another; of upright ones, the parts that do. Others
// keep their order.
void take_out_passed_twice(std::vector<Edge>& edges);

}  // namespace lumvet::raster
