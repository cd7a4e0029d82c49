// SPDX-License-Identifier: Apache-2.0
#include "text/turned_blocks.h"

#include <algorithm>
#include <numeric>
#include <optional>

#include "base/allowance.h"

namespace lumvet::text {
namespace {

// In the frame of the first direction, `top` above `bottom`.
struct Extent {
  static constexpr double kFar = 1e30;
  double left = kFar;
  double right = -kFar;
  double top = kFar;
  double bottom = -kFar;
  double size = 0;  // of its largest letters

  bool is_empty() const { return left > right; }
  void include(const Extent& other) {
    left = std::min(left, other.left);
    right = std::max(right, other.right);
    top = std::min(top, other.top);
    bottom = std::max(bottom, other.bottom);
    size = std::max(size, other.size);
  }
};

struct Block {
  LinesOf lines;
  Extent extent;
};

class Places {
 public:
  explicit Places(const std::vector<LaidDirection>& laid) : laid_(laid) {}

  Extent of_cell(std::size_t direction, const std::vector<std::size_t>& cell) const {
    const Direction& frame = *laid_.front().direction;
    const LaidDirection& own = laid_[direction];
    Extent extent;
    for (const std::size_t at : cell) {
      const Piece& piece = own.pieces[at];
      for (const float along : {piece.begin, piece.end})
        for (const float across : {piece.top, piece.bottom}) {
          const Point corner = own.direction->to_display(along, across);
          const double x = frame.place_along(corner);
          const double y = frame.place_across(corner);
          extent.include({x, x, y, y, piece.size});
        }
    }
    return extent;
  }

  Extent of_line(std::size_t direction, std::size_t line) const {
    Extent extent;
    for (const auto& cell : laid_[direction].lines[line].cells)
      extent.include(of_cell(direction, cell));
    return extent;
  }

  // Where a line's lower end is, along the frame.
  double foot_of_line(std::size_t direction, std::size_t line) const {
    const Direction& frame = *laid_.front().direction;
    const LaidDirection& own = laid_[direction];
    Extent extent;  // in its own direction
    for (const auto& cell : own.lines[line].cells)
      for (const std::size_t at : cell) {
        const Piece& piece = own.pieces[at];
        extent.include({piece.begin, piece.end, piece.top, piece.bottom, piece.size});
      }
    const double middle = (extent.top + extent.bottom) / 2;
    const Point begin = own.direction->to_display(extent.left, middle);
    const Point end = own.direction->to_display(extent.right, middle);
    return frame.place_along(frame.place_across(begin) > frame.place_across(end) ? begin : end);
  }

  std::vector<Block> blocks_of(std::size_t direction) const {
    const LaidDirection& own = laid_[direction];
    std::vector<Block> blocks;
    for (std::size_t i = 0; i < own.lines.size(); ++i) {
      if (own.lines[i].begins_block || blocks.empty()) blocks.push_back({{direction, i, i}, {}});
      blocks.back().lines.end = i + 1;
      blocks.back().extent.include(of_line(direction, i));
    }
    return blocks;
  }

  const std::vector<LaidDirection>& laid() const { return laid_; }

 private:
  const std::vector<LaidDirection>& laid_;
};

// Before which of the first direction's blocks another one is read; behind all where none tells.
std::size_t place_among(const std::vector<Block>& blocks, const Extent& turned) {
  constexpr double kBeside = 0.5;  // of the narrower one, by which it may stand aside
  std::size_t found = blocks.size();
  std::size_t met = 0;
  for (std::size_t i = 0; i < blocks.size(); ++i) {
    const Extent& block = blocks[i].extent;
    const double shared = std::min(block.right, turned.right) - std::max(block.left, turned.left);
    met += shared > 0 && block.top < turned.bottom && turned.top < block.bottom ? 1 : 0;
    const double narrower = std::min(block.right - block.left, turned.right - turned.left);
    if (found == blocks.size() && shared >= -kBeside * narrower && block.bottom >= turned.bottom)
      found = i;
  }
  return met > 1 ? blocks.size() : found;
}

// A table of the first direction, and which turned lines can be heads of its columns.
class HeadedTable {
 public:
  HeadedTable(const Places& places, const Block& block) : places_(places) {
    const auto& lines = places.laid().front().lines;
    const std::size_t first = block.lines.first;
    columns_.resize(lines[first].cells.size());
    heads_.columns.resize(columns_.size());
    is_free_.assign(columns_.size(), true);
    for (std::size_t i = first; i < block.lines.end; ++i) {
      const OrderedLine& row = lines[i];
      if (!row.is_row || row.cells.size() != columns_.size()) {
        columns_.clear();
        return;
      }
      for (std::size_t column = 0; column < columns_.size();) {
        const std::size_t span =
            row.spans.empty() ? 1 : std::max<std::size_t>(row.spans[column], 1);
        if (span == 1) columns_[column].include(places.of_cell(0, row.cells[column]));
        for (std::size_t of = 0; i == first && of < span && column + of < columns_.size(); ++of)
          is_free_[column + of] = span == 1 && row.cells[column].empty();
        column += span;
      }
    }
    first_row_ = places.of_line(0, first);
    top_ = first_row_.top;
    for (std::size_t i = first + 1; i < block.lines.end; ++i)
      below_first_.include(places.of_line(0, i));
  }

  // Takes turned blocks of which all lines are heads, the lowest first; those that are taken are
  // gone from the list. Nothing where they do not make a row of their own, nor fit into the first
  // one.
  std::optional<TurnedHeads> take_from(std::vector<Block>& turned) {
    std::vector<std::size_t> order(turned.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
      return turned[a].extent.bottom > turned[b].extent.bottom;
    });
    std::vector<bool> is_taken(turned.size());
    for (const std::size_t i : order) {
      if (!goes_on()) return std::nullopt;
      is_taken[i] = stands_over(turned[i].extent) && take(turned[i]);
    }
    std::size_t headed = 0;
    bool fits = true;
    for (std::size_t column = 0; column < columns_.size(); ++column) {
      std::vector<LineAt>& lines = heads_.columns[column];
      if (lines.empty()) continue;
      std::sort(lines.begin(), lines.end());
      ++headed;
      fits = fits && is_free_[column];
    }
    if (headed < 2 || (!heads_.are_a_row && !fits)) return std::nullopt;
    std::size_t kept = 0;
    for (std::size_t i = 0; i < turned.size(); ++i)
      if (!is_taken[i]) turned[kept++] = turned[i];
    turned.resize(kept);
    return std::move(heads_);
  }

 private:
  static constexpr double kTouching = 0.3;  // parts of the font size
  static constexpr double kNear = 3;

  bool take(const Block& turned) {
    std::vector<std::size_t> columns;
    bool is_above = true;
    for (std::size_t i = turned.lines.first; i < turned.lines.end; ++i) {
      const Extent line = places_.of_line(turned.lines.direction, i);
      const double foot = places_.foot_of_line(turned.lines.direction, i);
      const auto column = column_under(foot, kNear * line.size);
      if (!column || !stands_over(line)) return false;
      is_above = is_above && line.bottom <= first_row_.top + kTouching * line.size;
      columns.push_back(*column);
    }
    heads_.are_a_row = heads_.are_a_row && is_above;
    top_ = std::min(top_, turned.extent.top);
    for (std::size_t i = 0; i < columns.size(); ++i)
      heads_.columns[columns[i]].push_back({turned.lines.direction, turned.lines.first + i});
    return true;
  }

  // The one that is nearest to a place, if not too far away.
  std::optional<std::size_t> column_under(double place, double farthest) const {
    std::optional<std::size_t> nearest;
    double least = farthest;
    for (std::size_t i = 0; i < columns_.size(); ++i) {
      const Extent& column = columns_[i];
      if (column.is_empty()) continue;
      const double away = std::max({column.left - place, place - column.right, 0.0});
      if (away >= least) continue;
      nearest = i;
      least = away;
    }
    return nearest;
  }

  bool stands_over(const Extent& line) const {
    const double below = below_first_.is_empty() ? first_row_.bottom : below_first_.top;
    return line.bottom <= below + kTouching * line.size && line.bottom >= top_ - kNear * line.size;
  }

  const Places& places_;
  std::vector<Extent> columns_;
  std::vector<bool> is_free_;  // of each column, whether its cell of the first row is empty
  Extent first_row_;
  Extent below_first_;
  double top_ = 0;  // of the table, with the heads that were taken
  TurnedHeads heads_{.columns = {}, .are_a_row = true};
};

}  // namespace

std::vector<LinesOf> in_reading_order(const std::vector<LaidDirection>& laid) {
  constexpr std::size_t kMostPairs = 1'000'000;  // of blocks; more are read by their directions
  if (laid.size() == 1) return {{0, 0, laid.front().lines.size()}};
  const Places places(laid);
  std::vector<Block> blocks = places.blocks_of(0);
  std::vector<Block> turned;
  for (std::size_t i = 1; i < laid.size() && goes_on(); ++i) {
    const std::vector<Block> some = places.blocks_of(i);
    turned.insert(turned.end(), some.begin(), some.end());
  }
  const bool are_few = blocks.size() * turned.size() <= kMostPairs;
  for (Block& block : blocks)
    if (are_few && laid.front().lines[block.lines.first].is_row && goes_on())
      if (auto heads = HeadedTable(places, block).take_from(turned))
        block.lines.heads = std::move(*heads);
  std::vector<std::vector<LinesOf>> before(blocks.size() + 1);
  for (const Block& block : turned) {
    const std::size_t place = are_few ? place_among(blocks, block.extent) : blocks.size();
    before[place].push_back(block.lines);
  }
  std::vector<LinesOf> order;
  for (std::size_t i = 0; i <= blocks.size(); ++i) {
    order.insert(order.end(), before[i].begin(), before[i].end());
    if (i < blocks.size()) order.push_back(blocks[i].lines);
  }
  return order;
}

}  // namespace lumvet::text
