// SPDX-License-Identifier: Apache-2.0
// Pages of another document into one that is edited, with what belongs to them: annotations,
// fields, layers, structure, named places, entries of the outline, page numbers; and its attached
// files.
//
// Threads: free functions.
#pragma once

#include <vector>

#include "edit/page_order.h"
#include "lumvet/base/findings.h"

namespace lumvet::editing {

struct InsertedPages {
  std::vector<OrderedPage> pages;  // in the ledger, with their numbers
  std::vector<Finding> notes;      // of what could not come along, or got another name
};

// Pages `indices` of `other` into the ledger of `document`, to stand before its page `before`.
// `catalog` is the document's, which gets what changes in it. Errors: as reading pages; limit when
// pages share so many annotations that their copies are beyond Limits::objects.
Result<InsertedPages> insert_pages(const Document& document, file::Ledger& ledger, Dict& catalog,
                                   const Document& other, const std::vector<int>& indices,
                                   int before);

// The document needs the version of what came into it.
void raise_version(const Document& document, const Document& other, Dict& catalog);

}  // namespace lumvet::editing
