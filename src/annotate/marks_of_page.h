// SPDX-License-Identifier: Apache-2.0
// The list of a page's annotations, as it is changed in a ledger.
//
// Threads: one thread at a time.
#pragma once

#include <optional>
#include <set>
#include <string>

#include "annotate/mark_names.h"
#include "file/ledger.h"
#include "lumvet/document/document.h"

namespace lumvet::annotate {

class MarksOfPage {
 public:
  // `page` is an object of the ledger.
  MarksOfPage(file::Ledger& ledger, ObjectId page);

  Array& list() { return list_; }
  // The one of that name, where there is one.
  std::optional<ObjectId> named(const std::string& name) const;
  // A name that none of them has, which is taken from then on.
  std::string free_name();
  // What was changed becomes what the page has.
  void finish();

 private:
  file::Ledger& ledger_;
  ObjectId page_;
  Array list_;
  MarkNames names_;
  bool knows_names_ = false;
};

// These marks of a page's list with the answers to them and their pop-ups.
std::set<ObjectId> with_answers(const file::Ledger& ledger, const Array& list,
                                std::set<ObjectId> marks);

// On which page an annotation is, from 0. Errors: invalid_argument for one that is on none.
Result<int> page_of(const Document& document, ObjectId annotation);

}  // namespace lumvet::annotate
