// SPDX-License-Identifier: Apache-2.0
// Paths built, painted and clipped to (ISO 32000-2, 8.5).
#include "content/interpreter.h"

namespace lumvet::content {

Status Interpreter::move_to() {
  path_.move_to(point(0));
  return Done{};
}

Status Interpreter::line_to() {
  path_.line_to(point(0));
  return Done{};
}

Status Interpreter::curve_to() {
  path_.curve_to(point(0), point(2), point(4));
  return Done{};
}

Status Interpreter::curve_from_current() {
  path_.curve_to(path_.current_point(), point(0), point(2));
  return Done{};
}

Status Interpreter::curve_to_end() {
  path_.curve_to(point(0), point(2), point(2));
  return Done{};
}

Status Interpreter::close_path() {
  path_.close();
  return Done{};
}

Status Interpreter::rectangle() {
  const Point corner = point(0);
  const double width = number(2);
  const double height = number(3);
  path_.move_to(corner);
  path_.line_to({corner.x + width, corner.y});
  path_.line_to({corner.x + width, corner.y + height});
  path_.line_to({corner.x, corner.y + height});
  path_.close();
  return Done{};
}

Status Interpreter::paint_close_stroke() {
  path_.close();
  return paint(false, true, FillRule::nonzero);
}

Status Interpreter::paint_close_both() {
  path_.close();
  return paint(true, true, FillRule::nonzero);
}

Status Interpreter::paint_close_both_even_odd() {
  path_.close();
  return paint(true, true, FillRule::even_odd);
}

Status Interpreter::clip_nonzero() {
  pending_clip_ = FillRule::nonzero;
  return Done{};
}

Status Interpreter::clip_even_odd() {
  pending_clip_ = FillRule::even_odd;
  return Done{};
}

Status Interpreter::paint(bool fill, bool stroke, FillRule rule) {
  if (!passes_over() && !path_.is_empty()) {
    // The line covers the filling, it does not mix with it (11.7.4.4).
    const bool apart = fill && stroke && is_see_through();
    if (apart) canvas_->begin_group({.knockout = true}, {state_.clip});
    Status status = fill ? fill_path(path_, rule) : Status(Done{});
    if (status.ok() && stroke) status = stroke_path(path_);
    if (apart) canvas_->end_group();
    LUMVET_RETURN_IF_ERROR(std::move(status));
  }
  // Clipping takes effect after painting, and an empty path clips everything away (8.5.4).
  if (pending_clip_)
    state_.clip = canvas_->clip(state_.clip, path_.transformed(state_.ctm), *pending_clip_);
  pending_clip_.reset();
  path_.clear();
  return Done{};
}

bool Interpreter::is_see_through() const {
  return state_.fill_alpha < 1 || state_.stroke_alpha < 1 || state_.mask != kNoMask ||
         state_.blend != color::BlendMode::normal;
}

Status Interpreter::fill_path(const Path& path, FillRule rule) {
  if (state_.fill.is_pattern)
    return paint_pattern(state_.fill, state_.fill_alpha,
                         canvas_->clip(state_.clip, path.transformed(state_.ctm), rule));
  canvas_->fill(path.transformed(state_.ctm), rule, fill_paint(), within());
  return Done{};
}

Status Interpreter::stroke_path(Path path) {
  if (state_.stroke.is_pattern)
    return paint_pattern(
        state_.stroke, state_.stroke_alpha,
        canvas_->clip_to_stroke(state_.clip, std::move(path), state_.ctm, state_.line));
  canvas_->stroke(std::move(path), state_.ctm, state_.line, stroke_paint(), within());
  return Done{};
}

}  // namespace lumvet::content
