// SPDX-License-Identifier: Apache-2.0
// The operators of content streams (ISO 32000-2, annex A): functions over the stream that is run.
//
// Each answers with what stops the work: limits, missing bytes, failed reading, cancelling. Damage
// is reported and passed over.
#pragma once

#include <string_view>

#include "content/execution.h"

namespace lumvet::content {

struct Operator {
  std::string_view name;
  std::size_t operands;  // at least so many
  Status (*run)(Execution&);
  bool takes_more = false;  // operands in front of those that it needs
};

// Null for what is not an operator.
const Operator* find_operator(std::string_view name);

namespace operators {

// state_operators.cpp: the graphics state (8.4.4)
Status save(Execution& run);
Status restore(Execution& run);
Status concat(Execution& run);
Status line_width(Execution& run);
Status line_cap(Execution& run);
Status line_join(Execution& run);
Status miter_limit(Execution& run);
Status dash(Execution& run);
Status rendering_intent(Execution& run);
Status extended_state(Execution& run);

// path_operators.cpp (8.5)
Status move_to(Execution& run);
Status line_to(Execution& run);
Status curve_to(Execution& run);
Status curve_from_current(Execution& run);
Status curve_to_end(Execution& run);
Status close_path(Execution& run);
Status rectangle(Execution& run);
Status paint_stroke(Execution& run);
Status paint_close_stroke(Execution& run);
Status paint_fill(Execution& run);
Status paint_fill_even_odd(Execution& run);
Status paint_both(Execution& run);
Status paint_both_even_odd(Execution& run);
Status paint_close_both(Execution& run);
Status paint_close_both_even_odd(Execution& run);
Status paint_nothing(Execution& run);
Status clip_nonzero(Execution& run);
Status clip_even_odd(Execution& run);

// color_operators.cpp (8.6.8)
Status fill_gray(Execution& run);
Status stroke_gray(Execution& run);
Status fill_rgb(Execution& run);
Status stroke_rgb(Execution& run);
Status fill_cmyk(Execution& run);
Status stroke_cmyk(Execution& run);
Status fill_space(Execution& run);
Status stroke_space(Execution& run);
Status fill_color(Execution& run);
Status stroke_color(Execution& run);

// patterns.cpp (8.7.4.2)
Status shading(Execution& run);

// external_objects.cpp (8.8)
Status draw_object(Execution& run);

// inline_image.cpp (8.9.7)
Status inline_image(Execution& run);

// text_operators.cpp (9.3 and 9.4)
Status begin_text(Execution& run);
Status end_text(Execution& run);
Status character_spacing(Execution& run);
Status word_spacing(Execution& run);
Status horizontal_scale(Execution& run);
Status leading(Execution& run);
Status choose_font(Execution& run);
Status rise(Execution& run);
Status text_mode(Execution& run);
Status move_line(Execution& run);
Status move_line_with_leading(Execution& run);
Status text_matrix(Execution& run);
Status next_line(Execution& run);
Status show(Execution& run);
Status show_adjusted(Execution& run);
Status show_on_next_line(Execution& run);
Status show_with_spacing(Execution& run);
Status glyph_width_and_box(Execution& run);

// marked_content.cpp (14.6, and 7.8.2)
Status begin_marked(Execution& run);
Status begin_marked_with_properties(Execution& run);
Status end_marked(Execution& run);
Status begin_compatible(Execution& run);
Status end_compatible(Execution& run);

}  // namespace operators
}  // namespace lumvet::content
