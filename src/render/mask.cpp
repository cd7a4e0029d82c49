// SPDX-License-Identifier: Apache-2.0
#include "render/mask.h"

#include <algorithm>
#include <cmath>

#include "raster/blend.h"

namespace lumvet::rendering {

using raster::PixelRect;

namespace {

// The parts of the pixels [first, last) that lie between two places, multiplied into `parts`.
void narrow_axis(Bytes& parts, int first, double low, double high) {
  constexpr double kSteps = 256;  // as edges have
  const double from = std::floor(low * kSteps + 0.5) / kSteps;
  const double to = std::floor(high * kSteps + 0.5) / kSteps;
  const auto narrow = [&](int i) {
    const double pixel = first + static_cast<double>(i);
    const double part = std::clamp(std::min(to, pixel + 1) - std::max(from, pixel), 0.0, 1.0);
    std::uint8_t& value = parts[static_cast<std::size_t>(i)];
    value =
        static_cast<std::uint8_t>(raster::div255(value * static_cast<unsigned>(part * 255 + 0.5)));
  };
  // Those wholly between the two stay as they are.
  const int count = static_cast<int>(parts.size());
  const int begin =
      static_cast<int>(std::clamp(std::ceil(from) - first, 0.0, static_cast<double>(count)));
  const int end = static_cast<int>(
      std::clamp(std::floor(to) - first, static_cast<double>(begin), static_cast<double>(count)));
  for (int i = 0; i < begin; ++i) narrow(i);
  for (int i = end; i < count; ++i) narrow(i);
}

// Where parts are 255, as a stretch from the first to the last of them; they lie side by side.
std::pair<int, int> full_stretch(const Bytes& parts, int first) {
  const auto from = std::find(parts.begin(), parts.end(), 255);
  const auto to = std::find_if(from, parts.end(), [](std::uint8_t part) { return part != 255; });
  return {first + static_cast<int>(from - parts.begin()),
          first + static_cast<int>(to - parts.begin())};
}

}  // namespace

MaskPtr Mask::all(const PixelRect& tile) {
  auto mask = std::make_shared<Mask>();
  mask->box_ = mask->full_ = tile;
  return mask;
}

MaskPtr Mask::narrowed(const MaskPtr& outer, const PreparedClip& clip, raster::Coverage& coverage) {
  const PixelRect& full = outer->full_;
  if (outer->box_.is_empty()) return outer;
  const std::optional<Rect>& r = clip.rectangle;
  // Most clips are rectangles around all that there is, which change nothing.
  if (r && outer->box_ == full && r->left <= full.left && r->right >= full.right &&
      r->bottom <= full.top && r->top >= full.bottom)
    return outer;
  auto mask = std::make_shared<Mask>(*outer);
  mask->box_ = outer->box_.intersected(clip.bounds);
  if (mask->box_.is_empty()) {
    mask->box_ = mask->full_ = {};
    return mask;
  }
  // What there is of the outer one, for the smaller box.
  const PixelRect& box = mask->box_;
  const auto part = [](const Bytes& of, int skipped, int count) {
    return of.empty() ? Bytes() : Bytes(of.begin() + skipped, of.begin() + skipped + count);
  };
  mask->columns_ = part(outer->columns_, box.left - outer->box_.left, box.width());
  mask->rows_ = part(outer->rows_, box.top - outer->box_.top, box.height());
  if (!outer->values_.empty()) {
    mask->values_.clear();
    for (int y = box.top; y < box.bottom; ++y)
      mask->values_.insert(mask->values_.end(), outer->value_at(box.left, y),
                           outer->value_at(box.left, y) + box.width());
  }
  if (r)
    mask->narrow_by_rectangle(*r);
  else
    mask->narrow_by_coverage(clip, coverage);
  return mask;
}

void Mask::narrow_by_rectangle(const Rect& rectangle) {
  if (columns_.empty()) {
    columns_.assign(static_cast<std::size_t>(box_.width()), 255);
    rows_.assign(static_cast<std::size_t>(box_.height()), 255);
  }
  narrow_axis(columns_, box_.left, rectangle.left, rectangle.right);
  narrow_axis(rows_, box_.top, rectangle.bottom, rectangle.top);
  if (!values_.empty()) return;
  std::tie(full_.left, full_.right) = full_stretch(columns_, box_.left);
  std::tie(full_.top, full_.bottom) = full_stretch(rows_, box_.top);
}

void Mask::narrow_by_coverage(const PreparedClip& clip, raster::Coverage& coverage) {
  Bytes values(static_cast<std::size_t>(box_.width()) * static_cast<std::size_t>(box_.height()));
  const PixelRect tile = coverage.area();
  coverage.cover(box_);
  coverage.add(clip.edges);
  bool lets_something = false;
  coverage.sweep(clip.rule, [&](const raster::Coverage::Run& run) {
    lets_something = true;
    const std::size_t at =
        static_cast<std::size_t>(run.y - box_.top) * static_cast<std::size_t>(box_.width()) +
        static_cast<std::size_t>(run.x - box_.left);
    if (run.values != nullptr)
      std::copy_n(run.values, run.count, &values[at]);
    else
      std::fill_n(&values[at], run.count, run.value);
  });
  coverage.cover(tile);
  if (!values_.empty())
    raster::multiply(values.data(), values_.data(), static_cast<int>(values.size()));
  values_ = std::move(values);
  full_ = {};
  if (!lets_something) box_ = {};
}

void Mask::multiply_into(std::uint8_t* out, int x, int y, int count) const {
  if (!values_.empty()) raster::multiply(out, value_at(x, y), count);
  if (columns_.empty()) return;
  raster::multiply(out, &columns_[static_cast<std::size_t>(x - box_.left)], count);
  raster::multiply(out, rows_[static_cast<std::size_t>(y - box_.top)], count);
}

}  // namespace lumvet::rendering
