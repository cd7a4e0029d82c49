// SPDX-License-Identifier: Apache-2.0
// Four corners around something on a page, which may be turned by any angle.
//
// Threads: a value.
#pragma once

#include <array>

#include "lumvet/geometry/matrix.h"

namespace lumvet {

// Of text: where its line begins above it, where it ends above, where it ends below, where it
// begins below; of an image: its own corners, from the top left one on. In display space: points
// from the top left corner of the page as shown, y downward.
using Quad = std::array<Point, 4>;

}  // namespace lumvet
