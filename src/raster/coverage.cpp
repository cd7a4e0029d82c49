// SPDX-License-Identifier: Apache-2.0
#include "raster/coverage.h"

#include <algorithm>
#include <array>
#include <bit>
#include <cmath>
#include <cstring>
#include <utility>

#include "base/allowance.h"

namespace lumvet::raster {
namespace {

constexpr std::int32_t kFull = 2 * kSteps * kSteps;  // twice the area of a pixel
constexpr int kLongStretch = 32;  // pixels covered alike that are worth a run of their own
constexpr int kLongGap = 32;      // pixels not covered that part one run from the next

// Wraps around.
LUMVET_INSIDE std::int32_t sum(std::int32_t a, std::int32_t b) {
  return static_cast<std::int32_t>(static_cast<std::uint32_t>(a) + static_cast<std::uint32_t>(b));
}

// Of a pixel: what was crossed up to its right side, and twice the area left of edges in it.
template <FillRule rule>
LUMVET_INSIDE std::uint8_t value_of(std::int32_t height, std::int32_t area) {
  constexpr auto kAll = static_cast<std::uint32_t>(kFull);
  constexpr std::int32_t kHighest = 1 << 21;  // more is not told apart
  std::uint32_t covered = 0;
  if (rule == FillRule::nonzero) {
    const std::int32_t kept = std::clamp(height, -kHighest, kHighest);
    const auto twice =
        static_cast<std::uint32_t>(kept) * (2 * kSteps) - static_cast<std::uint32_t>(area);
    const std::uint32_t is_negative = 0 - (twice >> 31);  // all bits or none
    covered = std::min((twice ^ is_negative) - is_negative, kAll);
  } else {  // of twice the whole, what is odd
    const auto twice =
        static_cast<std::uint32_t>(height) * (2 * kSteps) - static_cast<std::uint32_t>(area);
    const std::uint32_t odd = twice % (2 * kAll);
    covered = odd > kAll ? 2 * kAll - odd : odd;
  }
  return static_cast<std::uint8_t>((covered * 255 + kAll / 2) / kAll);
}

constexpr std::size_t kWord = 64;  // cells whose marks are together

// Whether there are marks in every quarter of a word, so that all its cells are worth a look.
bool has_many(std::uint64_t marks) {
  constexpr std::uint64_t kLowest = 0x0001000100010001;
  return ((marks - kLowest) & ~marks & (kLowest << 15)) == 0;
}

template <FillRule rule>
LUMVET_INSIDE std::int32_t values_of(const Cell* cells, std::size_t count, std::int32_t height,
                                     std::uint8_t* values) {
  std::array<std::int32_t, kWord> heights;
  std::array<std::int32_t, kWord> areas;
  for (std::size_t i = 0; i < count; ++i) {
    heights[i] = cells[i].cover();
    areas[i] = cells[i].area();
  }
  for (std::size_t i = 0; i < count; ++i) heights[i] = height = sum(height, heights[i]);
  for (std::size_t i = 0; i < count; ++i) values[i] = value_of<rule>(heights[i], areas[i]);
  return height;
}

// Of at most kWord pixels beside each other, to whose left `height` was crossed; what was crossed
// at their end.
LUMVET_WIDE std::int32_t values_of(const Cell* cells, std::size_t count, std::int32_t height,
                                   FillRule rule, std::uint8_t* values) {
  return rule == FillRule::nonzero ? values_of<FillRule::nonzero>(cells, count, height, values)
                                   : values_of<FillRule::even_odd>(cells, count, height, values);
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
  dx -= area_.left * kSteps;
  dy -= area_.top * kSteps;
  const std::int32_t right = area_.width() * kSteps;
  const std::int32_t bottom = area_.height() * kSteps;
  for (std::size_t first = 0; first < edges.all.size() && goes_on(); first += Edges::kGroup) {
    const Edges::Group& group = edges.groups[first / Edges::kGroup];
    if (group.top + dy >= bottom || group.bottom + dy <= 0 || group.left + dx >= right) continue;
    const std::size_t count = std::min(Edges::kGroup, edges.all.size() - first);
    const auto some = edges.all.subspan(first, count);
    if (group.short_edges > 0) add_short(some.first(group.short_edges), dx, dy);
    for (const Edge& e : some.subspan(group.short_edges))
      add(Edge{e.x0 + dx, e.y0 + dy, e.x1 + dx, e.y1 + dy});
  }
}

void Coverage::add_short(std::span<const Edge> edges, std::int32_t dx, std::int32_t dy) {
  take_apart(edges, dx, dy, parts_);
  const int first_row = std::max(parts_.first_row, 0);
  const int end_row = std::min(parts_.last_row + 2, area_.height());
  if (first_row >= end_row || parts_.first_column >= area_.width()) return;
  first_row_ = std::min(first_row_, first_row);
  last_row_ = std::max(last_row_, end_row);
  std::memset(&is_marked_[static_cast<std::size_t>(first_row)], 1,
              static_cast<std::size_t>(end_row - first_row));
  const bool is_inside = parts_.first_row >= 0 && parts_.last_row + 2 <= area_.height() &&
                         parts_.first_column >= 0 && parts_.last_column + 2 <= area_.width();
  if (!is_inside) return add_clipped(edges.size());
  const std::ptrdiff_t width = area_.width();
  Cell* cells = cells_.data();
  for (std::size_t i = 0; i < edges.size(); ++i) {
    Cell* row = cells + parts_.row[i] * width;
    Cell* upper = row + parts_.column[0][i];
    upper[0].add(parts_.left[0][i]);
    upper[1].add(parts_.right[0][i]);
    Cell* lower = row + width + parts_.column[1][i];
    lower[0].add(parts_.left[1][i]);
    lower[1].add(parts_.right[1][i]);
  }
  mark(edges.size());
}

// Of edges that reach over the border of the area. What is left of it counts as height alone.
void Coverage::add_clipped(std::size_t count) {
  const auto add_cell = [&](const Row& row, std::int32_t column, const Cell& cell) {
    if (column >= area_.width() || cell == Cell()) return;
    if (column < 0) return row.add_left(cell.cover());
    row.add(column, cell);
  };
  for (std::size_t i = 0; i < count; ++i)
    for (const std::size_t below : {0, 1}) {
      const std::int32_t row = parts_.row[i] + static_cast<std::int32_t>(below);
      if (row < 0 || row >= area_.height()) continue;
      add_cell(row_at(row), parts_.column[below][i], parts_.left[below][i]);
      add_cell(row_at(row), parts_.column[below][i] + 1, parts_.right[below][i]);
    }
}

// Cells that edges within the area add to; where there are many edges in a small place, all of it.
void Coverage::mark(std::size_t count) {
  constexpr std::int32_t kFewColumns = 24;
  constexpr std::int32_t kFewCells = 4;  // for each edge
  const auto words = static_cast<std::ptrdiff_t>(words_);
  const std::int32_t columns = parts_.last_column + 2 - parts_.first_column;
  const std::int32_t rows = parts_.last_row + 2 - parts_.first_row;
  std::uint64_t* at = marks_.data() + parts_.first_row * words;
  if (columns <= kFewColumns && columns * rows <= kFewCells * static_cast<std::int32_t>(count)) {
    const std::uint64_t bits = (std::uint64_t{1} << columns) - 1;
    const int shift = parts_.first_column % 64;
    at += parts_.first_column / 64;
    for (std::int32_t row = 0; row < rows; ++row, at += words) {
      at[0] |= bits << shift;
      if (shift + columns > 64) at[1] |= bits >> (64 - shift);
    }
    return;
  }
  for (std::size_t i = 0; i < count; ++i)
    for (const std::size_t below : {0, 1}) {
      std::uint64_t* row =
          marks_.data() + (parts_.row[i] + static_cast<std::ptrdiff_t>(below)) * words;
      const std::int32_t column = parts_.column[below][i];
      row[column / 64] |= std::uint64_t{1} << (column % 64);
      row[(column + 1) / 64] |= std::uint64_t{1} << ((column + 1) % 64);
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
  const int last = part.x1 >> kStepBits;
  int column = part.x0 >> kStepBits;
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
    const std::int32_t next_x = (column + 1) * kSteps;
    const std::int32_t next_y = y_at(next_x);
    const std::int32_t cover = sign * (next_y - y);
    row.add(column, cover, cover * (x + next_x - 2 * column * kSteps));
    x = next_x;
    y = next_y;
  }
  if (last >= width) return;
  const std::int32_t cover = sign * (part.y1 - y);
  row.add(last, cover, cover * (x + part.x1 - 2 * last * kSteps));
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
  const int top = std::max(y0 >> kStepBits, 0);
  const int bottom = std::min((y1 + kSteps - 1) >> kStepBits, area_.height());
  if (top >= bottom || (x0 >> kStepBits >= area_.width() && x1 >> kStepBits >= area_.width()))
    return;
  first_row_ = std::min(first_row_, top);
  last_row_ = std::max(last_row_, bottom);
  if (x0 == x1) return add_upright(x0, y0, y1, sign);
  const bool is_in_one_row = y0 >> kStepBits == (y1 - 1) >> kStepBits;
  const std::int64_t slope = is_in_one_row ? 0 : slope_of(x1 - x0, y1 - y0);
  const auto x_at = [&](std::int32_t y) {
    constexpr std::int64_t kHalf = std::int64_t{1} << 31;
    return x0 + static_cast<std::int32_t>((slope * (y - y0) + kHalf) >> 32);
  };
  std::int32_t y = std::max(y0, top * kSteps);
  std::int32_t x = y == y0 ? x0 : x_at(y);
  const std::int32_t end_y = std::min(bottom * kSteps, y1);
  const std::int32_t end_x = end_y == y1 ? x1 : x_at(end_y);
  if (std::max(x, end_x) < 0) return add_left(y, end_y, sign);
  if (std::min(x, end_x) >> kStepBits >= area_.width()) return;
  const int width = area_.width();
  std::int64_t rise = 0;  // unless a border of columns is crossed within a row
  Row cells = row_at(top);
  for (int row = top; row < bottom; ++row) {
    const std::int32_t next_y = std::min((row + 1) * kSteps, y1);
    const std::int32_t next_x = next_y == y1 ? x1 : x_at(next_y);
    const int column = x >> kStepBits;
    if (column == next_x >> kStepBits) {
      const std::int32_t cover = sign * (next_y - y);
      if (column < 0)
        cells.add_left(cover);
      else if (column < width)
        cells.add(column, cover, cover * (x + next_x - 2 * column * kSteps));
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
  has_upright_ = true;
  const std::int32_t end = std::min(y1, area_.height() * kSteps);
  if (x < 0) return add_left(std::max(y0, 0), end, sign);
  const int column = x >> kStepBits;
  const std::int32_t twice_left = 2 * (x & (kSteps - 1));
  for (std::int32_t y = std::max(y0, 0); y < end;) {
    const std::int32_t row = y >> kStepBits;
    const std::int32_t next = std::min((row + 1) * kSteps, end);
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
  const std::int32_t first = y0 >> kStepBits;
  const std::int32_t last = (y1 - 1) >> kStepBits;
  if (first == last) return add(first, first + 1, sign * (y1 - y0));
  add(first, first + 1, sign * ((first + 1) * kSteps - y0));
  add(first + 1, last, sign * kSteps);
  add(last, last + 1, sign * (y1 - last * kSteps));
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

// The runs of one row, from the left. Pixels between two cells that were added to are covered
// alike; long stretches of them become runs without values.
template <FillRule rule>
class Coverage::RowRuns {
 public:
  RowRuns(std::vector<Run>& runs, std::uint8_t* values, int y, int left)
      : runs_(runs), values_(values), y_(y), left_(left) {}

  // What lies between what was there and `end` has all of the height that was crossed.
  void stretch_to(int end, std::int32_t height) {
    if (end == next_) return;
    if (height != 0 || begin_ >= 0) return stretch(end, height);
    next_ = end;
  }
  // Values of cells follow.
  void take(int column, int count) {
    if (begin_ < 0) begin_ = column;
    next_ = column + count;
  }
  void finish() {
    if (begin_ >= 0) runs_.push_back({y_, left_ + begin_, next_ - begin_, values_ + begin_, 0});
    begin_ = -1;
  }

 private:
  void stretch(int end, std::int32_t height) {
    const std::uint8_t value = height == 0 ? std::uint8_t{0} : value_of<rule>(height, 0);
    if (value == 0 && (begin_ < 0 || end - next_ >= kLongGap)) {
      finish();
    } else if (value != 0 && end - next_ >= kLongStretch) {
      finish();
      runs_.push_back({y_, left_ + next_, end - next_, nullptr, value});
    } else {
      if (begin_ < 0) begin_ = next_;
      std::memset(values_ + next_, value, static_cast<std::size_t>(end - next_));
    }
    next_ = end;
  }

  std::vector<Run>& runs_;
  std::uint8_t* values_;
  int y_;
  int left_;
  int next_ = 0;    // the pixel after those that are done
  int begin_ = -1;  // of values that are no run yet
};

template <FillRule rule>
void Coverage::sweep_row(int row, std::int32_t left, bool is_kept) {
  runs_.clear();
  const Row added = row_at(row);
  has_last_ = is_kept;
  last_left_ = left;
  if (is_kept) std::copy_n(added.marks, words_, last_marks_.data());
  std::int32_t height = left;
  RowRuns<rule> runs(runs_, values_.data(), area_.top + row, area_.left);
  for (std::size_t word = 0; word < words_; ++word) {
    if (added.marks[word] == 0) continue;
    std::uint64_t bits = std::exchange(added.marks[word], 0);
    const int begin = static_cast<int>(word * kWord);
    const bool is_full = has_many(bits);
    while (bits != 0) {
      const int first = is_full ? 0 : std::countr_zero(bits);
      const int count = is_full ? std::min(static_cast<int>(kWord), area_.width() - begin)
                                : std::countr_one(bits >> first);
      bits &= is_full || first + count == 64 ? 0 : ~std::uint64_t{0} << (first + count);
      runs.stretch_to(begin + first, height);
      runs.take(begin + first, count);
      height = take_cells<rule>(added.cells, begin + first, count, height, is_kept);
    }
  }
  if (height != 0) runs.stretch_to(area_.width(), height);
  runs.finish();
}

// The values of cells beside each other, which are forgotten; what was crossed at their end.
template <FillRule rule>
std::int32_t Coverage::take_cells(Cell* row, int column, int count, std::int32_t height,
                                  bool is_kept) {
  constexpr int kMany = 16;
  Cell* const cells = row + column;
  std::uint8_t* const values = values_.data() + column;
  if (is_kept) std::copy_n(cells, count, last_cells_.data() + column);
  if (count < kMany) {
    for (int i = 0; i < count; ++i) {
      const Cell cell = std::exchange(cells[i], {});
      height = sum(height, cell.cover());
      values[i] = value_of<rule>(height, cell.area());
    }
    return height;
  }
  height = values_of(cells, static_cast<std::size_t>(count), height, rule, values);
  std::fill_n(cells, count, Cell());
  return height;
}

template void Coverage::sweep_row<FillRule::nonzero>(int, std::int32_t, bool);
template void Coverage::sweep_row<FillRule::even_odd>(int, std::int32_t, bool);

namespace {

// How much of a pixel lies between two places, in 1/256.
std::int32_t part_between(std::int32_t low, std::int32_t high, int pixel) {
  return std::max(0, std::min(high, (pixel + 1) * kSteps) - std::max(low, pixel * kSteps));
}

}  // namespace

Coverage::UprightBox::UprightBox(const Rect& r, const PixelRect& area) {
  left = in_steps(r.left);
  right = in_steps(r.right);
  top = in_steps(r.bottom);  // y runs downward
  bottom = in_steps(r.top);
  first_column = std::max(left >> kStepBits, area.left);
  end_column = std::min((right + kSteps - 1) >> kStepBits, area.right);
  first_row = std::max(top >> kStepBits, area.top);
  end_row = std::min((bottom + kSteps - 1) >> kStepBits, area.bottom);
}

void Coverage::add_runs(const UprightBox& box, int y) {
  const std::int32_t height = part_between(box.top, box.bottom, y);
  const auto value_at = [&](int x) {
    return value_of<FillRule::nonzero>(0, 2 * height * part_between(box.left, box.right, x));
  };
  int x = box.first_column;
  while (x < box.end_column) {
    // The first and the last pixel by themselves, those between them together.
    const std::uint8_t value = value_at(x);
    const bool is_edge = part_between(box.left, box.right, x) != kSteps;
    const int end =
        is_edge ? x + 1 : std::max(x + 1, std::min(box.right >> kStepBits, box.end_column));
    if (value != 0) runs_.push_back({y, x, end - x, nullptr, value});
    x = end;
  }
}

}  // namespace lumvet::raster
