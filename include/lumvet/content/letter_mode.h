// SPDX-License-Identifier: Apache-2.0
// How letters are shown (ISO 32000-2, 9.3.6).
#pragma once

#include <cstdint>

namespace lumvet {

// In the order of the operand of Tr: filled, stroked, both, invisible, and the same with what lies
// behind them clipped to their shapes.
enum class LetterMode : std::uint8_t {
  fill,
  stroke,
  fill_stroke,
  invisible,
  fill_clip,
  stroke_clip,
  fill_stroke_clip,
  clip
};

}  // namespace lumvet
