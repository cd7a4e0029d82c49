// SPDX-License-Identifier: Apache-2.0
// The structure of a new document (ISO 32000-2, 14.7), by which it is read aloud: those elements of
// several that have something on pages taken along, and the tree from pages back to them. Or such
// elements behind those of a structure that there is.
//
// Threads: one thread at a time.
#pragma once

#include <map>
#include <set>
#include <string>
#include <vector>

#include "assemble/source_copier.h"
#include "file/ledger.h"

namespace lumvet::assemble {

class StructureBuilder {
 public:
  explicit StructureBuilder(file::Ledger& target) : target_(target), root_(target.reserve()) {}
  // Upon the structure of a document, whose catalog in the ledger states it.
  StructureBuilder(file::Ledger& target, const file::ObjectStore& store, const Object& root);

  // Once all pages and annotations of the source have been copied. Of a page that was copied
  // several times the first copy keeps its structure; `annotations` are copies by their source.
  void add(SourceCopier& copier, const std::map<ObjectId, ObjectId>& annotations);
  // The root for the catalog, with pages and annotations told their places in it; null when no
  // source has a structure, and the one that there is when nothing comes to it.
  Object finish();

 private:
  // An element whose kids are being copied.
  struct Open {
    ObjectId id;
    ObjectId parent;
    Dict source;
    std::optional<int> page;  // that its kids lie on unless they say otherwise
    Array items;              // of the source
    std::size_t next = 0;
    Array kept = {};
    bool has_content = false;  // something on a page, here or below
  };
  struct Source {
    SourceCopier& copier;
    const std::map<ObjectId, ObjectId>& annotations;
    std::map<std::string, std::string> roles;    // that got another name
    std::map<std::string, std::string> classes;  // the same
    std::set<ObjectId> seen;
    std::uint64_t items = 0;  // taken so far, of lists that may be shared
  };

  void take_names(Source& source, const Dict& root);
  void copy_tree(Source& source, const Object& kids);
  Open opened(const Source& source, const Object& element, const Open* parent) const;
  void take_item(Source& source, std::vector<Open>& open, const Object& item);
  void take_content(Source& source, Open& element, const Dict& item, std::int64_t id);
  void take_object(const Source& source, Open& element, const Dict& item);
  static Object renamed_classes(const Source& source, const Object& stated);
  void close(Source& source, std::vector<Open>& open);

  file::Ledger& target_;
  ObjectId root_;
  Object stated_;  // the structure that there is
  Dict own_;       // of it
  std::map<std::int64_t, Object> parents_;
  std::int64_t next_ = 0;  // key among them
  Array tops_;
  Dict roles_;
  Dict classes_;
  Array namespaces_;
  std::map<std::string, Object> ids_;
  std::map<ObjectId, std::map<std::int64_t, ObjectId>> contents_;  // elements by page and number
  std::map<ObjectId, ObjectId> objects_;                           // elements by annotation
};

}  // namespace lumvet::assemble
