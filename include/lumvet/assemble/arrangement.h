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
#include <string>
#include <vector>

#include "lumvet/assemble/assembly.h"

namespace lumvet {

struct PaperSize {
  double width = 0;   // points
  double height = 0;  // points
  bool operator==(const PaperSize&) const = default;

  // "A4", "a5", "Letter", "A3 landscape", "210x297" in millimetres. Errors: invalid_argument.
  LUMVET_EXPORT static Result<PaperSize> parse(std::string_view text);
};

// What is cut off at each side of a page as it is shown, in points.
struct Margins {
  double left = 0;
  double top = 0;
  double right = 0;
  double bottom = 0;
};

class LUMVET_EXPORT Arrangement {
 public:
  explicit Arrangement(const Document& document);
  Arrangement(Arrangement&&) noexcept;
  Arrangement& operator=(Arrangement&&) noexcept;
  ~Arrangement();

  int page_count() const;

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

  bool can_undo() const;
  bool can_redo() const;
  void undo();  // nothing happens when there is nothing to take back
  void redo();
  // What was done, "turned 3 pages", oldest first, without what was taken back.
  std::vector<std::string> steps() const;

  // Which page of the document each is now, counted from 0; -1 for pages of others and blank ones.
  std::vector<int> order() const;
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
