// SPDX-License-Identifier: Apache-2.0
// Pages taken away for good, with what the document says of them elsewhere.
//
// Threads: free functions.
#pragma once

#include <vector>

#include "file/ledger.h"
#include "lumvet/document/document.h"

namespace lumvet::editing {

// The objects of these pages and their annotations go; fields that stand on no other page, links,
// entries of the outline and places that lead there, and elements of the structure that hold
// nothing else, go with them. The page tree is somebody else's business. `catalog` is the
// document's, which gets what changes in it. Errors: as reading pages.
Status remove_pages(const Document& document, file::Ledger& ledger, Dict& catalog,
                    const std::vector<int>& pages);

}  // namespace lumvet::editing
