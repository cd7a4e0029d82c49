// SPDX-License-Identifier: Apache-2.0
// The outline (ISO 32000-2, 12.3.3).
#pragma once

#include <functional>
#include <limits>

#include "document/core.h"
#include "lumvet/document/document.h"

namespace lumvet::document {

// So many of its first entries.
std::vector<OutlineEntry> read_outline(const Core& core, std::size_t most);

// As an entry's dictionary says; what it leads to is read too.
OutlineEntry read_entry(const Core& core, const Dict& item, int depth);

// Calls `visit` with the dictionary of every entry, as it stands in the outline and resolved, and
// its depth, in order, each once, and `most` of them.
using OutlineVisit = std::function<void(const Object& reference, const Dict& item, int depth)>;
void walk_outline(const Core& core, const OutlineVisit& visit,
                  std::size_t most = std::numeric_limits<std::size_t>::max());

}  // namespace lumvet::document
