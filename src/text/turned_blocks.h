// SPDX-License-Identifier: Apache-2.0
// Where blocks of lines that run another way than most are read: the turned heads of a table as a
// row of it, the label of an axis before what is below the drawing.
//
// Threads: free functions.
#pragma once

#include <compare>
#include <vector>

#include "text/reading_order.h"

namespace lumvet::text {

// One direction's lines in the order in which they are read.
struct LaidDirection {
  const Direction* direction;
  std::vector<Piece> pieces;
  std::vector<OrderedLine> lines;
};

struct LineAt {
  std::size_t direction;
  std::size_t line;
  auto operator<=>(const LineAt&) const = default;
};

// Of a table, for each column the lines of other directions that are its head.
struct TurnedHeads {
  std::vector<std::vector<LineAt>> columns = {};
  bool are_a_row = false;  // over the first one; otherwise they are cells of it
};

// Lines that follow each other.
struct LinesOf {
  std::size_t direction;
  std::size_t first;
  std::size_t end;
  TurnedHeads heads = {};  // of a table that these lines are
};

// All lines of all directions. The first direction's follow each other. A block of another one
// whose lines each stand over a column of one of its tables are heads; any other stands before the
// next block of the first over which it stands, or in which it does. What has none there, or lies
// over several, comes last.
std::vector<LinesOf> in_reading_order(const std::vector<LaidDirection>& laid);

}  // namespace lumvet::text
