// SPDX-License-Identifier: Apache-2.0
// A document's pages in another order, turned, cropped, with others among them: step by step, and
// every step can be taken back.
//
//   lumvet::Arrangement pages(scans);
//   pages.turn(lumvet::PageSelection::parse("3").value(), 90);
//   pages.save("turned.pdf");
//
// The document itself is never changed. Pages are counted as they are at that step.
// Threads: const methods may run concurrently; anything else needs exclusive access. Since: 0.2
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "lumvet/assemble/assembly.h"
#include "lumvet/assemble/paper.h"

namespace lumvet {

// Where something stands on a page as it is shown.
enum class Anchor {
  top_left,
  top,
  top_right,
  left,
  center,
  right,
  bottom_left,
  bottom,
  bottom_right
};

// Another document's page on top of a page, or behind it: a letterhead, a watermark.
struct Overlay {
  Anchor anchor = Anchor::center;
  double margin = 0;                 // points, from the sides that the anchor names
  std::optional<double> scale = {};  // without it as large as the page has room for
  double opacity = 1;                // 0 to 1
  bool behind = false;               // what the page shows; white paper in a scan covers it
};

// Several pages side by side on one. The paper lies as they become largest.
struct SheetLayout {
  int columns = 2;
  int rows = 1;
  PaperSize paper = {595.276, 841.89};
  double margin = 18;          // points, around all pages
  double gap = 12;             // points, between pages
  bool framed = false;         // a thin line around each
  bool down_first = false;     // the second page below the first, rather than beside it
  bool right_to_left = false;  // the first page at the right
};

// Pages so that sheets printed on both sides, turned over the short edge, folded in the middle and
// laid into each other make a booklet.
struct BookletLayout {
  PaperSize paper = {595.276, 841.89};
  double margin = 18;          // points, around each page
  int sheets_in_a_fold = 0;    // 0 for all in one
  bool right_to_left = false;  // bound at the right
};

// A page as it is now.
struct ArrangedPage {
  PaperSize size;            // as it is shown
  std::string label;         // what it is numbered, "iv"; UTF-8
  std::string chapter;       // the outermost entry of the outline under which it comes; UTF-8
  std::vector<int> sources;  // the document's pages that are on it: one, several of a sheet, none
};

class LUMVET_EXPORT Arrangement {
 public:
  explicit Arrangement(const Document& document);
  Arrangement(Arrangement&&) noexcept;
  Arrangement& operator=(Arrangement&&) noexcept;
  ~Arrangement();

  int page_count() const;
  // Of the document, UTF-8; empty when it states none. Errors: io, need_more_data, limit.
  Result<std::string> title() const;

  // Each is one step. Errors: invalid_argument, with the pages that there are, and nothing is done.
  Status turn(const PageSelection& pages, int degrees);  // to the right; a multiple of 90
  // The pages, in the selection's order, in front of another page; behind all of them for
  // page_count().
  Status move(const PageSelection& pages, int before);
  Status drop(const PageSelection& pages);
  Status duplicate(const PageSelection& pages);  // each copy behind its page
  // These pages in this order, and no others; a page may come several times.
  Status keep(const PageSelection& pages);
  Status reverse(const PageSelection& pages = {});  // among the places that they have
  // The first half are fronts and the second half backs of the same sheets, as two runs through a
  // scanner give them; `backs_reversed` when the second run began with the last sheet. The number
  // of pages must be even.
  Status interleave(bool backs_reversed = false);
  Status insert_blank(int before, int count, const PaperSize& size);
  Status insert(const Document& other, const PageSelection& pages, int before);
  Status crop(const PageSelection& pages, const Margins& margins);
  // Onto paper that lies as each page does, in the middle, scaled to fit or as large as they are;
  // what has no room then is cut off.
  Status resize(const PageSelection& pages, const PaperSize& paper, bool scaled = true);
  // Pages of `other`, drawn with what their annotations look like, each on the next of `pages`; the
  // last goes on for the rest. It stays with the page from then on.
  Status overlay(const PageSelection& pages, const Document& other, const PageSelection& from = {},
                 const Overlay& how = {});
  // All pages onto sheets. Outlines and links lead to where their pages are then, notes and fields
  // stand there; sheets are labelled by what lies on them.
  Status lay_on_sheets(const SheetLayout& layout);
  Status lay_as_booklet(const BookletLayout& layout);

  bool can_undo() const;
  bool can_redo() const;
  void undo();  // nothing happens when there is nothing to take back
  void redo();
  // What was done, "turned 3 pages", oldest first, without what was taken back.
  std::vector<std::string> steps() const;

  // Which page of the document each is now, counted from 0; -1 for pages of others, blank ones and
  // sheets.
  std::vector<int> order() const;
  // Errors: as Document::page's.
  Result<std::vector<ArrangedPage>> pages() const;
  // These pages as they are now, to be drawn: a document in memory. Errors: as Assembly::save's.
  Result<Document> preview(const PageSelection& pages = {}) const;

  // Errors: as Assembly::save's; invalid_argument when no page is left.
  Result<SaveReport> save(const std::filesystem::path& path, const SaveOptions& options = {}) const;
  Result<SaveReport> save(ByteSink& sink, const SaveOptions& options = {}) const;

 private:
  struct Impl;
  std::unique_ptr<Impl> impl_;
};

}  // namespace lumvet
