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
  // When an element is complete whose tag has a key: at the end, or as soon as a page has nothing
  // of it, which is where elements follow one another.
  enum class Keys { last, end };

  TagTree(file::Ledger& ledger, Keys keys)
      : ledger_(ledger), keys_(keys), root_(ledger.reserve()) {}

  // `marks` are the tags of the page's marked contents, by their numbers. Gives what /StructParents
  // of the page is.
  int add_page(ObjectId page, const DrawingData& drawing, const std::vector<int>& marks);
  // A link within a tag of the page that was added last. Gives what /StructParent of it is.
  int add_link(ObjectId annotation, ObjectId page, int tag);
  // Elements that are complete go into the ledger.
  void end_page();
  void finish(Dict& catalog);

 private:
  struct Element {
    ObjectId id;
    std::string type;
    std::string key;
    std::shared_ptr<const TagOptions> options;  // null for none
    ObjectId parent;
    ObjectId page;  // of its first content; 0 0 for none
    Array kids;
  };
  using Elements = std::map<std::size_t, Element>;

  std::size_t element_of(const Tag& tag, const std::vector<std::size_t>& made);
  void write(Element& element);
  void complete(Elements::iterator element);

  file::Ledger& ledger_;
  Keys keys_;
  ObjectId root_;
  Elements open_;  // by number
  std::size_t next_element_ = 0;
  Array roots_;
  std::unordered_map<std::string, std::size_t> by_key_;
  std::vector<std::size_t> made_;           // of the page that was added last: elements, by tag
  std::vector<std::size_t> goes_on_;        // elements with keys of the page before
  std::map<std::int64_t, Object> parents_;  // elements, or lists of them, by number
  int next_parent_ = 0;
};

}  // namespace lumvet::draw
