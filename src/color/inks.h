// SPDX-License-Identifier: Apache-2.0
// Cyan, magenta, yellow and black without a profile, and colors mixed as such inks.
//
// Each of the eight full overprints of cyan, magenta and yellow, with and without black, has a
// fixed screen color, chosen to look like ink on coated paper; what lies between is mixed from
// them in proportion (Neugebauer). See docs/decisions/cmyk.md.
//
// Threads: free functions.
#pragma once

#include <array>

#include "color/blend_mode.h"

namespace lumvet::color {

using Inks = std::array<float, 4>;  // 0 to 1, as little as there is on bare paper up to all

// Red, green and blue from 0 to 1.
std::array<float, 3> screen_color(const Inks& inks);

// The inks whose print looks like a color of the screen, or as near to it as ink comes. Black
// stands for what is common to the other three, so that one of those is always 0.
Inks inks_like(const Rgb8& color);

// Whether colors mixed as inks look unlike those mixed on the screen. Normal, Multiply and Darken
// are much the same: inks that are laid over one another.
bool matters_in_inks(BlendMode mode);

// B(backdrop, source) of inks as it looks (ISO 32000-2, 11.3.5: how much light each ink leaves is
// what is mixed; of modes that take all colors together black is the source's for Luminosity and
// otherwise the backdrop's). Screen colors that no ink makes keep what they have beyond it as far
// as mixing leaves them alone.
Rgb8 blend_in_inks(BlendMode mode, const Rgb8& backdrop, const Rgb8& source);

}  // namespace lumvet::color
