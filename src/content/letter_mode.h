// SPDX-License-Identifier: Apache-2.0
// What the ways of showing letters paint (ISO 32000-2, 9.3.6).
#pragma once

#include "lumvet/content/letter_mode.h"

namespace lumvet::content {

inline bool fills(LetterMode mode) {
  return mode == LetterMode::fill || mode == LetterMode::fill_stroke ||
         mode == LetterMode::fill_clip || mode == LetterMode::fill_stroke_clip;
}
inline bool strokes(LetterMode mode) {
  return mode == LetterMode::stroke || mode == LetterMode::fill_stroke ||
         mode == LetterMode::stroke_clip || mode == LetterMode::fill_stroke_clip;
}

}  // namespace lumvet::content
