// SPDX-License-Identifier: Apache-2.0
// A document that is being changed: what it says about itself, how it is shown, its outline, page
// numbers and attachments, and its pages, those of other documents among them.
//
//   auto report = lumvet::EditableDocument::of(opened);
//   report.set_properties({.title = "Day 12"}).value();
//   report.rotate(lumvet::PageSelection::parse("3").value(), 90).value();
//   lumvet::render(report.now()->page(2).value());    // as it is now
//   report.undo();
//   report.save("report-2.pdf").value();
//
// Every change is a step that can be taken back. The opened document stays as it is, and others may
// go on reading it, and any state that now() gave. Threads: const methods may run concurrently;
// anything else needs exclusive access. Since: 0.2
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "lumvet/assemble/page_selection.h"
#include "lumvet/assemble/paper.h"
#include "lumvet/document/outline.h"
#include "lumvet/document/page_label.h"
#include "lumvet/edit/new_view.h"
#include "lumvet/save/save.h"

namespace lumvet {

struct NewAttachment {
  std::string name = {};  // UTF-8; of the file, without folders
  Bytes bytes = {};
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

class LUMVET_EXPORT EditableDocument {
 public:
  static EditableDocument of(const Document& document);
  EditableDocument(EditableDocument&&) noexcept;
  EditableDocument& operator=(EditableDocument&&) noexcept;
  ~EditableDocument();

  // The document as it is now, which draws, lists and saves like any other and stays as it is when
  // this is changed further. It shares with the opened one, and with every other state, all that is
  // the same in both, so that it costs what was changed, whatever the document's size. What it
  // tells of its file (file_size(), revisions(), place_of()) is of the file that was opened.
  // Errors: io, need_more_data, limit.
  Result<Document> now() const;
  // The pages of now() that show something else than they do in another state of the document, or
  // that are not in it, from 0. invalid_argument for another document. Errors: as now's.
  Result<std::vector<int>> pages_changed_since(const Document& state) const;

  // Each of what follows is one step, or an error and no step. Errors of all: io, need_more_data,
  // limit; password when the document's owner does not let it be changed, or its pages rearranged.

  // Sets properties in both places where a document has them, the information dictionary and XMP.
  // Errors: invalid_argument when none is given; malformed for XMP that cannot be changed.
  Status set_properties(const NewProperties& properties);
  // Takes all properties away, from both places.
  Status clear_properties();
  // "de-AT"; empty for none.
  Status set_language(const std::string& language);
  // What is printed on pages as their numbers, by runs of pages; none for no run. Pages before the
  // first run are numbered from 1. Errors: invalid_argument for pages that are not there, and for
  // two runs that begin at one page.
  Status set_page_labels(const std::vector<LabelRun>& runs);
  // Errors: invalid_argument for pages that are not there.
  Status set_view(const NewView& view);
  // In place of the one that there is, in reading order. Entries of now()'s outline() keep what is
  // not told in them, and lead where they led unless that was changed; others lead to their
  // destination, their page, or the address of a URI action. None for no entry. Errors:
  // invalid_argument for one without a title, one that lies deeper than below the one before it,
  // and for pages that are not there.
  Status set_outline(const std::vector<OutlineEntry>& entries);
  // Errors: exists when there is an attachment of that name; invalid_argument for a name that is
  // none.
  Status attach(NewAttachment attachment);
  // Errors: invalid_argument, with the names that there are.
  Status detach(const std::string& name);
  Result<std::vector<std::string>> attachment_names() const;  // of the document's own list, UTF-8

  // Pages are counted as they are at that step. Errors: invalid_argument, with the pages that there
  // are.
  Status rotate(const PageSelection& pages, int degrees);  // to the right; a multiple of 90
  // The pages, in the selection's order, in front of another page; after all of them for the
  // number of pages. Their numbers go with them.
  Status move(const PageSelection& pages, int before);
  // With what belongs to them: annotations, fields that stand on no other page, links, entries of
  // the outline and named places that lead there, what the structure says of them. Reads every
  // page's links. One page has to be left.
  Status drop(const PageSelection& pages);
  // These pages in this order, and no others, which go as dropped ones do; a page may come several
  // times, as duplicates of it.
  Status keep(const PageSelection& pages);
  Status reverse(const PageSelection& pages = {});  // among the places that they have
  // The first half are fronts and the second half backs of the same sheets, as two runs through a
  // scanner give them; `backs_reversed` when the second run began with the last sheet. The number
  // of pages must be even.
  Status interleave(bool backs_reversed = false);
  // Each copy after its page, with annotations of its own. Its widgets are further ones of their
  // fields; a signature stays where it is, and so does what the structure says.
  Status duplicate(const PageSelection& pages);
  Status insert_blank(int before, int count, const PaperSize& size);
  // Pages of another document, with their annotations, fields, layers, structure, named places,
  // page numbers and entries of the outline, and that document's attached files. What has a name
  // that is taken gets another. Scripts, links to pages that do not come along, and signatures,
  // which become drawings, stay behind, and the report of the next save says so. Errors: password
  // when its owner does not let pages be taken out; limit; as reading its pages.
  Status insert(const Document& other, const PageSelection& pages, int before);

  // What is cut off stays in the document, and is not shown.
  Status crop(const PageSelection& pages, const Margins& margins);
  // Onto paper that lies as each page does, in the middle, scaled to fit or as large as they are;
  // what has no room then is cut off. What stands on the pages, and what leads there, follows; that
  // is looked for in every page's links.
  Status resize(const PageSelection& pages, const PaperSize& paper, bool scaled = true);

  // Which page of the document as it was opened each page of now() is, or is a copy of, from 0; -1
  // for blank ones and those of others. Errors: as now's.
  Result<std::vector<int>> page_origins() const;

  bool can_undo() const;
  bool can_redo() const;
  void undo();  // nothing happens when there is nothing to take back
  void redo();
  std::vector<std::string> steps() const;  // "attached readings.csv", oldest first
  // What is done until end_steps() is one step, called so. They may lie within one another, and the
  // outermost counts.
  void begin_steps(std::string what);
  void end_steps();

  // The whole document as it is now. Errors: as lumvet::save's.
  Result<SaveReport> save(const std::filesystem::path& path, const SaveOptions& options = {}) const;
  Result<SaveReport> save(ByteSink& sink, const SaveOptions& options = {}) const;

  // What was changed alone, to be put behind the bytes of the document's file, which stay as they
  // are, signatures and all (7.5.6); no bytes when nothing was changed. Errors: unsupported, with
  // the reason, for a file that must be saved whole; io, need_more_data, limit.
  Result<Bytes> appended() const;
  // A file of the document's bytes with the changes behind. Layout and protection are the
  // document's. Errors: as appended's; exists, io.
  Result<SaveReport> save_appended(const std::filesystem::path& path,
                                   const SaveOptions& options = {}) const;
  // The same where such bytes go; a sink may have a part of them when it fails.
  Result<SaveReport> save_appended(ByteSink& sink) const;
  // The changes behind the file that the document was opened from, however large it is; when they
  // cannot be written, it stays as long as it was. The history stays, and what is done or taken
  // back afterwards can be appended as well. Errors: as appended's; invalid_argument for a document
  // that was opened from no file, or whose file was changed by others since; io, also while another
  // does the same to the file.
  Result<SaveReport> append_to_file();

 private:
  friend struct Inside<EditableDocument>;
  struct Impl;
  explicit EditableDocument(std::unique_ptr<Impl> impl);
  std::unique_ptr<Impl> impl_;
};

}  // namespace lumvet
