// SPDX-License-Identifier: Apache-2.0
// Pages taken away for good, with what the document says of them elsewhere.
//
// Threads: free functions.
#pragma once

#include <set>

#include "file/ledger.h"
#include "lumvet/document/document.h"

namespace lumvet::editing {

// The pages' objects and their annotations go; fields that stand on no other page, links, entries
// of the outline and places that lead there, and elements of the structure that hold nothing else,
// go with them. The page tree is somebody else's business. `catalog` is the document's, which gets
// what changes in it.
void remove_pages(const Document& document, file::Ledger& ledger, Dict& catalog,
                  const std::set<ObjectId>& pages);

}  // namespace lumvet::editing
