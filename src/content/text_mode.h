// SPDX-License-Identifier: Apache-2.0
// How glyphs are shown (ISO 32000-2, 9.3.6), in the order of the operand of Tr.
#pragma once

#include <cstdint>

namespace lumvet::content {

enum class TextMode : std::uint8_t {
  fill,
  stroke,
  fill_stroke,
  invisible,
  fill_clip,
  stroke_clip,
  fill_stroke_clip,
  clip
};

inline bool fills(TextMode mode) {
  return mode == TextMode::fill || mode == TextMode::fill_stroke || mode == TextMode::fill_clip ||
         mode == TextMode::fill_stroke_clip;
}
inline bool strokes(TextMode mode) {
  return mode == TextMode::stroke || mode == TextMode::fill_stroke ||
         mode == TextMode::stroke_clip || mode == TextMode::fill_stroke_clip;
}

}  // namespace lumvet::content
