// SPDX-License-Identifier: Apache-2.0
// The graphics state (ISO 32000-2, 8.4) and, within it, the text state (9.3).
#pragma once

#include <array>
#include <memory>
#include <vector>

#include "color/color_space.h"
#include "content/canvas.h"
#include "content/letter_mode.h"
#include "fonts/font.h"

namespace lumvet::content {

struct ColorState {
  std::shared_ptr<const color::ColorSpace> space = color::ColorSpace::gray();
  std::vector<double> values;  // in the space
  Paint paint;                 // without the constant alpha; of an uncolored pattern, its color
  bool is_pattern = false;
  bool is_invisible = false;          // of no ink
  std::array<bool, 2> leaves_inks{};  // when it overprints, by mode
  Object pattern;                     // as the resources name it
};

struct TextState {
  double character_spacing = 0;
  double word_spacing = 0;
  double horizontal_scale = 1;
  double leading = 0;
  double size = 0;
  double rise = 0;
  LetterMode mode = LetterMode::fill;
  std::shared_ptr<const fonts::Font> font;
};

struct GraphicsState {
  Matrix ctm;
  ClipId clip = kNoClip;
  MaskId mask = kNoMask;
  color::BlendMode blend = color::BlendMode::normal;
  ColorState fill;
  ColorState stroke;
  double fill_alpha = 1;
  double stroke_alpha = 1;
  bool alpha_is_shape = false;
  bool text_knocks_out = true;
  bool fill_overprints = false;
  bool stroke_overprints = false;
  int overprint_mode = 0;
  color::Intent intent = color::Intent::relative;
  StrokeStyle line;
  TextState text;
};

}  // namespace lumvet::content
