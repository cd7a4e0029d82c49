// SPDX-License-Identifier: Apache-2.0
// A new page tree (ISO 32000-2, 7.7.3) over given pages, flat enough that a reader finds one page
// of many quickly.
//
//   PageTreeBuilder tree(ledger);
//   for (…) page.set("Parent", tree.add(page_id));
//   catalog.set("Pages", tree.finish());
//
// Threads: one thread at a time.
#pragma once

#include "file/ledger.h"

namespace lumvet::saving {

class PageTreeBuilder {
 public:
  explicit PageTreeBuilder(file::Ledger& ledger) : ledger_(ledger) {}

  // Takes the next page and gives the node that is its parent.
  ObjectId add(ObjectId page);
  // The root, once every page was added.
  ObjectId finish();

 private:
  struct Node {
    ObjectId id;
    int pages = 0;
  };

  file::Ledger& ledger_;
  std::vector<ObjectId> parents_;
  std::vector<Node> leaves_;
};

}  // namespace lumvet::saving
