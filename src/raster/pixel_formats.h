// SPDX-License-Identifier: Apache-2.0
// Rows of pixels from one format to another, and the tones they may be changed to on the way.
#pragma once

#include "base/luminance.h"
#include "lumvet/raster/raster.h"

namespace lumvet::raster {

// Premultiplied red green blue alpha to a row of another format. `x`, `y` are the first pixel's
// place on the page, by which dots are laid.
void from_rgba(const std::uint8_t* rgba, int count, PixelFormat format, Halftone halftone, int x,
               int y, std::uint8_t* out);

void swap_red_and_blue(std::uint8_t* pixels, std::size_t count);  // of 4 bytes each

// One value for each of `count` pixels of red green blue alpha: its part of light, and its opacity.
void take_luminances(const std::uint8_t* rgba, std::size_t count, std::uint8_t* out);
void take_opacities(const std::uint8_t* rgba, std::size_t count, std::uint8_t* out);
bool are_opaque(const std::uint8_t* rgba, std::size_t count);

// A row of any format to straight (not multiplied) red green blue alpha.
void to_straight(const std::uint8_t* row, int count, PixelFormat format, std::uint8_t* out);

// Dark for light and light for dark, each color keeping its hue.
void turn_for_night(std::uint8_t* rgba, std::size_t pixels);
void take_color_out(std::uint8_t* rgba, std::size_t pixels);

}  // namespace lumvet::raster
