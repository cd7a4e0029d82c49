// SPDX-License-Identifier: Apache-2.0
// Pages by index (ISO 32000-2, 7.7.3.2). Goes down the tree by its counts, so that one page of a
// long document costs a few objects; when the counts lie, the whole tree is walked once instead.
//
// Threads: const methods may run concurrently.
#pragma once

#include <atomic>
#include <map>
#include <optional>
#include <vector>

#include "base/kept_when_clean.h"
#include "file/object_store.h"

namespace lumvet::document {

struct PageNode {
  ObjectId id;
  Dict dict;  // with inherited entries filled in
};

class PageTree {
 public:
  enum class Counts { believed, doubted };  // doubted: the whole tree is walked at once

  PageTree(const file::ObjectStore& store, const Dict& catalog, Counts counts);

  int count() const { return count_; }
  // Of all pages in order; 0 0 for one that stands in the tree itself.
  std::vector<ObjectId> ids() const;
  // Errors: malformed when the tree has no such page after all.
  Result<PageNode> find(int index) const;
  // The page that an object is; nothing when it is none. Walks the whole tree the first time.
  std::optional<int> index_of(ObjectId id) const;

 private:
  struct Leaf {
    Object kid;  // as it stands in /Kids
    Dict inherited;
  };

  Finding counts_are_wrong() const;
  bool is_believable(const Dict& root) const;
  std::optional<PageNode> descend(int index) const;
  Result<PageNode> walked_page(int index) const;
  struct Walked {
    std::vector<Leaf> leaves;
    std::map<ObjectId, int> indices;
  };
  std::shared_ptr<const Walked> all() const;
  std::vector<Leaf> walk() const;

  const file::ObjectStore& store_;
  Object root_;
  int count_ = 0;
  mutable std::atomic<bool> prefers_walk_ = false;  // its shape or its counts make descending slow
  mutable KeptWhenClean<Walked> walked_;
};

}  // namespace lumvet::document
