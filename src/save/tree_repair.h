// SPDX-License-Identifier: Apache-2.0
// What documents often get wrong in their outlines and trees, and readers pass over, put right.
//
// Threads: exclusive access to the ledger.
#pragma once

#include "file/ledger.h"
#include "lumvet/document/document.h"

namespace lumvet::saving {

// How many entries show below each (12.3.3). Entries stay open or closed as they were. What was
// wrong becomes a finding of the document.
void mend_outline_counts(const Document& document, file::Ledger& ledger);

// Limits at the root of a name or number tree, where none belong (7.9.6, 7.9.7). The same.
void mend_tree_limits(const Document& document, file::Ledger& ledger);

}  // namespace lumvet::saving
