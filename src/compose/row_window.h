// SPDX-License-Identifier: Apache-2.0
// The rows of a table, those that it has and those that its source gives, one after the other, with
// the numbers of the pages that its own rows tell.
//
// Threads: one thread at a time.
#pragma once

#include <algorithm>
#include <deque>
#include <memory>
#include <vector>

#include "draw/set_lines.h"
#include "lumvet/compose/table.h"

namespace lumvet::compose {

using RowPtr = std::shared_ptr<const TableRow>;

inline bool tells_pages(const TableRow& row) {
  return std::any_of(row.cells.begin(), row.cells.end(),
                     [](const TableCell& cell) { return draw::tells_pages(cell.content); });
}

// A few rows are at hand at a time; the table and the pages stay as long as it.
class RowWindow {
 public:
  RowWindow(const Table& table, const draw::PlacePages& pages) : table_(table), pages_(pages) {}

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
  Result<RowPtr> read(std::size_t row) const {
    const std::size_t own = table_.rows.size();
    if (row < own) {
      if (tells_pages(table_.rows[row])) return numbered(table_.rows[row]);
      return RowPtr(RowPtr(), &table_.rows[row]);  // which the table keeps
    }
    if (!table_.more_rows) return RowPtr();
    LUMVET_TRY(std::optional<TableRow> next, table_.more_rows(row - own));
    return next ? std::make_shared<const TableRow>(std::move(*next)) : RowPtr();
  }

  // Notes have no place in cells; setting these tells so.
  Result<RowPtr> numbered(TableRow row) const {
    int next = 1;
    std::vector<draw::Note> notes;
    for (TableCell& cell : row.cells)
      if (draw::tells_pages(cell.content) && draw::count_notes(cell.content) == 0) {
        LUMVET_TRY(cell.content, draw::with_numbers(cell.content, pages_, next, notes));
      }
    return std::make_shared<const TableRow>(std::move(row));
  }

  const Table& table_;
  const draw::PlacePages& pages_;
  std::size_t begin_ = 0;
  std::deque<RowPtr> rows_;
  bool has_ended_ = false;
};

}  // namespace lumvet::compose
