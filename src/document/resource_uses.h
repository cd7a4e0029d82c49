// SPDX-License-Identifier: Apache-2.0
// The fonts and images that pages use, themselves or through their forms, patterns and
// annotations.
#pragma once

#include "document/core.h"
#include "lumvet/document/resource_use.h"

namespace lumvet::document {

struct ResourceUses {
  std::vector<FontUse> fonts;    // sorted, each once
  std::vector<ImageUse> images;  // sorted, each once
};

// Of one page, by its dictionary with what it inherits.
ResourceUses read_resource_uses(const Core& core, const Dict& page);
// Of all pages.
ResourceUses read_resource_uses(const Core& core);

}  // namespace lumvet::document
