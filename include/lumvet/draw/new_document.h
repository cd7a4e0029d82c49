// SPDX-License-Identifier: Apache-2.0
// A document made of drawings, one a page.
//
//   lumvet::NewDocument report({.title = "Day 12", .language = "en"});
//   lumvet::Drawing& page = report.add_page(lumvet::PaperSize::parse("A4").value());
//   page.write("Autumn round", {64, 90}, {.size = 24});
//   page.draw(photo, {64, 120, 240, 160});
//   report.save("day-12.pdf").value();
//
// The same drawings give the same bytes. Threads: const methods may run concurrently; anything
// else needs exclusive access. Since: 0.2
#pragma once

#include <deque>
#include <string>

#include "lumvet/assemble/paper.h"
#include "lumvet/draw/drawing.h"
#include "lumvet/edit/new_view.h"
#include "lumvet/save/save.h"

namespace lumvet {

struct NewDocumentOptions {
  std::string title = {};  // UTF-8, as all of these
  std::string author = {};
  std::string subject = {};
  std::string keywords = {};
  std::string language = {};  // "de-AT"
  NewView view = {};          // how it shall be shown
  bool is_tagged = true;      // whether the tags of its drawings, where they have some, go into it
};

class LUMVET_EXPORT NewDocument {
 public:
  explicit NewDocument(NewDocumentOptions options = {}) : options_(std::move(options)) {}

  // Empty; it stays where it is while others are added.
  Drawing& add_page(const PaperSize& size);
  Drawing& add(Drawing drawing);
  Drawing& page(int index) {
    return pages_[static_cast<std::size_t>(index)];
  }  // below page_count()
  int page_count() const { return static_cast<int>(pages_.size()); }

  // To be read, rendered and changed like any other. Errors: those of the drawings, with the page;
  // invalid_argument without a page, and for links to places that no page names.
  Result<Document> as_document() const;
  // Pages are written one after the other; a sink may have a part of them when it fails. Errors: as
  // as_document's and lumvet::save's.
  Result<SaveReport> save(const std::filesystem::path& path, const SaveOptions& options = {}) const;
  Result<SaveReport> save(ByteSink& sink, const SaveOptions& options = {}) const;

 private:
  NewDocumentOptions options_;
  std::deque<Drawing> pages_;
};

// A document's bytes as text for an inline frame: "data:application/pdf;base64,…".
LUMVET_EXPORT std::string data_address(ByteView document);

}  // namespace lumvet
