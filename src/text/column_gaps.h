// SPDX-License-Identifier: Apache-2.0
// Gaps between words that stand above each other over several lines, as between narrow columns of a
// table.
//
// Threads: free functions.
#pragma once

#include <vector>

#include "text/drawn_lines.h"
#include "text/pieces.h"

namespace lumvet::text {

// As lines across them, sorted by place.
std::vector<DrawnLine> column_gaps(const std::vector<Piece>& pieces,
                                   const std::vector<Letter>& letters);

}  // namespace lumvet::text
