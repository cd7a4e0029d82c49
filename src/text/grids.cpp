// SPDX-License-Identifier: Apache-2.0
#include "text/grids.h"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "base/allowance.h"

namespace lumvet::text {
namespace {

constexpr double kNear = 2.5;            // points by which lines may miss each other
constexpr std::size_t kMostLines = 400;  // each way; then the page is a drawing

bool meet(const DrawnLine& along, const DrawnLine& across) {
  return along.begin <= across.at + kNear && along.end >= across.at - kNear &&
         across.begin <= along.at + kNear && across.end >= along.at - kNear;
}

// Lines that meet, by way of others.
struct Group {
  std::vector<DrawnLine> along;
  std::vector<DrawnLine> across;
};

std::vector<Group> groups_of(const DrawnLines& lines) {
  const std::size_t count = lines.along.size();
  std::vector<std::size_t> parents(count + lines.across.size());
  std::iota(parents.begin(), parents.end(), std::size_t{0});
  const auto root_of = [&](std::size_t at) {
    while (parents[at] != at) at = parents[at] = parents[parents[at]];
    return at;
  };
  for (std::size_t i = 0; i < count && goes_on(); ++i)
    for (std::size_t k = 0; k < lines.across.size(); ++k)
      if (meet(lines.along[i], lines.across[k])) parents[root_of(i)] = root_of(count + k);
  std::vector<Group> groups(parents.size());
  for (std::size_t i = 0; i < count; ++i) groups[root_of(i)].along.push_back(lines.along[i]);
  for (std::size_t k = 0; k < lines.across.size(); ++k)
    groups[root_of(count + k)].across.push_back(lines.across[k]);
  // Of one line and another that meets it there is no cell.
  std::erase_if(groups, [](const Group& group) {
    return group.along.empty() || group.across.empty() ||
           group.along.size() + group.across.size() < 3;
  });
  return groups;
}

// Where lines are, and where those that meet them end: some tables have none around them.
std::vector<double> places_of(const std::vector<DrawnLine>& lines,
                              const std::vector<DrawnLine>& meeting) {
  std::vector<double> places;
  for (const DrawnLine& line : lines) places.push_back(line.at);
  double begin = meeting.front().begin;
  double end = meeting.front().end;
  for (const DrawnLine& line : meeting) {
    begin = std::min(begin, line.begin);
    end = std::max(end, line.end);
  }
  places.push_back(begin);
  places.push_back(end);
  std::sort(places.begin(), places.end());
  const auto are_same = [](double a, double b) { return std::abs(a - b) < kNear; };
  places.erase(std::unique(places.begin(), places.end(), are_same), places.end());
  return places;
}

// Whether a line is drawn at a place, past another place along it.
bool is_drawn(const std::vector<DrawnLine>& lines, double at, double past) {
  return std::any_of(lines.begin(), lines.end(), [&](const DrawnLine& line) {
    return std::abs(line.at - at) < kNear && line.begin <= past && line.end >= past;
  });
}

// Takes out those rows or columns that are too narrow for text, and gives how many there were.
// `first` and `count` tell where a cell begins, and how many it takes.
std::size_t without_narrow(const std::vector<double>& places, std::size_t GridCell::*first,
                           std::size_t GridCell::*count, std::vector<GridCell>& cells) {
  constexpr double kNarrowest = 5;  // points
  std::size_t taken_out = 0;
  for (std::size_t at = places.size() - 1; at-- > 0 && goes_on();) {
    if (places[at + 1] - places[at] >= kNarrowest) continue;
    const auto is_in = [&](const GridCell& cell) { return cell.*first == at && cell.*count == 1; };
    const bool has_text = std::any_of(cells.begin(), cells.end(), [&](const GridCell& cell) {
      return is_in(cell) && !cell.pieces.empty();
    });
    if (has_text) continue;
    ++taken_out;
    std::erase_if(cells, is_in);
    for (GridCell& cell : cells) {
      if (cell.*first > at)
        --(cell.*first);
      else if (cell.*first + cell.*count > at)
        --(cell.*count);
    }
  }
  return taken_out;
}

class Dividing {
 public:
  explicit Dividing(const Group& group)
      : group_(group),
        xs_(places_of(group.across, group.along)),
        ys_(places_of(group.along, group.across)) {}

  bool has_cells() const { return xs_.size() > 2 && ys_.size() > 2; }
  Grid divided() const {
    Grid grid{static_cast<float>(xs_.front()),
              static_cast<float>(xs_.back()),
              static_cast<float>(ys_.front()),
              static_cast<float>(ys_.back()),
              ys_.size() - 1,
              xs_.size() - 1,
              {}};
    std::vector<bool> is_taken(grid.rows * grid.columns);
    for (std::size_t row = 0; row < grid.rows && goes_on(); ++row)
      for (std::size_t column = 0; column < grid.columns; ++column) {
        if (is_taken[row * grid.columns + column]) continue;
        GridCell cell{row, column};
        while (column + cell.columns < grid.columns &&
               !is_taken[row * grid.columns + column + cell.columns] &&
               !has_right(row, column + cell.columns - 1))
          ++cell.columns;
        while (row + cell.rows < grid.rows && is_open_below(cell)) ++cell.rows;
        for (std::size_t r = row; r < row + cell.rows; ++r)
          for (std::size_t c = column; c < column + cell.columns; ++c)
            is_taken[r * grid.columns + c] = true;
        grid.cells.push_back(std::move(cell));
      }
    return grid;
  }

  // Between the lines of two frames there is no row and no column.
  void take_out_narrow(Grid& grid) const {
    grid.columns -= without_narrow(xs_, &GridCell::column, &GridCell::columns, grid.cells);
    grid.rows -= without_narrow(ys_, &GridCell::row, &GridCell::rows, grid.cells);
  }
  std::size_t row_of(double y) const { return place_in(ys_, y); }
  std::size_t column_of(double x) const { return place_in(xs_, x); }

 private:
  static std::size_t place_in(const std::vector<double>& places, double at) {
    const auto next = std::upper_bound(places.begin() + 1, places.end() - 1, at);
    return static_cast<std::size_t>(next - places.begin()) - 1;
  }
  double middle(const std::vector<double>& places, std::size_t i) const {
    return (places[i] + places[i + 1]) / 2;
  }
  bool has_right(std::size_t row, std::size_t column) const {
    return is_drawn(group_.across, xs_[column + 1], middle(ys_, row));
  }
  bool has_below(std::size_t row, std::size_t column) const {
    return is_drawn(group_.along, ys_[row + 1], middle(xs_, column));
  }
  // Whether a cell goes on into the next row, over all its columns and no more.
  bool is_open_below(const GridCell& cell) const {
    const std::size_t last = cell.row + cell.rows - 1;
    for (std::size_t c = cell.column; c < cell.column + cell.columns; ++c)
      if (has_below(last, c) || (c + 1 < cell.column + cell.columns && has_right(last + 1, c)))
        return false;
    return true;
  }

  const Group& group_;
  std::vector<double> xs_;
  std::vector<double> ys_;
};

// Whether there is enough text in several rows and columns, and no cell is a page of its own.
bool is_table(const Grid& grid, const std::vector<Piece>& pieces) {
  constexpr std::size_t kMostInCell = 12;  // lines, more or less
  std::vector<bool> rows(grid.rows);
  std::vector<bool> columns(grid.columns);
  std::size_t filled = 0;
  for (const GridCell& cell : grid.cells) {
    if (cell.pieces.empty()) continue;
    float base = pieces[cell.pieces.front()].base;
    std::size_t lines = 1;
    std::vector<float> bases;
    for (const std::size_t at : cell.pieces) bases.push_back(pieces[at].base);
    std::sort(bases.begin(), bases.end());
    for (const float next : bases) {
      lines += next - base > 1 ? 1 : 0;
      base = next;
    }
    if (lines > kMostInCell) return false;
    ++filled;
    rows[cell.row] = true;
    columns[cell.column] = true;
  }
  return std::count(rows.begin(), rows.end(), true) >= 2 &&
         std::count(columns.begin(), columns.end(), true) >= 2 && 4 * filled >= grid.cells.size();
}

}  // namespace

std::vector<Grid> grids_of(const DrawnLines& lines, const std::vector<Piece>& pieces) {
  if (lines.along.size() > kMostLines || lines.across.size() > kMostLines) return {};
  std::vector<Grid> grids;
  for (const Group& group : groups_of(lines)) {
    const Dividing dividing(group);
    if (!dividing.has_cells()) continue;
    Grid grid = dividing.divided();
    std::vector<std::size_t> cell_at(grid.rows * grid.columns);
    for (std::size_t i = 0; i < grid.cells.size(); ++i) {
      const GridCell& cell = grid.cells[i];
      for (std::size_t r = cell.row; r < cell.row + cell.rows; ++r)
        for (std::size_t c = cell.column; c < cell.column + cell.columns; ++c)
          cell_at[r * grid.columns + c] = i;
    }
    for (std::size_t at = 0; at < pieces.size(); ++at) {
      const Piece& piece = pieces[at];
      if (!grid.holds(piece)) continue;
      const std::size_t row = dividing.row_of((piece.top + piece.bottom) / 2);
      const std::size_t column = dividing.column_of((piece.begin + piece.end) / 2);
      grid.cells[cell_at[row * grid.columns + column]].pieces.push_back(at);
    }
    dividing.take_out_narrow(grid);
    if (is_table(grid, pieces)) grids.push_back(std::move(grid));
  }
  return grids;
}

}  // namespace lumvet::text
