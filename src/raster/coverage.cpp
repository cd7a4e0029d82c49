// SPDX-License-Identifier: Apache-2.0
#include "raster/coverage.h"

#include <algorithm>
#include <cmath>
#include <cstring>

namespace lumvet::raster {
namespace {

constexpr std::int64_t kOne = 256;               // one pixel
constexpr std::int64_t kFull = 2 * kOne * kOne;  // twice the area of a pixel
constexpr double kFarthest = 1 << 21;  // pixels; lines are cut there so that sums fit 64 bits

std::int64_t floor_div(std::int64_t a, std::int64_t b) {  // b > 0
  return a >= 0 ? a / b : -((-a + b - 1) / b);
}

std::int64_t fixed(double pixels) {
  return static_cast<std::int64_t>(std::floor(pixels * static_cast<double>(kOne) + 0.5));
}

// The x of the line at height y, rounded; y0 < y1.
std::int64_t x_at(std::int64_t x0, std::int64_t y0, std::int64_t x1, std::int64_t y1,
                  std::int64_t y) {
  return x0 + floor_div((x1 - x0) * (y - y0) * 2 + (y1 - y0), 2 * (y1 - y0));
}

}  // namespace

PixelRect PixelRect::intersected(const PixelRect& other) const {
  return {std::max(left, other.left), std::max(top, other.top), std::min(right, other.right),
          std::min(bottom, other.bottom)};
}

PixelRect pixels_touched(const Rect& rect) {
  if (!(rect.left <= rect.right && rect.bottom <= rect.top)) return {};
  const auto clamped = [](double value) {
    return static_cast<int>(std::clamp(value, -kFarthest, kFarthest));
  };
  return {clamped(std::floor(rect.left)), clamped(std::floor(rect.bottom)),
          clamped(std::ceil(rect.right)), clamped(std::ceil(rect.top))};
}

Coverage::Coverage(const PixelRect& area)
    : area_(area),
      cells_(static_cast<std::size_t>(area.width() + 1) * static_cast<std::size_t>(area.height())),
      touched_(static_cast<std::size_t>(area.height()), Touched{area.width() + 1, -1}),
      values_(static_cast<std::size_t>(area.width())),
      first_row_(area.height()) {}

void Coverage::add(const std::vector<Polyline>& lines) {
  for (const Polyline& line : lines) {
    for (std::size_t i = 0; i + 1 < line.points.size(); ++i)
      add(line.points[i], line.points[i + 1]);
    if (line.points.size() > 1) add(line.points.back(), line.points.front());
  }
}

void Coverage::add(Point from, Point to) {
  const auto far = [](Point p) { return std::abs(p.x) > kFarthest || std::abs(p.y) > kFarthest; };
  if (far(from) || far(to)) {
    // Cut in height first, then push what is too far to the side onto the border, where it covers
    // the same pixels.
    if (std::max(from.y, to.y) < -kFarthest || std::min(from.y, to.y) > kFarthest) return;
    const Point start = from;
    const Point end = to;
    const auto cut = [&](Point& p) {
      const double y = std::clamp(p.y, -kFarthest, kFarthest);
      if (y != p.y) p = {start.x + (end.x - start.x) * ((y - start.y) / (end.y - start.y)), y};
      p.x = std::clamp(p.x, -kFarthest, kFarthest);
    };
    cut(from);
    cut(to);
  }
  std::int64_t x0 = fixed(from.x);
  std::int64_t y0 = fixed(from.y);
  std::int64_t x1 = fixed(to.x);
  std::int64_t y1 = fixed(to.y);
  if (y0 == y1) return;
  const bool upward = y0 > y1;
  if (upward) {
    std::swap(x0, x1);
    std::swap(y0, y1);
  }
  const std::int64_t top = std::max(floor_div(y0, kOne), std::int64_t{area_.top});
  const std::int64_t bottom = std::min(floor_div(y1 - 1, kOne) + 1, std::int64_t{area_.bottom});
  if (top >= bottom) return;
  if (std::min(x0, x1) >= area_.right * kOne) return;
  std::int64_t y = std::max(y0, top * kOne);
  std::int64_t x = y == y0 ? x0 : x_at(x0, y0, x1, y1, y);
  for (std::int64_t row = top; row < bottom; ++row) {
    const std::int64_t next_y = std::min((row + 1) * kOne, y1);
    const std::int64_t next_x = next_y == y1 ? x1 : x_at(x0, y0, x1, y1, next_y);
    const auto row_index = static_cast<int>(row - area_.top);
    if (upward)
      add_row_part(row_index, next_x, next_y, x, y);
    else
      add_row_part(row_index, x, y, next_x, next_y);
    x = next_x;
    y = next_y;
  }
  first_row_ = std::min(first_row_, static_cast<int>(top - area_.top));
  last_row_ = std::max(last_row_, static_cast<int>(bottom - area_.top));
}

// A piece of an edge within one row of pixels, from left to right cell by cell.
void Coverage::add_row_part(int row, std::int64_t x0, std::int64_t y0, std::int64_t x1,
                            std::int64_t y1) {
  const std::int64_t base = area_.left * kOne;
  x0 -= base;
  x1 -= base;
  const std::int64_t sign = x0 <= x1 ? 1 : -1;
  if (sign < 0) {
    std::swap(x0, x1);
    std::swap(y0, y1);
  }
  // From here x0 <= x1, and `sign` restores the direction in which the height counts.
  const std::int64_t first = floor_div(x0, kOne);
  const std::int64_t last = floor_div(x1, kOne);
  if (first >= area_.width()) return;
  if (last < 0) return add_cell(row, 0, sign * (y1 - y0), 0);
  if (first == last)
    return add_cell(row, static_cast<int>(first), sign * (y1 - y0),
                    sign * (y1 - y0) * (x0 + x1 - 2 * first * kOne));
  const std::int64_t rise = y1 - y0;
  const std::int64_t run = x1 - x0;
  const auto y_at = [&](std::int64_t x) { return y0 + floor_div(rise * (x - x0), run); };
  std::int64_t column = first;
  std::int64_t x = x0;
  std::int64_t y = y0;
  if (first < 0) {  // everything left of the area counts as height alone
    column = 0;
    x = 0;
    y = y_at(0);
    add_cell(row, 0, sign * (y - y0), 0);
  }
  for (; column <= last && column < area_.width(); ++column) {
    const std::int64_t next_x = std::min((column + 1) * kOne, x1);
    const std::int64_t next_y = next_x == x1 ? y1 : y_at(next_x);
    add_cell(row, static_cast<int>(column), sign * (next_y - y),
             sign * (next_y - y) * (x + next_x - 2 * column * kOne));
    x = next_x;
    y = next_y;
  }
}

void Coverage::add_cell(int row, int column, std::int64_t cover, std::int64_t area) {
  if (cover == 0) return;
  Cell& cell = cells_[static_cast<std::size_t>(row) * static_cast<std::size_t>(area_.width() + 1) +
                      static_cast<std::size_t>(column)];
  // Unsigned, so that thousands of edges in one pixel wrap around instead of overflowing.
  cell.cover = static_cast<std::int32_t>(static_cast<std::uint32_t>(cell.cover) +
                                         static_cast<std::uint32_t>(cover));
  cell.area = static_cast<std::int32_t>(static_cast<std::uint32_t>(cell.area) +
                                        static_cast<std::uint32_t>(area));
  Touched& touched = touched_[static_cast<std::size_t>(row)];
  touched.first = std::min(touched.first, column);
  touched.last = std::max(touched.last, column);
}

Coverage::Run Coverage::sweep_row(int row, FillRule rule) {
  Touched& touched = touched_[static_cast<std::size_t>(row)];
  if (touched.last < 0) return {};
  const auto value_of = [rule](std::int64_t twice_area) {
    std::int64_t covered = std::abs(twice_area);
    if (rule == FillRule::even_odd) {
      covered %= 2 * kFull;
      if (covered > kFull) covered = 2 * kFull - covered;
    }
    covered = std::min(covered, kFull);
    return static_cast<std::uint8_t>((covered * 255 + kFull / 2) / kFull);
  };
  Cell* cells =
      cells_.data() + static_cast<std::size_t>(row) * static_cast<std::size_t>(area_.width() + 1);
  std::int64_t height = 0;
  std::int64_t value_height = 0;
  std::uint8_t plain_value = 0;
  for (int x = touched.first; x <= touched.last; ++x) {
    Cell& cell = cells[x];
    height += cell.cover;
    if (cell.area == 0) {
      if (height != value_height) {
        value_height = height;
        plain_value = value_of(height * 2 * kOne);
      }
      values_[static_cast<std::size_t>(x)] = plain_value;
    } else {
      values_[static_cast<std::size_t>(x)] = value_of(height * 2 * kOne - cell.area);
    }
    cell = {};
  }
  Run run{touched.first, touched.last + 1 - touched.first};
  if (height != 0) {  // covered on to the right border
    std::memset(values_.data() + touched.last + 1, value_of(height * 2 * kOne),
                static_cast<std::size_t>(area_.width() - touched.last - 1));
    run.count = area_.width() - run.first;
  }
  touched = {area_.width() + 1, -1};
  return run;
}

}  // namespace lumvet::raster
