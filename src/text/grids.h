// SPDX-License-Identifier: Apache-2.0
// Tables whose cells are drawn: the cells between lines along and across the text.
//
// Threads: free functions.
#pragma once

#include <vector>

#include "text/drawn_lines.h"
#include "text/pieces.h"

namespace lumvet::text {

struct GridCell {
  std::size_t row = 0;
  std::size_t column = 0;
  std::size_t rows = 1;  // that it takes
  std::size_t columns = 1;
  std::vector<std::size_t> pieces = {};  // in it
};

// Lengths as in Piece.
struct Grid {
  float begin = 0;
  float end = 0;
  float top = 0;
  float bottom = 0;
  std::size_t rows = 0;
  std::size_t columns = 0;
  std::vector<GridCell> cells = {};  // row by row; those that are empty too

  bool holds(const Piece& piece) const {
    const float along = (piece.begin + piece.end) / 2;
    const float across = (piece.top + piece.bottom) / 2;
    return along > begin && along < end && across > top && across < bottom;
  }
};

// Those with text in several rows and columns; boxes around texts and the grids of charts are none.
std::vector<Grid> grids_of(const DrawnLines& lines, const std::vector<Piece>& pieces);

}  // namespace lumvet::text
