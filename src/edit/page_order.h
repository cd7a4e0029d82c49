// SPDX-License-Identifier: Apache-2.0
// The pages of a document in another order, with some left out and others among them, in its page
// tree, and with their numbers.
//
// Threads: free functions.
#pragma once

#include <optional>
#include <vector>

#include "document/page_labels.h"
#include "file/ledger.h"
#include "lumvet/document/document.h"

namespace lumvet::editing {

// A page of the document as it was, or a new one, which is in the ledger already.
struct OrderedPage {
  int before = -1;   // from 0; -1 for a new one
  ObjectId id = {};  // of a new one
  // What a new one is numbered; without it as it is counted.
  std::optional<document::PageLabels::Label> label = {};
};

// `catalog` is the document's, which gets what changes in it. Where few pages change their places,
// only the nodes of the tree above them change. Errors: as reading the document's pages.
Status reorder(const Document& document, file::Ledger& ledger, Dict& catalog,
               const std::vector<OrderedPage>& order);

// What the page inherits becomes its own; `id` is its object in the ledger.
void keep_inherited(const Page& page, ObjectId id, file::Ledger& ledger);

// The objects that these pages are. A page that is written into the tree itself becomes an object,
// and the tree a new one. Errors: as reordering's.
Result<std::vector<ObjectId>> ids_of_pages(const Document& document, file::Ledger& ledger,
                                           Dict& catalog, const std::vector<int>& pages);

}  // namespace lumvet::editing
