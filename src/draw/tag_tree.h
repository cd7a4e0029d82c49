// SPDX-License-Identifier: Apache-2.0
// The structure tree of a new document (ISO 32000-2, 14.7), out of the tags of its drawings.
//
// Threads: one thread at a time.
#pragma once

#include <map>
#include <memory>
#include <string>
#include <unordered_map>
#include <vector>

#include "draw/drawing_data.h"
#include "file/ledger.h"

namespace lumvet::draw {

class TagTree {
 public:
  explicit TagTree(file::Ledger& ledger) : ledger_(ledger), root_(ledger.reserve()) {}

  // `marks` are the tags of the page's marked contents, by their numbers. Gives what /StructParents
  // of the page is.
  int add_page(ObjectId page, const DrawingData& drawing, const std::vector<int>& marks);
  // A link within a tag of the page that was added last. Gives what /StructParent of it is.
  int add_link(ObjectId annotation, ObjectId page, int tag);
  void finish(Dict& catalog);

 private:
  struct Element {
    ObjectId id;
    std::string type;
    std::shared_ptr<const TagOptions> options;  // null for none
    ObjectId parent;
    ObjectId page;  // of its first content; 0 0 for none
    Array kids;
  };

  std::size_t element_of(const Tag& tag, const std::vector<std::size_t>& made);

  file::Ledger& ledger_;
  ObjectId root_;
  std::vector<Element> elements_;
  Array roots_;
  std::unordered_map<std::string, std::size_t> by_key_;
  std::vector<std::size_t> made_;           // of the page that was added last: elements, by tag
  std::map<std::int64_t, Object> parents_;  // elements, or lists of them, by number
  int next_parent_ = 0;
};

}  // namespace lumvet::draw
