// SPDX-License-Identifier: Apache-2.0
// The articles of a new document (ISO 32000-2, 12.4.3): those of several, with their parts on pages
// taken along.
//
// Threads: one thread at a time.
#pragma once

#include <map>
#include <set>

#include "assemble/source_copier.h"
#include "file/ledger.h"

namespace lumvet::assemble {

class ArticleBuilder {
 public:
  explicit ArticleBuilder(file::Ledger& target) : target_(target) {}

  // Once all pages of the source have been copied; `pages` are those of the new page tree.
  void add(SourceCopier& copier, const std::set<ObjectId>& pages);
  // For the catalog, with pages told the parts that lie on them; null without any.
  Object finish();

 private:
  struct Bead {
    ObjectId id;
    ObjectId page;
    Object area;
  };

  void add_thread(const Object& properties, const std::vector<Bead>& beads);

  file::Ledger& target_;
  Array threads_;
  std::map<ObjectId, Array> on_pages_;
};

}  // namespace lumvet::assemble
