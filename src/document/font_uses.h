// SPDX-License-Identifier: Apache-2.0
// The fonts that pages use, themselves or through their forms, patterns and annotations.
#pragma once

#include "document/core.h"
#include "lumvet/document/document.h"

namespace lumvet::document {

std::vector<FontUse> read_fonts(const Core& core);

}  // namespace lumvet::document
