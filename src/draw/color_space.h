// SPDX-License-Identifier: Apache-2.0
// What color spaces of colors are made of (ISO 32000-2, 8.6.5 and 8.6.6).
//
// Threads: free functions.
#pragma once

#include <string>
#include <vector>

#include "lumvet/draw/color.h"

namespace lumvet::draw {

// Whether both are of one color space, so that there is something between them.
bool are_beside(const Color& one, const Color& other);

// Of inks, in the order of their tints.
const std::vector<std::string>& ink_names(const Color& color);
const std::vector<Color>& full_inks(const Color& color);
// Of colors of a profile.
const Bytes& profile_of(const Color& color);

// A calculator (7.10.5) from the tints of several inks to what they look like together: CMYK when
// all of them do, RGB otherwise.
std::string mixing_of(const std::vector<Color>& full);
bool are_of_press(const std::vector<Color>& full);

}  // namespace lumvet::draw
