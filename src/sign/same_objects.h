// SPDX-License-Identifier: Apache-2.0
// Whether objects of two states of a document say the same, with all that they lead to.
//
// Threads: one thread at a time.
#pragma once

#include <set>
#include <utility>

#include "lumvet/document/document.h"

namespace lumvet::signing {

class SameObjects {
 public:
  SameObjects(const Document& before, const Document& now);

  // Pages that they lead to count as the same when they are the same object, since they are held
  // against each other by themselves. Errors: io, need_more_data, limit.
  Result<bool> same(const Object& before, const Object& now);
  // Dictionaries but for some of their entries.
  Result<bool> same(const Dict& before, const Dict& now, const std::set<std::string_view>& without);

 private:
  using Pair = std::pair<Object, Object>;
  Result<bool> compare(std::vector<Pair> open);
  Result<bool> stands_where_it_stood(ObjectId id) const;

  const Document& before_;
  const Document& now_;
  std::set<ObjectId> pages_;
  std::set<std::pair<ObjectId, ObjectId>> same_;  // found so
};

}  // namespace lumvet::signing
