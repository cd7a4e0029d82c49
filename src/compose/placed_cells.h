// SPDX-License-Identifier: Apache-2.0
// Cells of a table where they stand in its grid, and the rows that they hold together.
//
// Threads: one thread at a time.
#pragma once

#include <memory>
#include <span>
#include <string>
#include <utility>
#include <vector>

#include "compose/row_window.h"

namespace lumvet::compose {

// A cell where it stands in the grid.
struct Placed {
  const TableCell* cell = nullptr;
  std::size_t row = 0;
  std::size_t column = 0;
  std::size_t rows = 1;
  std::size_t columns = 1;
  SetParagraph set;
  // The first line in each of its rows, and the end of the last, where rows are parted.
  std::vector<std::size_t> lines = {};

  bool runs_down() const { return cell->content.style().runs_down; }
};

struct LineRange {
  std::size_t first = 0;
  std::size_t end = 0;
};

// Rows that cells hold together, set.
struct RowGroup {
  std::size_t first = 0;                // row
  bool ends_table = false;              // whether there are no more behind it
  bool is_parted = false;               // whether pages may end between its rows
  std::vector<RowPtr> rows;             // in which the cells are
  std::vector<Placed> cells;            // row by row
  std::vector<std::size_t> row_begins;  // of the cells, and one more
  std::vector<double> heights;          // of the rows

  std::size_t end() const { return first + heights.size(); }
  double height(std::size_t row) const { return heights[row - first]; }
  std::span<const Placed> cells_of(std::size_t row) const {
    const std::size_t begin = row_begins[row - first];
    return std::span(cells).subspan(begin, row_begins[row - first + 1] - begin);
  }
};
using RowGroupPtr = std::shared_ptr<const RowGroup>;

constexpr std::size_t kMostColumns = 1000;

// How many of so many rows from one on there are.
inline Result<std::size_t> rows_from(std::size_t row, std::size_t wanted, RowWindow& window) {
  for (std::size_t count = 1; count < wanted; ++count) {
    LUMVET_TRY(const RowPtr next, window.at(row + count));
    if (!next) return count;
  }
  return wanted;
}

// The cells of a row, each into the first place that none above takes; `taken` says of each
// column by how many rows more. Calls take(placed), which returns a Status.
template <typename Take>
Status place_row(const TableRow& cells, std::size_t row, RowWindow& window,
                 std::vector<std::size_t>& taken, const Take& take) {
  std::vector<std::pair<std::size_t, std::size_t>> now;
  std::size_t column = 0;
  for (const TableCell& cell : cells.cells) {
    if (cell.columns < 1 || cell.rows < 1)
      return Error(ErrorCode::invalid_argument, "a cell takes one row and one column at least");
    while (column < taken.size() && taken[column] > 0) ++column;
    const auto columns = static_cast<std::size_t>(cell.columns);
    if (columns > kMostColumns - std::min(column, kMostColumns))
      return Error(ErrorCode::limit, "a table has more than 1000 columns");
    LUMVET_TRY(const std::size_t rows, rows_from(row, static_cast<std::size_t>(cell.rows), window));
    if (taken.size() < column + columns) taken.resize(column + columns);
    for (std::size_t i = 0; i < columns; ++i) {
      if (taken[column + i] > 0)
        return Error(ErrorCode::invalid_argument,
                     "a cell of row " + std::to_string(row + 1) +
                         " has no place beside one that takes several rows");
      now.emplace_back(column + i, rows);
    }
    LUMVET_RETURN_IF_ERROR(take(Placed{&cell, row, column, rows, columns, {}}));
    column += columns;
  }
  for (std::size_t& rows : taken) rows -= rows > 0 ? 1 : 0;
  for (const auto& [at, rows] : now) taken[at] = rows - 1;
  return Done{};
}

}  // namespace lumvet::compose
