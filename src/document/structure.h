// SPDX-License-Identifier: Apache-2.0
// The structure tree (ISO 32000-2, 14.7).
#pragma once

#include "document/core.h"
#include "lumvet/document/structure.h"

namespace lumvet::document {

Structure read_structure(const Core& core);

}  // namespace lumvet::document
