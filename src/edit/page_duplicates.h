// SPDX-License-Identifier: Apache-2.0
// A page once more in its own document: the same content and resources, and annotations of its own.
//
// Threads: free functions.
#pragma once

#include "file/ledger.h"
#include "lumvet/document/document.h"

namespace lumvet::editing {

// The page without its annotations under a new number, with what it inherited.
ObjectId add_bare_duplicate(file::Ledger& ledger, const Page& page);

// The annotations that `page` has in the ledger now onto its duplicate. Widgets become further ones
// of their fields; those of signature fields stay on the page alone. `catalog` is the document's.
void duplicate_annotations(file::Ledger& ledger, Dict& catalog, ObjectId page, ObjectId duplicate,
                           const Limits& limits);

}  // namespace lumvet::editing
