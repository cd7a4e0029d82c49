// SPDX-License-Identifier: Apache-2.0
// The pages of a document under a page tree that is as it should be (ISO 32000-2, 7.7.3), whatever
// the tree was that they were found in: what is written has the pages that were shown.
//
// Threads: exclusive access to the ledger.
#pragma once

#include "file/ledger.h"
#include "lumvet/document/document.h"

namespace lumvet::saving {

// Whether every node of the tree says what it is, has the parent and the count that it should, and
// every page stands in it once. Looks at all of them.
bool has_sound_pages(const Document& document);

// Puts every page that can be read, with what it inherited, under a new tree; what is lost is a
// finding of the document. Gives the count. Errors: malformed when no page can be read.
Result<int> mend_pages(const Document& document, file::Ledger& ledger);

}  // namespace lumvet::saving
