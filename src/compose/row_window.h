// SPDX-License-Identifier: Apache-2.0
// The rows of a table, those that it has and those that its source gives, one after the other, with
// the numbers of their notes, and of the pages that its own rows tell.
//
// Threads: one thread at a time.
#pragma once

#include <algorithm>
#include <deque>
#include <memory>
#include <vector>

#include "compose/strips.h"
#include "draw/set_lines.h"
#include "lumvet/compose/table.h"

namespace lumvet::compose {

struct GivenRow {
  const TableRow* cells = nullptr;  // the table's, or these
  TableRow own = {};
  std::vector<draw::Note> notes = {};
};
using RowPtr = std::shared_ptr<const GivenRow>;

inline bool tells_pages(const TableRow& row) {
  return std::any_of(row.cells.begin(), row.cells.end(),
                     [](const TableCell& cell) { return draw::tells_pages(cell.content); });
}

// A few rows are at hand at a time; the table and the numbers stay as long as it.
class RowWindow {
 public:
  RowWindow(const Table& table, Numbers& numbers) : table_(table), numbers_(numbers) {}

  // Null behind the last. Errors: those of the table's own source; invalid_argument for pages of
  // what no heading is called.
  Result<RowPtr> at(std::size_t row) {
    while (!has_ended_ && begin_ + rows_.size() <= row) {
      LUMVET_TRY(RowPtr next, read(begin_ + rows_.size()));
      if (!next)
        has_ended_ = true;
      else
        rows_.push_back(std::move(next));
    }
    return row < begin_ + rows_.size() ? rows_[row - begin_] : nullptr;
  }
  void forget_before(std::size_t row) {
    for (; begin_ < row && !rows_.empty(); ++begin_) rows_.pop_front();
  }

 private:
  Result<RowPtr> read(std::size_t row) {
    const std::size_t own = table_.rows.size();
    auto given = std::make_shared<GivenRow>();
    if (row < own) {
      given->cells = &table_.rows[row];
      if (tells_pages(*given->cells) || has_notes(*given->cells)) {
        given->own = *given->cells;
        given->cells = &given->own;
      }
    } else {
      if (!table_.more_rows) return RowPtr();
      LUMVET_TRY(std::optional<TableRow> next, table_.more_rows(row - own));
      if (!next) return RowPtr();
      given->own = std::move(*next);
      given->cells = &given->own;
    }
    for (TableCell& cell : given->own.cells)
      if (draw::count_notes(cell.content) > 0 || (row < own && draw::tells_pages(cell.content))) {
        LUMVET_TRY(cell.content, draw::with_numbers(cell.content, numbers_.pages,
                                                    numbers_.next_note, given->notes));
      }
    return RowPtr(std::move(given));
  }

  static bool has_notes(const TableRow& row) {
    return std::any_of(row.cells.begin(), row.cells.end(),
                       [](const TableCell& cell) { return draw::count_notes(cell.content) > 0; });
  }

  const Table& table_;
  Numbers& numbers_;
  std::size_t begin_ = 0;
  std::deque<RowPtr> rows_;
  bool has_ended_ = false;
};

}  // namespace lumvet::compose
