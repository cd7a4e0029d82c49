// SPDX-License-Identifier: Apache-2.0
// The signs that stand for notes, attached files, sounds and films, in a square of 20 by 20 units,
// y upward.
//
// Threads: free functions.
#pragma once

#include <string>

#include "lumvet/draw/drawing.h"

namespace lumvet::appearance {

inline constexpr double kIconSize = 20;

// Drawn where the drawing's space is. Names that are not known are drawn as the kind's usual sign
// (tables 175, 187 and 188).
void draw_note_icon(Drawing& drawing, const std::string& name, const Color& color);
void draw_file_icon(Drawing& drawing, const std::string& name, const Color& color);
void draw_sound_icon(Drawing& drawing, const std::string& name, const Color& color);
void draw_film_icon(Drawing& drawing, const Rect& place);

}  // namespace lumvet::appearance
