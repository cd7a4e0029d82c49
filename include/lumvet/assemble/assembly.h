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
#include <string>

#include "lumvet/assemble/page_selection.h"
#include "lumvet/document/document.h"
#include "lumvet/save/save.h"

namespace lumvet {

// What travels along with pages into an assembly. Scripts never do.
struct Carry {
  bool outlines = true;  // entries that lead to pages taken along
  // A new entry of this title, which leads to the first of the pages; other entries go below it.
  std::string heading = {};
  bool lost_entries = false;  // entries whose pages stay behind are kept, but lead nowhere
  bool labels = true;         // what is printed on the pages as their numbers
  bool destinations = true;   // places that have a name; links follow when they get another one
  bool links = true;          // to pages taken along, of any document, and to elsewhere
  bool annotations = true;    // other than links and fields
  bool fields = true;         // without, they can be seen but not filled in
  bool attachments = true;
  bool layers = true;          // without, everything in them shows
  bool structure = true;       // by which it is read aloud
  bool metadata = true;        // title, author and so on, of the first document that allows it
  bool opening = true;         // how it is shown when it is opened, and its language, of the first
  bool output_intents = true;  // what it is printed for, of the first that says so
  bool articles = true;        // their parts on pages taken along
};

struct AssemblyOptions {
  // Fields that have one name in several documents become one field; otherwise the later ones get
  // another name.
  bool join_fields = false;
};

class LUMVET_EXPORT Assembly {
 public:
  explicit Assembly(const AssemblyOptions& options = {});
  Assembly(Assembly&&) noexcept;
  Assembly& operator=(Assembly&&) noexcept;
  ~Assembly();

  // Appends pages in the selection's order. Errors: invalid_argument for pages that are not there;
  // malformed for pages that cannot be read; password when the owner does not let pages be taken
  // out; nothing is appended then.
  Status add(const Document& document, const PageSelection& pages = {}, const Carry& carry = {});

  int page_count() const;

  // What is alike in several documents, fonts and images above all, is written once. Links to
  // pages that were not taken along are left out, signatures become drawings, and both are counted
  // in the report. Errors: exists, io, cancelled; invalid_argument without
  // pages.
  Result<SaveReport> save(const std::filesystem::path& path, const SaveOptions& options = {}) const;
  Result<SaveReport> save(ByteSink& sink, const SaveOptions& options = {}) const;

 private:
  struct Impl;
  std::unique_ptr<Impl> impl_;
};

}  // namespace lumvet
