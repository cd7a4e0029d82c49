// SPDX-License-Identifier: Apache-2.0
// Objects of one source document into the ledger of a new one, each once, references rewritten.
// What leads to pages leads to their copies; scripts stay behind.
//
// Threads: one thread at a time.
#pragma once

#include <functional>
#include <map>
#include <string>
#include <unordered_map>
#include <vector>

#include "file/ledger.h"
#include "lumvet/document/document.h"

namespace lumvet::assemble {

// A place in a copy of a page, as an array (12.3.2.2), or null.
using FindRemote = std::function<Object(const std::string& file, const Object& destination)>;

class SourceCopier {
 public:
  SourceCopier(const Document& source, file::Ledger& target) : source_(source), target_(target) {}

  const Document& source() const { return source_; }

  // All pages that will be copied have to be announced before anything is: what leads to them
  // depends on it. The same page may be announced several times, in several parts.
  void announce(int part, const Page& page, ObjectId as);
  // What leads to a page leads to its copy in this part from now on, where there is one.
  void enter(int part) { part_ = part; }
  // Files that are bound as well are asked here for the places that links to them lead to.
  void set_remote(FindRemote find) { find_remote_ = std::move(find); }
  // Destinations that have a name keep it, as it is called in the new document; without that they
  // become places.
  void set_names(const std::map<std::string, std::string>* names) { names_ = names; }

  // The page without its annotations into the ledger under `as`, with these resources.
  void copy_page(const Page& page, const Object& resources, ObjectId as, ObjectId parent);
  // Annotations, or fields, that refer to each other: what `ids` names is copied as what stands
  // there, in place of a copy shared by all, until the next call.
  void stand_in(std::map<ObjectId, ObjectId> ids) { stand_ins_ = std::move(ids); }

  // Copies go behind every reference in it.
  Object copied(const Object& object);
  Dict copied_dict(const Dict& dict, std::initializer_list<std::string_view> without = {});
  std::optional<ObjectId> copy_of(ObjectId id) const;

  std::optional<ObjectId> page_copy(int index) const;
  std::optional<ObjectId> first_copy(int index) const;
  std::optional<int> page_index(ObjectId page) const;  // of those that were announced
  // A place, or a name that is kept; null when its page was not taken along.
  Object copied_destination(const Object& destination);
  // Named destinations of the source, as arrays, by their names' bytes.
  const std::map<std::string, Object>& destinations();

  int scripts_left_out() const { return scripts_left_out_; }

 private:
  Object copied_reference(ObjectId id);
  Object copied_action(const Dict& action);
  Object copied_place(Array place);
  Object place_of(const Object& destination);
  std::optional<int> page_at(const Object& page) const;
  void finish_open();

  struct Copy {
    int part;
    ObjectId id;
  };

  Document source_;
  file::Ledger& target_;
  FindRemote find_remote_;
  const std::map<std::string, std::string>* names_ = nullptr;
  int part_ = 0;
  std::map<int, std::vector<Copy>> pages_;  // announced, by index
  std::map<ObjectId, int> page_indices_;
  std::map<ObjectId, ObjectId> stand_ins_;
  std::map<ObjectId, Object> copies_;
  std::vector<std::pair<ObjectId, ObjectId>> open_;  // numbered, but not yet copied
  bool is_finishing_ = false;
  std::optional<std::map<std::string, Object>> destinations_;
  int scripts_left_out_ = 0;
};

}  // namespace lumvet::assemble
