// SPDX-License-Identifier: Apache-2.0
// The order in which the pieces of one direction are read: columns one after the other, tables row
// by row, the rest from top to bottom.
//
// Where free strips part pieces, either may be meant. Lines drawn across the strips are those of a
// table; else it is told by how full the lines of text are, and by how they were drawn.
// docs/decisions/reading-order.md tells how.
//
// Threads: free functions.
#pragma once

#include <vector>

#include "text/pieces.h"

namespace lumvet::text {

// What stands on one line of what is read.
struct OrderedLine {
  std::vector<std::vector<std::size_t>> cells;  // of a table's row, in order; otherwise one
  // Of each cell, the columns that it takes; those behind it which it takes are empty. Empty itself
  // where each takes one.
  std::vector<std::size_t> spans = {};
  bool is_row = false;        // of a table
  bool begins_block = false;  // a paragraph, a heading, a table
};

// `letters` are those of the pieces. With `from_right`, columns and cells follow each other from
// right to left.
std::vector<OrderedLine> reading_order(const std::vector<Piece>& pieces,
                                       const std::vector<Letter>& letters, const DrawnLines& lines,
                                       bool from_right);

}  // namespace lumvet::text
