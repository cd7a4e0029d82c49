// SPDX-License-Identifier: Apache-2.0
// Pages taken out of a page tree (ISO 32000-2, 7.7.3) and put into it. Only the nodes above them
// change, so that it costs little in a document of any number of pages.
//
// Threads: one thread at a time.
#pragma once

#include "file/ledger.h"

namespace lumvet::editing {

class PageTreeChanges {
 public:
  // `root` is the root of the tree, in the ledger or below it.
  PageTreeChanges(file::Ledger& ledger, Object root, const Limits& limits)
      : ledger_(ledger), root_(std::move(root)), limits_(limits) {}

  // Gives the page, which keeps what it inherited as its own. Errors, and nothing is changed:
  // malformed, for a tree whose counts lie, or that holds pages which are no objects of their own.
  Result<ObjectId> take_out(int index);
  // In front of the page that is there, or behind all. Errors: as take_out's.
  Status put_in(int index, ObjectId page);

 private:
  struct Step {
    ObjectId node;
    Dict dict;
    Array kids;
    std::size_t at = 0;  // the kid on the way down
  };

  Result<std::vector<Step>> way_to(int index) const;
  Result<std::int64_t> count_of(const Object& kid) const;
  void add_to_counts(std::vector<Step>& way, int more);

  file::Ledger& ledger_;
  Object root_;
  const Limits& limits_;
};

}  // namespace lumvet::editing
