// SPDX-License-Identifier: Apache-2.0
// What the operators of several families do with the stream that is run: paint, show images and
// forms, choose fonts and colors.
#pragma once

#include "content/execution.h"

namespace lumvet::content {

// path_operators.cpp
Status fill_path(Execution& run, const Path& path, FillRule rule);
Status stroke_path(Execution& run, Path path);
// Whether what is painted now shows what is below it.
bool is_see_through(const GraphicsState& state);

// color_operators.cpp
std::uint8_t to_byte(double unit);
Paint fill_paint(const Execution& run);
Paint stroke_paint(const Execution& run);
// A paint as opaque as is stated, mixing as the graphics state says.
Paint with_state(const GraphicsState& state, Paint paint, double alpha);
void set_intent(Execution& run, color::Intent intent);

// state_operators.cpp
void set_dash(Execution& run, const Object& array, double phase);
// Puts the entries of a graphics state dictionary into effect.
Status apply_extended_state(Execution& run, const Dict& dict);

// patterns.cpp
// Shows the pattern of a color within a clip. The color by value, since what the pattern draws has
// a graphics state of its own.
Status paint_pattern(Execution& run, ColorState color, double alpha, ClipId shape);
Status paint_stencil_pattern(Execution& run, ImagePtr stencil, bool interpolate);

// transparency.cpp
Status choose_soft_mask(Execution& run, const Object& mask);
// Begins the group that a form is, if it is one, in the form's state; what it holds then starts
// afresh (11.6.6).
bool begin_group_of(Execution& run, GraphicsState& state, const Dict& form);
// In which a group says that it mixes; groups that are not isolated cannot.
GroupColors colors_of(Execution& run, const Dict& group);

// external_objects.cpp
Status draw_form(Execution& run, const Stream& form);
// Null, with a finding, for an image that cannot be shown.
Result<ImagePtr> load_image(Execution& run, const Stream& image);
Status place_image(Execution& run, ImagePtr image, const Dict& dict);

// text_operators.cpp
void set_font(Execution& run, const Object& font, double size);
void end_text_group(Execution& run);

}  // namespace lumvet::content
