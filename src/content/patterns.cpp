// SPDX-License-Identifier: Apache-2.0
// Patterns and shadings (ISO 32000-2, 8.7): what they paint shows through a clip of the shape.
#include <cmath>

#include "content/interpreter.h"
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

}  // namespace

Matrix Interpreter::matrix_of(const Dict& dict) const { return document::matrix_of(store_, dict); }

std::optional<Rect> Interpreter::box_of(const Dict& dict) const {
  return document::rect_of(store_, dict["BBox"]);
}

// Null, with a finding, for what is none.
std::shared_ptr<const color::Shading> Interpreter::load_shading(const Object& object) {
  if (object.is_reference())
    if (const auto known = shadings_.find({object.as_reference(), state_.intent});
        known != shadings_.end())
      return known->second;
  auto made =
      color::Shading::make(object, resources_, store_, budget_, store_.findings(), state_.intent);
  if (!made.ok())
    store_.findings().add({made.error().message() + "; it is left out", made.error().offset(),
                           object.as_reference()});
  auto shading = made.ok() ? *std::move(made) : nullptr;
  if (object.is_reference())
    shadings_.emplace(std::pair(object.as_reference(), state_.intent), shading);
  return shading;
}

Status Interpreter::shading() {
  if (passes_over()) return Done{};
  const Object shadings = store_.get(resources_, "Shading");
  const auto shading = load_shading(shadings.as_dict()[operands_[0].as_name()]);
  if (shading) canvas_->shading(shading, state_.ctm, fill_paint(), within());
  return Done{};
}

Status Interpreter::paint_pattern(ColorState color, double alpha, ClipId shape) {
  const Object pattern = store_.resolve(color.pattern);
  const Dict& dict = pattern.as_dict();
  const Matrix placed = matrix_of(dict).then(parent_);
  const std::int64_t type = store_.get(dict, "PatternType").as_integer();
  const Paint paint = with_state(color.paint, alpha);
  if (!placed.is_invertible() || (type != 1 && type != 2)) {
    note("a pattern that is missing or impossible is not shown");
    return Done{};
  }
  if (type == 1 && pattern.is_stream())
    return paint_tiling(color, *pattern.as_stream(), placed, paint, shape);
  const auto shading = load_shading(dict["Shading"]);
  if (!shading) return Done{};
  const Within where{shape, state_.mask};
  if (!shading->background()) {
    canvas_->shading(shading, placed, paint, where);
    return Done{};
  }
  // The background and what lies on it show as one.
  const auto& [red, green, blue] = *shading->background();
  canvas_->begin_group({paint.alpha, paint.blend, true, false}, where);
  Path everywhere;
  everywhere.add_rect(canvas_->bounds_of(shape));
  canvas_->fill(std::move(everywhere), FillRule::nonzero, {red, green, blue}, {shape});
  canvas_->shading(shading, placed, {}, {shape});
  canvas_->end_group();
  return Done{};
}

// The stencil becomes a mask, through which the pattern shows.
Status Interpreter::paint_stencil_pattern(ImagePtr stencil, bool interpolate) {
  const Matrix placed = state_.ctm;
  SoftMask mask;
  for (std::size_t i = 0; i < mask.transfer.size(); ++i)
    mask.transfer[i] = static_cast<std::uint8_t>(i);
  LUMVET_TRY(mask.group, canvas_->record(canvas_->bounds_of(state_.clip), [&](Canvas& canvas) {
    canvas.image(std::move(stencil), placed, interpolate, {}, {});
    return Status(Done{});
  }));
  const MaskId outer = std::exchange(state_.mask, canvas_->soft_mask(std::move(mask)));
  Path around;  // a little more than the square, whose edges the mask has
  around.add_rect(placed.bounds_of({0, 0, 1, 1}).grown(1));
  Status status = paint_pattern(state_.fill, state_.fill_alpha,
                                canvas_->clip(state_.clip, std::move(around), FillRule::nonzero));
  state_.mask = outer;
  return status;
}

Status Interpreter::paint_tiling(const ColorState& color, const Stream& pattern,
                                 const Matrix& placed, const Paint& paint, ClipId shape) {
  const auto box = box_of(pattern.dict);
  const double across = std::abs(store_.get(pattern.dict, "XStep").as_number());
  const double up = std::abs(store_.get(pattern.dict, "YStep").as_number());
  if (!box || box->is_empty() || !(across > 0) || !(up > 0)) {
    note("a pattern without a usable cell is not shown");
    return Done{};
  }
  const Rect seen = placed.inverse().bounds_of(canvas_->bounds_of(shape));
  const Range columns = cells_touching(seen.left, seen.right, box->left, box->right, across);
  const Range rows = cells_touching(seen.bottom, seen.top, box->bottom, box->top, up);
  const double cells = columns.count() * rows.count();
  if (!(cells > 0)) return Done{};
  const Within where{shape, state_.mask};
  if (cells > kFewCells) {
    LUMVET_TRY(ScenePtr cell, record_cell(color, pattern, *box));
    if (cell) canvas_->tiling({std::move(cell), *box, across, up, placed}, paint, where);
    return Done{};
  }
  canvas_->begin_group({paint.alpha, paint.blend, false, false}, where);
  Status status = Done{};
  // Counted from the first, since far from the origin numbers are too coarse to be counted on.
  for (int row = 0; status.ok() && row < rows.count(); ++row)
    for (int column = 0; status.ok() && column < columns.count(); ++column)
      status =
          draw_cell(color, pattern, *box,
                    Matrix::translation((columns.first + column) * across, (rows.first + row) * up)
                        .then(placed),
                    shape);
  canvas_->end_group();
  return status;
}

Status Interpreter::draw_cell(const ColorState& color, const Stream& pattern, const Rect& box,
                              const Matrix& ctm, ClipId within) {
  const Budget::Depth depth(budget_);
  if (!depth.ok()) {
    note("patterns use one another deeper than Limits::nesting; the innermost are left out");
    return Done{};
  }
  const GraphicsState outer = std::exchange(state_, {});
  const Matrix outer_parent = std::exchange(parent_, ctm);
  const bool is_uncolored = store_.get(pattern.dict, "PaintType").as_integer() == 2;
  const bool outer_uncolored = std::exchange(takes_color_, is_uncolored);
  state_.ctm = ctm;
  Path edge;
  edge.add_rect(box);
  state_.clip = canvas_->clip(within, edge.transformed(ctm), FillRule::nonzero);
  if (is_uncolored) state_.fill.paint = state_.stroke.paint = color.paint;
  const std::size_t saved_here = saved_.size();
  Status status = run_form_content(pattern);
  saved_.resize(saved_here);
  takes_color_ = outer_uncolored;
  parent_ = outer_parent;
  state_ = outer;
  return status;
}

// The cell in its own space, once for all shapes that it fills.
Result<ScenePtr> Interpreter::record_cell(const ColorState& color, const Stream& pattern,
                                          const Rect& box) {
  const Paint& p = color.paint;
  const auto key = std::tuple(pattern.offset, color.pattern.as_reference(), p.red, p.green, p.blue);
  if (const auto known = cells_.find(key); known != cells_.end()) return known->second;
  auto recorded = canvas_->record(box, [&](Canvas& canvas) {
    Canvas* const outer = std::exchange(canvas_, &canvas);
    Status status = draw_cell(color, pattern, box, {}, kNoClip);
    canvas_ = outer;
    return status;
  });
  if (recorded.ok()) cells_.emplace(key, *recorded);
  return recorded;
}

}  // namespace lumvet::content
