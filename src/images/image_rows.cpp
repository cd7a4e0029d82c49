// SPDX-License-Identifier: Apache-2.0
#include "images/image_rows.h"

#include <algorithm>

namespace lumvet::images {

Status ImageRows::next() {
  ++taken_;
  std::uint8_t* const out = reducer_.row();
  const auto row = plan_.rows.next(plan_.row_bytes);
  if (!row.ok() || row->size() < plan_.row_bytes)
    std::fill_n(out, reducer_.row_bytes(), plan_.blank);
  if (row.ok() && !row->empty()) plan_.convert(*row, out);
  reducer_.end_row();
  return row.ok() ? Status(Done{}) : Status(row.error());
}

}  // namespace lumvet::images
