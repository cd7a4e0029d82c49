// SPDX-License-Identifier: Apache-2.0
// A new document, written page by page: what a page is made of is forgotten once it is added.
//
// Threads: one thread at a time.
#pragma once

#include <functional>
#include <map>
#include <string>
#include <vector>

#include "assemble/equal_objects.h"
#include "document/outline_builder.h"
#include "draw/drawing_writer.h"
#include "draw/tag_tree.h"
#include "lumvet/draw/new_document.h"
#include "save/page_tree_builder.h"
#include "save/running_writer.h"

namespace lumvet::draw {

// What a document has of structure.
struct Tagging {
  bool is_tagged = true;
  TagTree::Keys keys = TagTree::Keys::last;
};

class DocumentWriter {
 public:
  // All that it is given stays as long as it lives.
  DocumentWriter(const NewDocumentOptions& options, const Tagging& tagging, const SaveOptions& how,
                 ByteSink& sink);

  // Errors: the drawing's, with the page; as RunningWriter::take's.
  Status add(const Drawing& page);
  // Errors: invalid_argument without a page, and for links to places that no page names.
  Result<std::uint64_t> finish();
  int page_count() const { return static_cast<int>(pages_.size()); }

 private:
  Status add_page(const DrawingData& drawing);
  Dict annotation_of(const Link& link);
  Status hand_over();
  Status check_links() const;
  Result<Dict> catalog();
  Object info();

  const NewDocumentOptions& options_;
  Tagging tagging_;
  file::Ledger ledger_;
  saving::PageTreeBuilder tree_;
  DrawingWriter writer_;
  TagTree tags_;
  assemble::EqualObjects equal_;
  saving::RunningWriter out_;
  std::uint32_t handed_over_ = 0;  // numbers less than it may be referred to by what is written
  std::vector<ObjectId> pages_;
  std::map<std::string, Array> places_;
  std::map<std::string, int> linked_places_;  // and the first page from which
  std::vector<document::NewEntry> outline_;
};

// Writes what `add_pages` gives to a writer. What cannot be written while it is made is written to
// memory first. Errors: as DocumentWriter's and lumvet::save's.
Result<SaveReport> write_new_document(const NewDocumentOptions& options, const Tagging& tagging,
                                      const SaveOptions& how, ByteSink& sink,
                                      const std::function<Status(DocumentWriter&)>& add_pages);

}  // namespace lumvet::draw
