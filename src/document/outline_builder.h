// SPDX-License-Identifier: Apache-2.0
// A new outline (ISO 32000-2, 12.3.3).
#pragma once

#include <string>
#include <vector>

#include "file/ledger.h"

namespace lumvet::document {

struct NewEntry {
  Dict item;      // its title, look, and where it leads; not how it hangs together with others
  int depth = 0;  // as OutlineEntry's
  bool is_open = false;
};

// An entry as it stands in an outline, without how it hangs together with others there.
NewEntry entry_of(const objects::Resolver& resolver, const Dict& item, int depth);

// The root of the outline; null when there are no entries.
Object build_outline(file::Ledger& ledger, std::vector<NewEntry> entries);

}  // namespace lumvet::document
