// SPDX-License-Identifier: Apache-2.0
// What edges of at most a pixel each way add to the cells they cross, many edges at once.
//
// Such an edge crosses the border of two rows at most once, and in each of them the border of two
// columns at most once: it has four parts, of which some are nothing. Without a question asked of
// any edge by itself they are reckoned in vectors.
#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <span>

#include "base/simd.h"
#include "raster/edges.h"

namespace lumvet::raster {

// The height that an edge crosses in a cell, in 1/256, and twice the area to the left of it, in
// 1/65536, in one number so that both are added to together. Wraps around where thousands of edges
// meet in one pixel.
class Cell {
 public:
  constexpr Cell() = default;
  LUMVET_INSIDE constexpr Cell(std::int32_t cover, std::int32_t area)
      : both_(static_cast<std::uint64_t>(std::int64_t{area} * (std::int64_t{1} << 32) + cover)) {}
  LUMVET_INSIDE constexpr void add(Cell other) { both_ += other.both_; }
  constexpr std::int32_t cover() const { return static_cast<std::int32_t>(both_); }
  constexpr std::int32_t area() const {
    return static_cast<std::int32_t>((both_ - static_cast<std::uint64_t>(cover())) >> 32);
  }
  constexpr bool operator==(const Cell&) const = default;

 private:
  std::uint64_t both_ = 0;
};

// Of each edge, in the row where it begins at the top and in the row below, the column where it is
// leftmost there, and what it adds to that column and to the one right of it.
struct ShortParts {
  static constexpr std::size_t kMost = Edges::kGroup;
  using Columns = std::array<std::int32_t, kMost>;
  using Cells = std::array<Cell, kMost>;
  Columns row;
  std::array<Columns, 2> column;
  std::array<Cells, 2> left;
  std::array<Cells, 2> right;
  // Of all edges: what they add to lies within these rows and columns and the one after them.
  std::int32_t first_row, last_row, first_column, last_column;
};

// Short edges, at least one and at most kMost, moved by `dx` and `dy`.
void take_apart(std::span<const Edge> edges, std::int32_t dx, std::int32_t dy, ShortParts& parts);

}  // namespace lumvet::raster
