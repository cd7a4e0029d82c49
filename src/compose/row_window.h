// SPDX-License-Identifier: Apache-2.0
// The rows of a table, those that it has and those that its source gives, one after the other.
//
// Threads: one thread at a time.
#pragma once

#include <deque>
#include <memory>

#include "lumvet/compose/table.h"

namespace lumvet::compose {

using RowPtr = std::shared_ptr<const TableRow>;

// A few rows are at hand at a time; the table stays as long as it.
class RowWindow {
 public:
  explicit RowWindow(const Table& table) : table_(table) {}

  // Null behind the last. Errors: those of the table's own source.
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
    if (row < own) return RowPtr(RowPtr(), &table_.rows[row]);  // which the table keeps
    if (!table_.more_rows) return RowPtr();
    LUMVET_TRY(std::optional<TableRow> next, table_.more_rows(row - own));
    return next ? std::make_shared<const TableRow>(std::move(*next)) : RowPtr();
  }

  const Table& table_;
  std::size_t begin_ = 0;
  std::deque<RowPtr> rows_;
  bool has_ended_ = false;
};

}  // namespace lumvet::compose
