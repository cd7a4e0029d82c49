// SPDX-License-Identifier: Apache-2.0
#include "raster/short_edges.h"

namespace lumvet::raster {
namespace {

LUMVET_INSIDE std::int32_t smaller(std::int32_t a, std::int32_t b) { return a < b ? a : b; }
LUMVET_INSIDE std::int32_t larger(std::int32_t a, std::int32_t b) { return a < b ? b : a; }

// Rounded to the nearest, for what is not below -512.
LUMVET_INSIDE std::int32_t rounded(float value) {
  return static_cast<std::int32_t>(value + 512.5F) - 512;
}

// A whole edge from its upper end.
struct Falling {
  std::int32_t x, y, sign;
  float rise;  // for each step to the right
};

// What lies within one row, from `x0`, `y0` down to `x1`, `y1`.
LUMVET_INSIDE void take_row_apart(const Falling& edge, std::int32_t x0, std::int32_t y0,
                                  std::int32_t x1, std::int32_t y1, std::int32_t& column,
                                  Cell& left, Cell& right) {
  const std::int32_t low = smaller(x0, x1);
  const std::int32_t high = larger(x0, x1);
  column = low >> kStepBits;
  const std::int32_t border = (column + 1) * kSteps;
  const std::int32_t crossing = edge.y + rounded(static_cast<float>(border - edge.x) * edge.rise);
  const std::int32_t y = larger(y0, smaller(crossing, y1));
  const std::int32_t height = y1 - y0;
  const std::int32_t in_left = x0 < x1 ? y - y0 : y1 - y;
  const std::int32_t left_height = (high > border ? in_left : height) * edge.sign;
  const std::int32_t right_height = height * edge.sign - left_height;
  left = Cell(left_height, left_height * (low + smaller(high, border) - 2 * column * kSteps));
  right = Cell(right_height, right_height * (high - border));
}

}  // namespace

LUMVET_WIDE void take_apart(std::span<const Edge> edges, std::int32_t dx, std::int32_t dy,
                            ShortParts& parts) {
  // One beside the other, to whole vectors.
  std::array<std::int32_t, ShortParts::kMost> start_x;
  std::array<std::int32_t, ShortParts::kMost> start_y;
  std::array<std::int32_t, ShortParts::kMost> end_x;
  std::array<std::int32_t, ShortParts::kMost> end_y;
  for (std::size_t i = 0; i < edges.size(); ++i) {
    start_x[i] = edges[i].x0 + dx;
    start_y[i] = edges[i].y0 + dy;
    end_x[i] = edges[i].x1 + dx;
    end_y[i] = edges[i].y1 + dy;
  }
  const std::size_t count = (edges.size() + 7) & ~std::size_t{7};
  for (std::size_t i = edges.size(); i < count; ++i) {
    start_x[i] = start_x[0];
    start_y[i] = start_y[0];
    end_x[i] = end_x[0];
    end_y[i] = end_y[0];
  }
  std::int32_t first_row = start_y[0] >> kStepBits;
  std::int32_t last_row = first_row;
  std::int32_t first_column = start_x[0] >> kStepBits;
  std::int32_t last_column = first_column;
  for (std::size_t i = 0; i < count; ++i) {
    const std::int32_t ax = start_x[i];
    const std::int32_t ay = start_y[i];
    const std::int32_t bx = end_x[i];
    const std::int32_t by = end_y[i];
    const bool upward = ay > by;
    const std::int32_t x0 = upward ? bx : ax;
    const std::int32_t y0 = smaller(ay, by);
    const std::int32_t x1 = upward ? ax : bx;
    const std::int32_t y1 = larger(ay, by);
    const auto run = static_cast<float>(x1 - x0);
    const auto fall = static_cast<float>(y1 - y0);
    const Falling edge{x0, y0, upward ? -1 : 1, fall / (run == 0 ? 1 : run)};
    const std::int32_t row = y0 >> kStepBits;
    const std::int32_t y = smaller((row + 1) * kSteps, y1);
    const std::int32_t x = x0 + rounded(static_cast<float>(y - y0) * (run / fall));
    std::int32_t upper = 0;
    std::int32_t lower = 0;
    take_row_apart(edge, x0, y0, x, y, upper, parts.left[0][i], parts.right[0][i]);
    take_row_apart(edge, x, y, x1, y1, lower, parts.left[1][i], parts.right[1][i]);
    parts.row[i] = row;
    parts.column[0][i] = upper;
    parts.column[1][i] = lower;
    first_row = smaller(first_row, row);
    last_row = larger(last_row, row);
    first_column = smaller(first_column, smaller(upper, lower));
    last_column = larger(last_column, larger(upper, lower));
  }
  parts.first_row = first_row;
  parts.last_row = last_row;
  parts.first_column = first_column;
  parts.last_column = last_column;
}

}  // namespace lumvet::raster
