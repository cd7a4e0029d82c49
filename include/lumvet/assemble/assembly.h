// SPDX-License-Identifier: Apache-2.0
// A plan of pages taken from several documents, which becomes a new document.
//
//   lumvet::Assembly book;
//   book.add(report);
//   book.add(annex, lumvet::PageSelection::parse("1-2,last").value(), {.outlines = false});
//   lumvet::SaveReport saved = book.save("book.pdf").value();
//
// Each document is checked when it is added; nothing is written before save().
// Threads: const methods may run concurrently; anything else needs exclusive access.
#pragma once

#include <memory>

#include "lumvet/assemble/page_selection.h"
#include "lumvet/document/document.h"
#include "lumvet/save/save.h"

namespace lumvet {

// What travels along with pages into an assembly.
struct Carry {
  bool outlines = true;  // entries that lead to pages taken along
  bool metadata = true;  // title, author and so on, of the first document that allows it
};

class LUMVET_EXPORT Assembly {
 public:
  Assembly();
  Assembly(Assembly&&) noexcept;
  Assembly& operator=(Assembly&&) noexcept;
  ~Assembly();

  // Appends pages in the selection's order. Errors: invalid_argument for pages that are not there;
  // malformed for pages that cannot be read; nothing is appended then.
  Status add(const Document& document, const PageSelection& pages = {}, const Carry& carry = {});

  int page_count() const;

  // Resources shared by several pages are written once. Links to pages that were not taken along
  // are left out and counted in the report. Errors: exists, io, cancelled; invalid_argument without
  // pages.
  Result<SaveReport> save(const std::filesystem::path& path, const SaveOptions& options = {}) const;
  Result<SaveReport> save(ByteSink& sink, const SaveOptions& options = {}) const;

 private:
  struct Impl;
  std::unique_ptr<Impl> impl_;
};

}  // namespace lumvet
