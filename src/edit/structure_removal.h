// SPDX-License-Identifier: Apache-2.0
// What pages and annotations that go leave behind in the structure of a document (ISO 32000-2,
// 14.7.5): the items of content that name them, and elements that have none left.
//
// Threads: one thread at a time.
#pragma once

#include <functional>
#include <map>
#include <set>

#include "document/core.h"
#include "file/ledger.h"

namespace lumvet::editing {

class StructureRemoval {
 public:
  // `catalog` is the document's, as the ledger has it.
  StructureRemoval(const document::Core& core, file::Ledger& ledger, const Dict& catalog);

  // What a page's marked content belongs to, by its dictionary.
  void take_page(ObjectId page, const Dict& dict);
  // Annotations of pages that stay, which are no objects of the ledger afterwards.
  void remove_annotations(const std::set<ObjectId>& annotations);

 private:
  using IsGone = std::function<bool(const Object& kid, const Object& own_page)>;

  // What the parent tree has for a page or an annotation (14.7.5.4); null for nothing.
  Object owners_of(const Object& key);
  // `page` is the one that goes, if one does.
  void take_content(ObjectId element, ObjectId page, const IsGone& is_gone);
  bool is_of_page(const Object& kid, const Object& own_page, ObjectId page) const;

  const document::Core& core_;
  file::Ledger& ledger_;
  Object root_;
  std::map<std::int64_t, Object> parents_;
};

}  // namespace lumvet::editing
