// SPDX-License-Identifier: Apache-2.0
// The outline (ISO 32000-2, 12.3.3).
#pragma once

#include <functional>

#include "document/core.h"
#include "lumvet/document/document.h"

namespace lumvet::document {

std::vector<OutlineEntry> read_outline(const Core& core);

// Calls `visit` with the dictionary of every entry and its depth, in order, each once.
void walk_outline(const Core& core, const std::function<void(const Dict& item, int depth)>& visit);

}  // namespace lumvet::document
