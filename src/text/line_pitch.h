// SPDX-License-Identifier: Apache-2.0
// How far the lines of paragraphs are apart, from line to line as a part of the font size.
//
// Threads: free functions.
#pragma once

#include <vector>

#include "text/bands.h"

namespace lumvet::text {

// More is wide, as in drafts with empty lines between the lines.
constexpr float kUsualPitch = 1.55F;

// 0 where there are too few lines to tell. Wide only where half of the lines go on in the middle of
// a sentence: those of lists and tables of contents stand by themselves.
float line_pitch(const std::vector<Row>& rows, const std::vector<Piece>& pieces,
                 const std::vector<Letter>& letters);

}  // namespace lumvet::text
