// SPDX-License-Identifier: Apache-2.0
// Fields and their widgets taken out of a form (ISO 32000-2, 12.7.3).
//
// Threads: free functions.
#pragma once

#include "file/ledger.h"

namespace lumvet::editing {

// A field or a widget out of the fields above it, the next of which is `parent`; one that is left
// without any goes too. `catalog` is the document's, which gets what changes in it.
void take_from_form(file::Ledger& ledger, Dict& catalog, ObjectId kid, Object parent, int nesting);

}  // namespace lumvet::editing
