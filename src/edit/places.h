// SPDX-License-Identifier: Apache-2.0
// Where a document says what leads to its pages.
//
// Threads: free functions.
#pragma once

#include <vector>

#include "lumvet/document/document.h"

namespace lumvet::editing {

// The objects of the outline, the named places, the opening view and all pages' annotations, in
// which a destination may stand. Reads every page.
std::vector<ObjectId> holders_of_places(const Document& document);

}  // namespace lumvet::editing
