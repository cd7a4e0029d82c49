// SPDX-License-Identifier: Apache-2.0
// Exact area coverage of filled polygons, pixel by pixel, over a rectangular area.
//
// Each edge adds to the cells it crosses the height it spans there and the area to its left; a
// running sum along a row then gives the part of every pixel that is covered. Edges left of the
// area add to where the sum begins, many rows at once. What an edge adds to a cell depends on the
// edge and the cell alone. So any division of a page into areas gives the same values.
//
// Threads: one thread at a time.
#pragma once

#include <cstdint>
#include <utility>
#include <vector>

#include "lumvet/geometry/path.h"
#include "raster/edges.h"
#include "raster/short_edges.h"

namespace lumvet::raster {

// Pixels [left, right) × [top, bottom), y downward.
struct PixelRect {
  int left = 0;
  int top = 0;
  int right = 0;
  int bottom = 0;

  int width() const { return right - left; }
  int height() const { return bottom - top; }
  bool is_empty() const { return left >= right || top >= bottom; }
  PixelRect intersected(const PixelRect& other) const;
  bool operator==(const PixelRect&) const = default;
};

// The pixels that a rectangle touches, kept within what an int can hold.
PixelRect pixels_touched(const Rect& rect);

class Coverage {
 public:
  explicit Coverage(const PixelRect& area) { cover(area); }

  // Goes to another area; what was added and not swept must be none.
  void cover(const PixelRect& area);
  const PixelRect& area() const { return area_; }

  // `dx`, `dy`: how far the edges are moved, in 1/256 pixel.
  void add(const EdgeView& edges, std::int32_t dx = 0, std::int32_t dy = 0);

  // Pixels of a row one after the other, from x on. Without values all are covered alike.
  struct Run {
    int y = 0;
    int x = 0;
    int count = 0;
    const std::uint8_t* values = nullptr;
    std::uint8_t value = 255;
  };

  // Calls take(run) for every run of pixels that may be covered, rows from the top; then everything
  // added is forgotten.
  template <typename Take>
  void sweep(FillRule rule, Take take) {
    std::uint32_t left = 0;
    has_last_ = false;
    const bool may_repeat = std::exchange(has_upright_, false);
    for (int row = first_row_; row < last_row_; ++row) {
      const auto at = static_cast<std::size_t>(row);
      left += std::exchange(left_[at], 0);
      if (left == 0 && std::exchange(is_marked_[at], 0) == 0) continue;
      is_marked_[at] = 0;
      const auto height = static_cast<std::int32_t>(left);
      if (!may_repeat || !takes_last(row, height)) {
        if (rule == FillRule::nonzero)
          sweep_row<FillRule::nonzero>(row, height, may_repeat);
        else
          sweep_row<FillRule::even_odd>(row, height, may_repeat);
      }
      for (const Run& run : runs_) take(run);
    }
    left_[static_cast<std::size_t>(last_row_)] = 0;
    first_row_ = area_.height();
    last_row_ = 0;
  }

  // The same for an upright rectangle, in pixels, without anything being added.
  template <typename Take>
  void sweep_rectangle(const Rect& rectangle, Take take) {
    const UprightBox box(rectangle, area_);
    runs_.clear();
    for (int y = box.first_row; y < box.end_row; ++y) {
      // Between the first and the last row all are alike.
      if (y < box.first_row + 2 || y + 1 == box.end_row) {
        runs_.clear();
        add_runs(box, y);
      }
      for (Run& run : runs_) {
        run.y = y;
        take(static_cast<const Run&>(run));
      }
    }
  }

 private:
  // A rectangle in 1/256 pixel, and the rows and columns it touches within an area.
  struct UprightBox {
    UprightBox(const Rect& rectangle, const PixelRect& area);
    std::int32_t left, top, right, bottom;
    int first_column, end_column, first_row, end_row;
  };
  void add_runs(const UprightBox& box, int y);

  // What edges add to within one row.
  struct Row {
    Cell* cells;
    std::uint64_t* marks;
    std::uint32_t* left;

    void add(int column, std::int32_t cover, std::int32_t area) const {
      add(column, Cell(cover, area));
    }
    void add(int column, const Cell& cell) const {
      const auto at = static_cast<std::size_t>(column);
      cells[at].add(cell);
      marks[at / 64] |= std::uint64_t{1} << (at % 64);
    }
    void add_left(std::int32_t height) const {
      left[0] += static_cast<std::uint32_t>(height);
      left[1] -= static_cast<std::uint32_t>(height);
    }
  };

  void add_short(std::span<const Edge> edges, std::int32_t dx, std::int32_t dy);
  void add_clipped(std::size_t count);
  void mark(std::size_t count);
  void add(const Edge& edge);
  void add_upright(std::int32_t x, std::int32_t y0, std::int32_t y1, std::int32_t sign);
  void add_left(std::int32_t y0, std::int32_t y1, std::int32_t sign);
  template <typename YAt>
  void add_row_part(const Row& row, const Edge& part, std::int32_t sign, const YAt& y_at);
  Row row_at(int row);
  template <FillRule rule>
  class RowRuns;
  // With `is_kept`, for the rows below to be compared with.
  template <FillRule rule>
  void sweep_row(int row, std::int32_t left, bool is_kept);
  template <FillRule rule>
  std::int32_t take_cells(Cell* row, int column, int count, std::int32_t height, bool is_kept);
  // Whether a row is covered as the last one was, as those of upright shapes are: its runs are
  // those that are there.
  bool takes_last(int row, std::int32_t left);

  PixelRect area_;
  ShortParts parts_;  // of the short edges that are being added
  std::vector<Cell> cells_;
  std::size_t words_ = 0;                // of marks, for each row
  std::vector<std::uint64_t> marks_;     // a bit for every cell that was added to
  std::vector<std::uint8_t> is_marked_;  // of each row, whether it has such cells
  // Of each row, by how much the height crossed left of the area differs from that of the row
  // above, in 1/256; wraps around. One more than there are rows.
  std::vector<std::uint32_t> left_;
  std::vector<std::uint8_t> values_;
  std::vector<Run> runs_;
  bool has_upright_ = false;  // of long edges, without which no row is covered as the last one
  // Of the row that was swept last.
  bool has_last_ = false;
  std::int32_t last_left_ = 0;
  std::vector<std::uint64_t> last_marks_;
  std::vector<Cell> last_cells_;  // those that are marked
  int first_row_ = 0;
  int last_row_ = 0;
};

}  // namespace lumvet::raster
