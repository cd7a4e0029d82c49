// SPDX-License-Identifier: Apache-2.0
// The outline (ISO 32000-2, 12.3.3).
#pragma once

#include <functional>

#include "document/core.h"
#include "lumvet/document/document.h"

namespace lumvet::document {

std::vector<OutlineEntry> read_outline(const Core& core);

// As an entry's dictionary says; what it leads to is read too.
OutlineEntry read_entry(const Core& core, const Dict& item, int depth);

// Calls `visit` with the dictionary of every entry, as it stands in the outline and resolved, and
// its depth, in order, each once.
using OutlineVisit = std::function<void(const Object& reference, const Dict& item, int depth)>;
void walk_outline(const Core& core, const OutlineVisit& visit);

}  // namespace lumvet::document
