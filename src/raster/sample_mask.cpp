// SPDX-License-Identifier: Apache-2.0
#include "raster/sample_mask.h"

#include <algorithm>
#include <utility>

#include "base/allowance.h"

namespace lumvet::raster {
namespace {

constexpr int kRowBits = 6;     // of 1/256 pixel, from one row of samples to the next
constexpr int kColumnBits = 4;  // and from one sample to the next

// The first sample at or beyond a place. The first of all lies half a step behind 0.
std::int32_t first_from(std::int32_t place, int bits) {
  return (place + (1 << (bits - 1)) - 1) >> bits;
}

// In 1/256 pixel, of the middle of a row of samples.
std::int32_t middle_of(std::int32_t row) { return (row << kRowBits) + (1 << (kRowBits - 1)); }

}  // namespace

// The samples of a row of pixel `x` that a stretch has.
SampleMask SampledOutline::within(const Stretch& stretch, int x) {
  const std::int32_t base = x * kColumns;
  const std::int32_t first = std::clamp(stretch.left - base, 0, kColumns);
  const std::int32_t end = std::clamp(stretch.right - base, first, kColumns);
  return (SampleMask{1} << end) - (SampleMask{1} << first);
}

void SampledOutline::set(const Rect& rectangle) {
  kind_ = Kind::rectangle;
  columns_ = {first_from(in_steps(rectangle.left), kColumnBits),
              first_from(in_steps(rectangle.right), kColumnBits)};
  row_range_ = {first_from(in_steps(rectangle.bottom), kRowBits),  // y runs downward
                first_from(in_steps(rectangle.top), kRowBits)};
}

template <typename Take>
void SampledOutline::for_edges(const EdgeView& edges, const PixelRect& area, const Take& take) {
  for (std::size_t group = 0; group < edges.groups.size() && goes_on(); ++group) {
    const Edges::Group& bounds = edges.groups[group];
    if (bounds.top >= area.bottom << kStepBits || bounds.bottom <= area.top << kStepBits ||
        bounds.left >= area.right << kStepBits)
      continue;
    const std::size_t first = group * Edges::kGroup;
    for (std::size_t i = first; i < std::min(first + Edges::kGroup, edges.all.size()); ++i)
      take(edges.all[i]);
  }
}

void SampledOutline::set(const EdgeView& edges, FillRule rule, const PixelRect& area) {
  first_row_ = area.top * kRows;
  end_row_ = area.bottom * kRows;
  kind_ = Kind::simple;
  rows_.assign(static_cast<std::size_t>(end_row_ - first_row_), Row{});
  for_edges(edges, area, [&](const Edge& edge) {
    cross(edge, [&](std::int32_t row, std::int32_t x, std::int32_t) {
      Row& there = rows_[static_cast<std::size_t>(row - first_row_)];
      if (++there.crossings > 2) kind_ = Kind::any;
      const std::int32_t sample = first_from(x, kColumnBits);
      if (there.crossings == 1)
        there.stretch = {sample, sample};
      else if (sample < there.stretch.left)
        there.stretch.left = sample;
      else
        there.stretch.right = sample;
    });
  });
  if (kind_ == Kind::simple) return;
  crossings_.clear();
  for_edges(edges, area, [&](const Edge& edge) {
    cross(edge, [&](std::int32_t row, std::int32_t x, std::int32_t direction) {
      crossings_.push_back({row, x, direction});
    });
  });
  pair_up(rule);
}

// By the same numbers whichever way the edge runs.
template <typename Take>
void SampledOutline::cross(const Edge& edge, const Take& take) const {
  const bool upward = edge.y0 > edge.y1;
  const std::int32_t x0 = upward ? edge.x1 : edge.x0;
  const std::int32_t y0 = upward ? edge.y1 : edge.y0;
  const std::int32_t x1 = upward ? edge.x0 : edge.x1;
  const std::int32_t y1 = upward ? edge.y0 : edge.y1;
  const std::int32_t first = std::max(first_from(y0, kRowBits), first_row_);
  const std::int32_t end = std::min(first_from(y1, kRowBits), end_row_);
  if (first >= end) return;
  const double slope = static_cast<double>(x1 - x0) / static_cast<double>(y1 - y0);
  for (std::int32_t row = first; row < end; ++row)
    take(row, x0 + static_cast<std::int32_t>(slope * (middle_of(row) - y0)), upward ? -1 : 1);
}

// Row by row, and from left to right in each, which has few of them.
void SampledOutline::sort_into_rows() {
  const auto rows = static_cast<std::size_t>(end_row_ - first_row_);
  begins_.assign(rows + 1, 0);
  for (const Crossing& crossing : crossings_)
    ++begins_[static_cast<std::size_t>(crossing.row - first_row_)];
  std::uint32_t sum = 0;
  for (std::uint32_t& begin : begins_) begin = std::exchange(sum, sum + begin);
  sorted_.resize(crossings_.size());
  for (const Crossing& crossing : crossings_)
    sorted_[begins_[static_cast<std::size_t>(crossing.row - first_row_)]++] = crossing;
  // Each begins where the one before it ends now.
  const auto is_left = [](const Crossing& a, const Crossing& b) { return a.x < b.x; };
  std::uint32_t begin = 0;
  for (std::size_t row = 0; row < rows; ++row) {
    const std::uint32_t end = begins_[row];
    if (end - begin == 2 && sorted_[begin + 1].x < sorted_[begin].x)
      std::swap(sorted_[begin], sorted_[begin + 1]);
    else if (end - begin > 2)
      std::sort(sorted_.begin() + begin, sorted_.begin() + end, is_left);
    begin = end;
  }
}

void SampledOutline::pair_up(FillRule rule) {
  sort_into_rows();
  stretches_.clear();
  std::size_t next = 0;
  for (std::size_t row = 0; row + 1 < begins_.size(); ++row) {
    const std::size_t end = begins_[row];
    begins_[row] = static_cast<std::uint32_t>(stretches_.size());
    int winding = 0;
    std::int32_t begin = 0;
    for (; next < end; ++next) {
      const Crossing& crossing = sorted_[next];
      const bool was_inside = winding != 0;
      winding = rule == FillRule::even_odd ? 1 - winding : winding + crossing.direction;
      if (!was_inside && winding != 0) begin = first_from(crossing.x, kColumnBits);
      if (!was_inside || winding != 0) continue;
      const std::int32_t stretch_end = first_from(crossing.x, kColumnBits);
      if (begin < stretch_end) stretches_.push_back({begin, stretch_end});
    }
  }
  begins_.back() = static_cast<std::uint32_t>(stretches_.size());
}

SampleMask SampledOutline::at(int x, int y) const {
  if (kind_ == Kind::rectangle) {
    constexpr SampleMask kEachRow = 0x0001'0001'0001'0001;
    const int first = std::clamp(row_range_.left - y * kRows, 0, kRows);
    const int end = std::clamp(row_range_.right - y * kRows, first, kRows);
    if (first == end) return 0;
    const SampleMask rows = kAllSamples >> ((kRows - (end - first)) * kColumns)
                                               << (first * kColumns);
    return within(columns_, x) * kEachRow & rows;
  }
  SampleMask mask = 0;
  const int first = std::max(y * kRows, first_row_);
  const int end = std::min((y + 1) * kRows, end_row_);
  if (kind_ == Kind::simple) {
    const Row* rows = rows_.data() + (first - first_row_);
    for (int row = end - 1; row >= first; --row)
      mask = mask << kColumns | within(rows[row - first].stretch, x);
    return mask << ((first - y * kRows) * kColumns);
  }
  for (int row = first; row < end; ++row) {
    const auto index = static_cast<std::size_t>(row - first_row_);
    for (std::uint32_t s = begins_[index]; s < begins_[index + 1]; ++s)
      mask |= within(stretches_[s], x) << ((row - y * kRows) * kColumns);
  }
  return mask;
}

}  // namespace lumvet::raster
