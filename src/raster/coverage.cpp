// SPDX-License-Identifier: Apache-2.0
#include "raster/coverage.h"

#include <algorithm>
#include <bit>
#include <cmath>
#include <cstring>
#include <utility>

#include "base/allowance.h"
#include "raster/passed_twice.h"

namespace lumvet::raster {
namespace {

constexpr int kBits = 8;
constexpr std::int32_t kOne = 1 << kBits;        // one pixel
constexpr std::int64_t kFull = 2 * kOne * kOne;  // twice the area of a pixel
constexpr double kFarthest = 1 << 20;  // pixels; lines are cut there, so that numbers fit 32 bits
constexpr int kLongStretch = 32;       // pixels covered alike that are worth a run of their own
constexpr int kLongGap = 32;           // pixels not covered that part one run from the next

// Without a call, unlike std::floor on machines that lack an instruction for it.
std::int32_t rounded_down(double value) {
  const auto toward_zero = static_cast<std::int32_t>(value);
  return toward_zero - (value < toward_zero ? 1 : 0);
}

std::int32_t fixed(double pixels) { return rounded_down(pixels * kOne + 0.5); }

bool is_far(Point p) { return !(std::abs(p.x) <= kFarthest && std::abs(p.y) <= kFarthest); }

// Cut in height first, then what is too far to the side is pushed onto the border, where it covers
// the same pixels. False when nothing is left.
bool cut(Point& from, Point& to) {
  if (std::isnan(from.x + from.y + to.x + to.y)) return false;
  if (std::max(from.y, to.y) < -kFarthest || std::min(from.y, to.y) > kFarthest) return false;
  const Point start = from;
  const Point end = to;
  for (Point* p : {&from, &to}) {
    const double y = std::clamp(p->y, -kFarthest, kFarthest);
    if (y != p->y) *p = {start.x + (end.x - start.x) * ((y - start.y) / (end.y - start.y)), y};
    p->x = std::clamp(p->x, -kFarthest, kFarthest);
  }
  return true;
}

std::uint8_t value_of(std::int64_t twice_area, FillRule rule) {
  std::int64_t covered = std::abs(twice_area);
  if (rule == FillRule::even_odd) {
    covered %= 2 * kFull;
    if (covered > kFull) covered = 2 * kFull - covered;
  }
  covered = std::min(covered, kFull);
  return static_cast<std::uint8_t>(static_cast<std::uint64_t>(covered * 255 + kFull / 2) / kFull);
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

std::int32_t in_steps(double pixels) { return fixed(std::clamp(pixels, -kFarthest, kFarthest)); }

Edges edges_of(const std::vector<Polyline>& lines, FillRule rule) {
  Edges edges;
  std::size_t count = 0;
  for (const Polyline& line : lines) count += line.points.size();
  edges.all.reserve(count);
  const auto add = [&edges](const Edge& edge) {
    if (edge.y0 != edge.y1) edges.all.push_back(edge);
  };
  for (const Polyline& line : lines) {
    if (line.points.size() < 2) continue;
    Point from = line.points.back();
    bool is_from_far = is_far(from);
    std::int32_t x = is_from_far ? 0 : fixed(from.x);
    std::int32_t y = is_from_far ? 0 : fixed(from.y);
    for (const Point to : line.points) {
      const bool is_to_far = is_far(to);
      const std::int32_t next_x = is_to_far ? 0 : fixed(to.x);
      const std::int32_t next_y = is_to_far ? 0 : fixed(to.y);
      if (!is_from_far && !is_to_far) {
        add({x, y, next_x, next_y});
      } else {
        Point a = from;
        Point b = to;
        if (cut(a, b)) add({fixed(a.x), fixed(a.y), fixed(b.x), fixed(b.y)});
      }
      from = to;
      is_from_far = is_to_far;
      x = next_x;
      y = next_y;
    }
  }
  if (rule == FillRule::even_odd) take_out_passed_twice(edges.all);
  if (edges.all.size() <= Edges::kGroup) return edges;
  for (std::size_t first = 0; first < edges.all.size(); first += Edges::kGroup) {
    const Edge& edge = edges.all[first];
    Edges::Bounds bounds{edge.x0, edge.y0, edge.y0};
    for (std::size_t i = first; i < std::min(first + Edges::kGroup, edges.all.size()); ++i) {
      const Edge& e = edges.all[i];
      bounds.left = std::min({bounds.left, e.x0, e.x1});
      bounds.top = std::min({bounds.top, e.y0, e.y1});
      bounds.bottom = std::max({bounds.bottom, e.y0, e.y1});
    }
    edges.groups.push_back(bounds);
  }
  return edges;
}

// All that is added up is zero between sweeps, wherever it belongs to.
void Coverage::cover(const PixelRect& area) {
  area_ = area;
  words_ = static_cast<std::size_t>(area.width() + 63) / 64;
  const auto rows = static_cast<std::size_t>(area.height());
  const auto columns = static_cast<std::size_t>(area.width());
  if (cells_.size() < columns * rows) cells_.resize(columns * rows);
  if (marks_.size() < words_ * rows) marks_.resize(words_ * rows);
  if (is_marked_.size() < rows) is_marked_.resize(rows);
  if (left_.size() < rows + 1) left_.resize(rows + 1);
  if (values_.size() < columns) values_.resize(columns);
  if (last_marks_.size() < words_) last_marks_.resize(words_);
  if (last_cells_.size() < columns) last_cells_.resize(columns);
  first_row_ = area.height();
  last_row_ = 0;
}

void Coverage::add(const EdgeView& edges, std::int32_t dx, std::int32_t dy) {
  const std::int32_t left = area_.left * kOne;
  const std::int32_t top = area_.top * kOne;
  const std::int32_t bottom = area_.bottom * kOne;
  const std::int32_t right = area_.right * kOne;
  const auto add_some = [&](std::size_t first, std::size_t end) {
    for (std::size_t i = first; i < end; ++i) {
      const Edge& e = edges.all[i];
      add(Edge{e.x0 + dx - left, e.y0 + dy - top, e.x1 + dx - left, e.y1 + dy - top});
    }
  };
  if (edges.groups.empty()) return add_some(0, edges.all.size());
  for (std::size_t group = 0; group < edges.groups.size() && goes_on(); ++group) {
    const Edges::Bounds& bounds = edges.groups[group];
    if (bounds.top + dy >= bottom || bounds.bottom + dy <= top || bounds.left + dx >= right)
      continue;
    const std::size_t first = group * Edges::kGroup;
    add_some(first, std::min(first + Edges::kGroup, edges.all.size()));
  }
}

Coverage::Row Coverage::row_at(int row) {
  const auto at = static_cast<std::size_t>(row);
  return {cells_.data() + at * static_cast<std::size_t>(area_.width()), marks_.data() + at * words_,
          left_.data() + at};
}

// A piece of an edge within one row of pixels, from left to right cell by cell; `sign` says which
// way its height counts, `y_at(x)` where it crosses the border of two columns.
template <typename YAt>
void Coverage::add_row_part(const Row& row, const Edge& part, std::int32_t sign, const YAt& y_at) {
  const int width = area_.width();
  const int last = part.x1 >> kBits;
  int column = part.x0 >> kBits;
  if (column >= width) return;
  if (last < 0) return row.add_left(sign * (part.y1 - part.y0));
  std::int32_t x = part.x0;
  std::int32_t y = part.y0;
  if (column < 0) {  // everything left of the area counts as height alone
    column = 0;
    x = 0;
    y = y_at(0);
    row.add(0, sign * (y - part.y0), 0);
  }
  for (const int end = std::min(last, width); column < end; ++column) {
    const std::int32_t next_x = (column + 1) * kOne;
    const std::int32_t next_y = y_at(next_x);
    const std::int32_t cover = sign * (next_y - y);
    row.add(column, cover, cover * (x + next_x - 2 * column * kOne));
    x = next_x;
    y = next_y;
  }
  if (last >= width) return;
  const std::int32_t cover = sign * (part.y1 - y);
  row.add(last, cover, cover * (x + part.x1 - 2 * last * kOne));
}

namespace {

// How much `rise` goes up or down for each step of `run`, which is not 0, in 2^-32.
std::int64_t slope_of(std::int32_t rise, std::int32_t run) {
  constexpr double kOneStep = 4294967296.0;
  return static_cast<std::int64_t>(static_cast<double>(rise) * kOneStep / run);
}

// By how much a line has gone up or down after `steps`, rounded down.
std::int32_t along(std::int64_t slope, std::int64_t steps) {
  return static_cast<std::int32_t>(slope * steps >> 32);
}

}  // namespace

// An edge in the area's own places. Where it crosses the borders of rows and of columns follows
// from the whole edge, whatever part of it lies within the area.
void Coverage::add(const Edge& edge) {
  const bool upward = edge.y0 > edge.y1;
  const std::int32_t x0 = upward ? edge.x1 : edge.x0;
  const std::int32_t y0 = upward ? edge.y1 : edge.y0;
  const std::int32_t x1 = upward ? edge.x0 : edge.x1;
  const std::int32_t y1 = upward ? edge.y0 : edge.y1;
  const std::int32_t sign = upward ? -1 : 1;
  const int top = std::max(y0 >> kBits, 0);
  const int bottom = std::min((y1 + kOne - 1) >> kBits, area_.height());
  if (top >= bottom || (x0 >> kBits >= area_.width() && x1 >> kBits >= area_.width())) return;
  first_row_ = std::min(first_row_, top);
  last_row_ = std::max(last_row_, bottom);
  if (x0 == x1) return add_upright(x0, y0, y1, sign);
  const bool is_in_one_row = y0 >> kBits == (y1 - 1) >> kBits;
  const std::int64_t slope = is_in_one_row ? 0 : slope_of(x1 - x0, y1 - y0);
  const auto x_at = [&](std::int32_t y) {
    constexpr std::int64_t kHalf = std::int64_t{1} << 31;
    return x0 + static_cast<std::int32_t>((slope * (y - y0) + kHalf) >> 32);
  };
  std::int32_t y = std::max(y0, top * kOne);
  std::int32_t x = y == y0 ? x0 : x_at(y);
  const std::int32_t end_y = std::min(bottom * kOne, y1);
  const std::int32_t end_x = end_y == y1 ? x1 : x_at(end_y);
  if (std::max(x, end_x) < 0) return add_left(y, end_y, sign);
  if (std::min(x, end_x) >> kBits >= area_.width()) return;
  const int width = area_.width();
  std::int64_t rise = 0;  // unless a border of columns is crossed within a row
  Row cells = row_at(top);
  for (int row = top; row < bottom; ++row) {
    const std::int32_t next_y = std::min((row + 1) * kOne, y1);
    const std::int32_t next_x = next_y == y1 ? x1 : x_at(next_y);
    const int column = x >> kBits;
    if (column == next_x >> kBits) {
      const std::int32_t cover = sign * (next_y - y);
      if (column < 0)
        cells.add_left(cover);
      else if (column < width)
        cells.add(column, cover, cover * (x + next_x - 2 * column * kOne));
    } else {
      if (rise == 0) rise = slope_of(y1 - y0, x1 - x0);
      const auto y_at = [&](std::int32_t border) {
        return std::clamp(y0 + along(rise, std::int64_t{border} - x0), y, next_y);
      };
      if (x < next_x)
        add_row_part(cells, {x, y, next_x, next_y}, sign, y_at);
      else
        add_row_part(cells, {next_x, next_y, x, y}, -sign, y_at);
    }
    x = next_x;
    y = next_y;
    cells.cells += width;
    cells.marks += words_;
    ++cells.left;
  }
  std::memset(&is_marked_[static_cast<std::size_t>(top)], 1,
              static_cast<std::size_t>(bottom - top));
}

// An upright edge from `y0` down to `y1`, whose height counts as `sign` says.
void Coverage::add_upright(std::int32_t x, std::int32_t y0, std::int32_t y1, std::int32_t sign) {
  const std::int32_t end = std::min(y1, area_.height() * kOne);
  if (x < 0) return add_left(std::max(y0, 0), end, sign);
  const int column = x >> kBits;
  const std::int32_t twice_left = 2 * (x & (kOne - 1));
  for (std::int32_t y = std::max(y0, 0); y < end;) {
    const std::int32_t row = y >> kBits;
    const std::int32_t next = std::min((row + 1) * kOne, end);
    const std::int32_t cover = sign * (next - y);
    row_at(row).add(column, cover, cover * twice_left);
    is_marked_[static_cast<std::size_t>(row)] = 1;
    y = next;
  }
}

// An edge left of the area from `y0` down to `y1`, both within it.
void Coverage::add_left(std::int32_t y0, std::int32_t y1, std::int32_t sign) {
  const auto add = [&](std::int32_t row, std::int32_t end, std::int32_t height) {
    left_[static_cast<std::size_t>(row)] += static_cast<std::uint32_t>(height);
    left_[static_cast<std::size_t>(end)] -= static_cast<std::uint32_t>(height);
  };
  const std::int32_t first = y0 >> kBits;
  const std::int32_t last = (y1 - 1) >> kBits;
  if (first == last) return add(first, first + 1, sign * (y1 - y0));
  add(first, first + 1, sign * ((first + 1) * kOne - y0));
  add(first + 1, last, sign * kOne);
  add(last, last + 1, sign * (y1 - last * kOne));
}

bool Coverage::takes_last(int row, std::int32_t left) {
  if (!has_last_ || left != last_left_) return false;
  const Row added = row_at(row);
  for (std::size_t word = 0; word < words_; ++word)
    if (added.marks[word] != last_marks_[word]) return false;
  const auto all_cells = [&](const auto& is_so) {
    for (std::size_t word = 0; word < words_; ++word)
      for (std::uint64_t bits = last_marks_[word]; bits != 0; bits &= bits - 1)
        if (!is_so(word * 64 + static_cast<std::size_t>(std::countr_zero(bits)))) return false;
    return true;
  };
  if (!all_cells([&](std::size_t i) { return added.cells[i] == last_cells_[i]; })) return false;
  all_cells([&](std::size_t i) {
    added.cells[i] = {};
    return true;
  });
  std::fill_n(added.marks, words_, std::uint64_t{0});
  for (Run& run : runs_) run.y = area_.top + row;
  return true;
}

// Pixels between two cells that were added to are covered alike; long stretches of them become runs
// without values.
void Coverage::sweep_row(int row, std::int32_t left, FillRule rule) {
  runs_.clear();
  std::uint64_t* marks = &marks_[static_cast<std::size_t>(row) * words_];
  Cell* cells = &cells_[static_cast<std::size_t>(row) * static_cast<std::size_t>(area_.width())];
  Cell* last = last_cells_.data();
  has_last_ = true;
  last_left_ = left;
  std::uint8_t* values = values_.data();
  const int y = area_.top + row;
  std::int64_t height = left;
  int next = 0;    // the pixel after those that are done
  int begin = -1;  // of values that are no run yet
  const auto finish = [&](int end) {
    if (begin >= 0) runs_.push_back({y, area_.left + begin, end - begin, values + begin, 0});
    begin = -1;
  };
  const auto stretch_to = [&](int end) {
    if (end == next) return;
    const std::uint8_t value = height == 0 ? std::uint8_t{0} : value_of(height * 2 * kOne, rule);
    if (value == 0 && (begin < 0 || end - next >= kLongGap)) {
      finish(next);
    } else if (value != 0 && end - next >= kLongStretch) {
      finish(next);
      runs_.push_back({y, area_.left + next, end - next, nullptr, value});
    } else {
      if (begin < 0) begin = next;
      std::memset(values + next, value, static_cast<std::size_t>(end - next));
    }
    next = end;
  };
  for (std::size_t word = 0; word < words_; ++word)
    for (std::uint64_t bits = last_marks_[word] = std::exchange(marks[word], 0); bits != 0;) {
      const int first = std::countr_zero(bits);
      const int count = std::countr_one(bits >> first);
      bits &= first + count == 64 ? 0 : ~std::uint64_t{0} << (first + count);
      const int column = static_cast<int>(word) * 64 + first;
      stretch_to(column);
      if (begin < 0) begin = column;
      for (next = column; next < column + count; ++next) {
        const Cell cell = std::exchange(cells[next], {});
        last[next] = cell;
        height += cell.cover();
        values[next] = value_of(height * 2 * kOne - cell.area(), rule);
      }
    }
  if (height != 0) stretch_to(area_.width());
  finish(next);
}

namespace {

// How much of a pixel lies between two places, in 1/256.
std::int32_t part_between(std::int32_t low, std::int32_t high, int pixel) {
  return std::max(0, std::min(high, (pixel + 1) * kOne) - std::max(low, pixel * kOne));
}

}  // namespace

Coverage::UprightBox::UprightBox(const Rect& r, const PixelRect& area) {
  left = in_steps(r.left);
  right = in_steps(r.right);
  top = in_steps(r.bottom);  // y runs downward
  bottom = in_steps(r.top);
  first_column = std::max(left >> kBits, area.left);
  end_column = std::min((right + kOne - 1) >> kBits, area.right);
  first_row = std::max(top >> kBits, area.top);
  end_row = std::min((bottom + kOne - 1) >> kBits, area.bottom);
}

void Coverage::add_runs(const UprightBox& box, int y) {
  const std::int64_t height = part_between(box.top, box.bottom, y);
  const auto value_at = [&](int x) {
    return value_of(2 * height * part_between(box.left, box.right, x), FillRule::nonzero);
  };
  int x = box.first_column;
  while (x < box.end_column) {
    // The first and the last pixel by themselves, those between them together.
    const std::uint8_t value = value_at(x);
    const bool is_edge = part_between(box.left, box.right, x) != kOne;
    const int end = is_edge ? x + 1 : std::max(x + 1, std::min(box.right >> kBits, box.end_column));
    if (value != 0) runs_.push_back({y, x, end - x, nullptr, value});
    x = end;
  }
}

}  // namespace lumvet::raster
