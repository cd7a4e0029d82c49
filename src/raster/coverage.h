// SPDX-License-Identifier: Apache-2.0
// Exact area coverage of filled polygons, pixel by pixel, over a rectangular area.
//
// Each edge adds to the cells it crosses the height it spans there and the area to its left; a
// running sum along a row then gives the part of every pixel that is covered. All of it is integer
// arithmetic in 1/256 pixel, and what an edge adds to a cell depends on the edge and the cell
// alone. So any division of a page into areas gives the same values.
//
// Threads: one thread at a time.
#pragma once

#include <cstdint>
#include <vector>

#include "lumvet/geometry/path.h"
#include "raster/polyline.h"

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
  explicit Coverage(const PixelRect& area);

  const PixelRect& area() const { return area_; }

  // Polylines are closed as filling does. Points in pixels.
  void add(const std::vector<Polyline>& lines);
  void add(Point from, Point to);

  // Calls span(y, x, values, count) for every run of pixels that may be covered, rows from the top;
  // then everything added is forgotten.
  template <typename Span>
  void sweep(FillRule rule, Span span) {
    for (int row = first_row_; row < last_row_; ++row) {
      const Run run = sweep_row(row, rule);
      if (run.count > 0)
        span(area_.top + row, area_.left + run.first, values_.data() + run.first, run.count);
    }
    first_row_ = area_.height();
    last_row_ = 0;
  }

 private:
  struct Cell {
    std::int32_t cover = 0;  // height crossed, in 1/256
    std::int32_t area = 0;   // twice the area to the left of the edges, in 1/65536
  };
  struct Run {
    int first = 0;
    int count = 0;
  };
  struct Touched {
    int first = 0;
    int last = -1;
  };

  void add_row_part(int row, std::int64_t x0, std::int64_t y0, std::int64_t x1, std::int64_t y1);
  void add_cell(int row, int column, std::int64_t cover, std::int64_t area);
  Run sweep_row(int row, FillRule rule);

  PixelRect area_;
  std::vector<Cell> cells_;
  std::vector<Touched> touched_;
  std::vector<std::uint8_t> values_;
  int first_row_;
  int last_row_ = 0;
};

}  // namespace lumvet::raster
