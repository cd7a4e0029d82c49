// SPDX-License-Identifier: Apache-2.0
// Patterns and shadings (ISO 32000-2, 8.7): what they paint shows through a clip of the shape.
#include <cmath>

#include "content/drawing.h"
#include "content/operators.h"
#include "document/appearance.h"

namespace lumvet::content {
namespace {

constexpr double kFewCells = 16;  // drawn one by one, exactly; more of them as an image

// Cells that touch a box, counted along one axis.
struct Range {
  double first;
  double last;
  double count() const { return std::max(0.0, last - first + 1); }
};

Range cells_touching(double low, double high, double cell_low, double cell_high, double step) {
  return {std::ceil((low - cell_high) / step), std::floor((high - cell_low) / step)};
}

// Null, with a finding, for what is none.
std::shared_ptr<const color::Shading> load_shading(Execution& run, const Object& object) {
  const color::Intent intent = run.state().intent;
  auto& known_shadings = run.caches.shadings;
  if (object.is_reference())
    if (const auto known = known_shadings.find({object.as_reference(), intent});
        known != known_shadings.end())
      return known->second;
  auto made = color::Shading::make(object, run.frame->resources, run.store, run.budget,
                                   run.store.findings(), intent);
  if (!made.ok())
    run.store.findings().add({made.error().message() + "; it is left out", made.error().offset(),
                              object.as_reference()});
  auto shading = made.ok() ? *std::move(made) : nullptr;
  if (object.is_reference())
    known_shadings.emplace(std::pair(object.as_reference(), intent), shading);
  return shading;
}

Status draw_cell(Execution& run, const ColorState& color, const Stream& pattern, const Rect& box,
                 const Matrix& ctm, ClipId within) {
  const Budget::Depth depth(run.budget);
  if (!depth.ok()) {
    run.note("patterns use one another deeper than Limits::nesting; the innermost are left out");
    return Done{};
  }
  const Replaced<TextRecorder*> unread(run.text, nullptr);
  Frame cell = run.frame->inner();
  cell.takes_color = run.store.get(pattern.dict, "PaintType").as_integer() == 2;
  cell.pattern_space = ctm;
  cell.state = {};
  cell.state.ctm = ctm;
  Path edge;
  edge.add_rect(box);
  cell.state.clip = run.canvas->clip(within, edge.transformed(ctm), FillRule::nonzero);
  if (cell.takes_color) cell.state.fill.paint = cell.state.stroke.paint = color.paint;
  return run.run_stream(std::move(cell), pattern);
}

// The cell in its own space, once for all shapes that it fills.
Result<ScenePtr> record_cell(Execution& run, const ColorState& color, const Stream& pattern,
                             const Rect& box) {
  const Paint& p = color.paint;
  const auto key = std::tuple(pattern.offset, color.pattern.as_reference(), p.red, p.green, p.blue);
  auto& cells = run.caches.cells;
  if (const auto known = cells.find(key); known != cells.end()) return known->second;
  auto recorded = run.canvas->record(box, [&](Canvas& canvas) {
    const Replaced<Canvas*> drawn_on(run.canvas, &canvas);
    return draw_cell(run, color, pattern, box, {}, kNoClip);
  });
  if (recorded.ok()) cells.emplace(key, *recorded);
  return recorded;
}

Status paint_tiling(Execution& run, const ColorState& color, const Stream& pattern,
                    const Matrix& placed, const Paint& paint, ClipId shape) {
  const auto box = document::rect_of(run.store, pattern.dict["BBox"]);
  const double across = std::abs(run.store.get(pattern.dict, "XStep").as_number());
  const double up = std::abs(run.store.get(pattern.dict, "YStep").as_number());
  if (!box || box->is_empty() || !(across > 0) || !(up > 0)) {
    run.note("a pattern without a usable cell is not shown");
    return Done{};
  }
  const Rect seen = placed.inverse().bounds_of(run.canvas->bounds_of(shape));
  const Range columns = cells_touching(seen.left, seen.right, box->left, box->right, across);
  const Range rows = cells_touching(seen.bottom, seen.top, box->bottom, box->top, up);
  const double cells = columns.count() * rows.count();
  if (!(cells > 0)) return Done{};
  const Within where{shape, run.state().mask};
  if (cells > kFewCells) {
    LUMVET_TRY(ScenePtr cell, record_cell(run, color, pattern, *box));
    if (cell) run.canvas->tiling({std::move(cell), *box, across, up, placed}, paint, where);
    return Done{};
  }
  run.canvas->begin_group({paint.alpha, paint.blend, false, false}, where);
  Status status = Done{};
  // Counted from the first, since far from the origin numbers are too coarse to be counted on.
  for (int row = 0; status.ok() && row < rows.count(); ++row)
    for (int column = 0; status.ok() && column < columns.count(); ++column)
      status =
          draw_cell(run, color, pattern, *box,
                    Matrix::translation((columns.first + column) * across, (rows.first + row) * up)
                        .then(placed),
                    shape);
  run.canvas->end_group();
  return status;
}

Status paint_shading(Execution& run, const std::shared_ptr<const color::Shading>& shading,
                     const Matrix& placed, const Paint& paint, ClipId shape) {
  const Within where{shape, run.state().mask};
  if (!shading->background()) {
    run.canvas->shading(shading, placed, paint, where);
    return Done{};
  }
  // The background and what lies on it show as one.
  const auto& [red, green, blue] = *shading->background();
  run.canvas->begin_group({paint.alpha, paint.blend, true, false}, where);
  Path everywhere;
  everywhere.add_rect(run.canvas->bounds_of(shape));
  run.canvas->fill(std::move(everywhere), FillRule::nonzero, {red, green, blue}, {shape});
  run.canvas->shading(shading, placed, {}, {shape});
  run.canvas->end_group();
  return Done{};
}

}  // namespace

Status operators::shading(Execution& run) {
  if (run.is_hidden()) return Done{};
  const Object shadings = run.resource("Shading");
  const auto shading = load_shading(run, shadings.as_dict()[run.operand(0).as_name()]);
  if (shading) run.canvas->shading(shading, run.state().ctm, fill_paint(run), run.within());
  return Done{};
}

Status paint_pattern(Execution& run, ColorState color, double alpha, ClipId shape) {
  const Object pattern = run.store.resolve(color.pattern);
  const Dict& dict = pattern.as_dict();
  const Matrix placed = document::matrix_of(run.store, dict).then(run.frame->pattern_space);
  const std::int64_t type = run.store.get(dict, "PatternType").as_integer();
  const Paint paint = with_state(run.state(), color.paint, alpha);
  if (!placed.is_invertible() || (type != 1 && type != 2)) {
    run.note("a pattern that is missing or impossible is not shown");
    return Done{};
  }
  if (type == 1 && pattern.is_stream())
    return paint_tiling(run, color, *pattern.as_stream(), placed, paint, shape);
  const auto shading = load_shading(run, dict["Shading"]);
  if (!shading) return Done{};
  const Object states = run.store.get(dict, "ExtGState");
  if (!states.is_dict()) return paint_shading(run, shading, placed, paint, shape);
  // In the state that the pattern asks for while it is painted (table 75).
  const Replaced<GraphicsState> inner(run.state(), run.state());
  run.state().fill_alpha = alpha;
  LUMVET_RETURN_IF_ERROR(apply_extended_state(run, states.as_dict()));
  return paint_shading(run, shading, placed,
                       with_state(run.state(), color.paint, run.state().fill_alpha), shape);
}

// The stencil becomes a mask, through which the pattern shows.
Status paint_stencil_pattern(Execution& run, ImagePtr stencil, bool interpolate) {
  const GraphicsState& state = run.state();
  const Matrix placed = state.ctm;
  SoftMask mask;
  for (std::size_t i = 0; i < mask.transfer.size(); ++i)
    mask.transfer[i] = static_cast<std::uint8_t>(i);
  LUMVET_TRY(mask.group, run.canvas->record(run.canvas->bounds_of(state.clip), [&](Canvas& canvas) {
    canvas.image(std::move(stencil), placed, interpolate, {}, {});
    return Status(Done{});
  }));
  const Replaced<MaskId> masked(run.state().mask, run.canvas->soft_mask(std::move(mask)));
  Path around;  // a little more than the square, whose edges the mask has
  around.add_rect(placed.bounds_of({0, 0, 1, 1}).grown(1));
  return paint_pattern(run, state.fill, state.fill_alpha,
                       run.canvas->clip(state.clip, std::move(around), FillRule::nonzero));
}

}  // namespace lumvet::content
