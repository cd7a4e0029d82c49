// SPDX-License-Identifier: Apache-2.0
// Objects of one source document into the ledger of a new one, each once, references rewritten.
//
// Threads: one thread at a time.
#pragma once

#include <map>
#include <vector>

#include "file/ledger.h"
#include "lumvet/document/document.h"

namespace lumvet::assemble {

class PageCopier {
 public:
  PageCopier(const Document& source, file::Ledger& target) : source_(source), target_(target) {}

  // All pages that will be copied have to be announced before the first is: links between them
  // depend on it. The same page may be announced and copied several times.
  void announce(const Page& page, ObjectId as);

  // Puts the page, with everything it needs, into the ledger under `as`.
  void copy(const Page& page, ObjectId as, ObjectId parent);

  int links_left_out() const { return links_left_out_; }
  int fields_left_behind() const { return fields_left_behind_; }

 private:
  Object copied(const Object& object);
  Object copied_reference(ObjectId id);
  Dict copied_dict(const Dict& dict);
  Object copied_annotations(const Object& annotations);
  std::optional<Object> copied_annotation(const Object& annotation);
  void finish_open();

  const Document& source_;
  file::Ledger& target_;
  std::map<ObjectId, ObjectId> pages_;  // announced, by their number in the source
  std::map<int, ObjectId> page_indices_;
  std::map<ObjectId, Object> copies_;
  std::vector<std::pair<ObjectId, ObjectId>> open_;  // numbered, but not yet copied
  int links_left_out_ = 0;
  int fields_left_behind_ = 0;
};

}  // namespace lumvet::assemble
