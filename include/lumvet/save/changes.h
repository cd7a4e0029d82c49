// SPDX-License-Identifier: Apache-2.0
// Changes on top of an opened document: what it says about itself, how it is shown, its outline and
// page numbers, and the files attached to it.
//
//   lumvet::Changes changes(report);
//   changes.describe({.title = "Day 12"});
//   changes.attach({.name = "readings.csv", .bytes = readings});
//   changes.save("report-2.pdf");
//
// Every change can be taken back. The document itself stays as it is, and others may go on reading
// it. Threads: const methods may run concurrently; anything else needs exclusive access. Since: 0.2
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "lumvet/document/outline.h"
#include "lumvet/document/page_label.h"
#include "lumvet/save/new_view.h"
#include "lumvet/save/save.h"

namespace lumvet {

struct NewAttachment {
  std::string name;  // UTF-8; of the file, without folders
  Bytes bytes;
  std::string description = {};  // UTF-8
  std::string media_type = {};   // "text/csv"
};

// Each that is given is set, in UTF-8; an empty text takes it away.
struct NewProperties {
  std::optional<std::string> title = {};
  std::optional<std::string> author = {};
  std::optional<std::string> subject = {};
  std::optional<std::string> keywords = {};
  std::optional<std::string> creator = {};  // the program in which the text was written
};

class LUMVET_EXPORT Changes {
 public:
  explicit Changes(const Document& document);
  Changes(Changes&&) noexcept;
  Changes& operator=(Changes&&) noexcept;
  ~Changes();

  // Sets properties in both places where a document has them, the information dictionary and XMP.
  Status describe(const NewProperties& properties);
  // Takes all properties away, from both places.
  Status forget_properties();
  // "de-AT"; empty for none.
  Status set_language(const std::string& language);
  // What is printed on pages as their numbers, by runs of pages; none for no run. Pages before the
  // first run are numbered from 1. Errors: invalid_argument for pages that are not there, and for
  // two runs that begin at one page.
  Status number_pages(std::vector<LabelRun> runs);
  // Errors: invalid_argument for pages that are not there.
  Status set_view(const NewView& view);
  // In place of the one that there is, in reading order. Entries of the document's own outline()
  // keep what is not told in them, and lead where they led unless that was changed; others lead to
  // their destination, their page, or the address of a URI action. None for no entry. Errors:
  // invalid_argument for one without a title, one that lies deeper than below the one before it,
  // and for pages that are not there.
  Status set_outline(const std::vector<OutlineEntry>& entries);
  // Errors: exists when there is an attachment of that name; invalid_argument for a name that is
  // none.
  Status attach(NewAttachment attachment);
  // Errors: invalid_argument, with the names that there are.
  Status detach(const std::string& name);
  std::vector<std::string> attachment_names() const;  // of the document's own list, UTF-8

  bool can_undo() const;
  bool can_redo() const;
  void undo();  // nothing happens when there is nothing to take back
  void redo();
  std::vector<std::string> steps() const;  // "attached readings.csv", oldest first

  // The whole document with its changes, as save() writes it. Errors: as save's.
  Result<SaveReport> save(const std::filesystem::path& path, const SaveOptions& options = {}) const;
  Result<SaveReport> save(ByteSink& sink, const SaveOptions& options = {}) const;

  // The changes alone, to be put behind the bytes of the document's file, which stay as they are,
  // signatures and all (7.5.6). Errors: unsupported, with the reason, for a file that must be saved
  // whole; password when its owner does not let it be changed.
  Result<Bytes> update() const;
  // A file of the document's bytes with the changes behind. Layout and protection are the
  // document's. Errors: as update's; exists, io.
  Result<SaveReport> save_update(const std::filesystem::path& path,
                                 const SaveOptions& options = {}) const;
  // The changes behind the file that the document was opened from, however large it is; when they
  // cannot be written, it stays as long as it was. Errors: as update's; invalid_argument for a
  // document that was opened from no file, or whose file was changed since; io.
  Result<SaveReport> append_to_file() const;

 private:
  struct Impl;
  std::unique_ptr<Impl> impl_;
};

}  // namespace lumvet
