// SPDX-License-Identifier: Apache-2.0
// Paths built, painted and clipped to (ISO 32000-2, 8.5).
#include "content/drawing.h"
#include "content/operators.h"

namespace lumvet::content {

bool is_see_through(const GraphicsState& state) {
  return state.fill_alpha < 1 || state.stroke_alpha < 1 || state.mask != kNoMask ||
         state.blend != color::BlendMode::normal;
}

Status fill_path(Execution& run, const Path& path, FillRule rule) {
  const GraphicsState& state = run.state();
  if (state.fill.is_pattern)
    return paint_pattern(run, state.fill, state.fill_alpha,
                         run.canvas->clip(state.clip, path.transformed(state.ctm), rule));
  run.canvas->fill(path.transformed(state.ctm), rule, fill_paint(run), run.within());
  return Done{};
}

Status stroke_path(Execution& run, Path path) {
  const GraphicsState& state = run.state();
  if (state.stroke.is_pattern)
    return paint_pattern(
        run, state.stroke, state.stroke_alpha,
        run.canvas->clip_to_stroke(state.clip, std::move(path), state.ctm, state.line));
  run.canvas->stroke(std::move(path), state.ctm, state.line, stroke_paint(run), run.within());
  return Done{};
}

namespace {

Status paint(Execution& run, bool fill, bool stroke, FillRule rule = FillRule::nonzero) {
  Frame& frame = *run.frame;
  if (!run.is_hidden() && !frame.path.is_empty()) {
    // The line covers the filling, it does not mix with it (11.7.4.4).
    const bool apart = fill && stroke && is_see_through(frame.state);
    if (apart) run.canvas->begin_group({.knockout = true}, {frame.state.clip});
    Status status = fill ? fill_path(run, frame.path, rule) : Status(Done{});
    if (status.ok() && stroke) status = stroke_path(run, frame.path);
    if (apart) run.canvas->end_group();
    LUMVET_RETURN_IF_ERROR(std::move(status));
  }
  // Clipping takes effect after painting, and an empty path clips everything away (8.5.4).
  if (frame.pending_clip)
    frame.state.clip = run.canvas->clip(frame.state.clip, frame.path.transformed(frame.state.ctm),
                                        *frame.pending_clip);
  frame.pending_clip.reset();
  frame.path.clear();
  return Done{};
}

}  // namespace

namespace operators {

Status move_to(Execution& run) {
  run.frame->path.move_to(run.point(0));
  return Done{};
}

Status line_to(Execution& run) {
  run.frame->path.line_to(run.point(0));
  return Done{};
}

Status curve_to(Execution& run) {
  run.frame->path.curve_to(run.point(0), run.point(2), run.point(4));
  return Done{};
}

Status curve_from_current(Execution& run) {
  Path& path = run.frame->path;
  path.curve_to(path.current_point(), run.point(0), run.point(2));
  return Done{};
}

Status curve_to_end(Execution& run) {
  run.frame->path.curve_to(run.point(0), run.point(2), run.point(2));
  return Done{};
}

Status close_path(Execution& run) {
  run.frame->path.close();
  return Done{};
}

Status rectangle(Execution& run) {
  const Point corner = run.point(0);
  const double width = run.number(2);
  const double height = run.number(3);
  Path& path = run.frame->path;
  path.move_to(corner);
  path.line_to({corner.x + width, corner.y});
  path.line_to({corner.x + width, corner.y + height});
  path.line_to({corner.x, corner.y + height});
  path.close();
  return Done{};
}

Status paint_stroke(Execution& run) { return paint(run, false, true); }

Status paint_close_stroke(Execution& run) {
  run.frame->path.close();
  return paint(run, false, true);
}

Status paint_fill(Execution& run) { return paint(run, true, false); }

Status paint_fill_even_odd(Execution& run) { return paint(run, true, false, FillRule::even_odd); }

Status paint_both(Execution& run) { return paint(run, true, true); }

Status paint_both_even_odd(Execution& run) { return paint(run, true, true, FillRule::even_odd); }

Status paint_close_both(Execution& run) {
  run.frame->path.close();
  return paint(run, true, true);
}

Status paint_close_both_even_odd(Execution& run) {
  run.frame->path.close();
  return paint(run, true, true, FillRule::even_odd);
}

Status paint_nothing(Execution& run) { return paint(run, false, false); }

Status clip_nonzero(Execution& run) {
  run.frame->pending_clip = FillRule::nonzero;
  return Done{};
}

Status clip_even_odd(Execution& run) {
  run.frame->pending_clip = FillRule::even_odd;
  return Done{};
}

}  // namespace operators
}  // namespace lumvet::content
