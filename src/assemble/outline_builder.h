// SPDX-License-Identifier: Apache-2.0
// The outline of a new document from a list of entries (ISO 32000-2, 12.3.3).
#pragma once

#include <string>
#include <vector>

#include "file/ledger.h"

namespace lumvet::assemble {

struct NewEntry {
  std::string title;  // UTF-8
  int depth = 0;      // 0 for the outermost; at most one more than that of the entry before
  ObjectId page;
};

// A reference to the outline, whose objects are added to the ledger; null without entries. Branches
// below the top level are closed.
Object build_outline(file::Ledger& ledger, const std::vector<NewEntry>& entries);

}  // namespace lumvet::assemble
