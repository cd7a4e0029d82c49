// SPDX-License-Identifier: Apache-2.0
// Letters that follow each other on one line without a gap that might part columns.
//
// Threads: free functions.
#pragma once

#include <vector>

#include "text/drawn_lines.h"
#include "text/letters.h"

namespace lumvet::text {

// Capitals over several lines are so many times as large as what follows them.
constexpr float kDropped = 1.9F;

struct Piece {
  std::vector<std::uint32_t> letters;  // of the direction's, from begin to end
  float begin = 0;                     // points, as in Letter
  float end = 0;
  float base = 0;  // of its largest letters
  float top = 0;
  float bottom = 0;
  float size = 0;                // of its largest letters
  std::size_t drawn = 0;         // its place in the order in which pieces were drawn
  std::size_t letter_count = 0;  // without blanks

  float width() const { return end - begin; }
  float height() const { return bottom - top; }
};

// Each letter that is not blank is in one piece; blanks at the ends of pieces are in none. What is
// shown twice at nearly one place, to look bold, is there once.
// Lines that are drawn across part pieces. A large letter that begins a paragraph, and reaches down
// over several of its lines, is in the piece of the first one.
std::vector<Piece> pieces_of(const std::vector<Letter>& letters, const DrawnLines& lines);

}  // namespace lumvet::text
