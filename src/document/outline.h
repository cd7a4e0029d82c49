// SPDX-License-Identifier: Apache-2.0
// The outline (ISO 32000-2, 12.3.3).
#pragma once

#include "document/core.h"
#include "lumvet/document/document.h"

namespace lumvet::document {

std::vector<OutlineEntry> read_outline(const Core& core);

}  // namespace lumvet::document
