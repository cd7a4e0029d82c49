// SPDX-License-Identifier: Apache-2.0
// Several pages side by side on one sheet of paper, and booklets: plans that make a new document of
// a document's pages.
//
//   const auto plan = lumvet::SheetPlan::of(report, {.columns = 2, .rows = 2}).value();
//   plan.save("handout.pdf").value();
//
// Outlines and links lead to where their pages are then, notes and fields stand there; sheets are
// labeled by what lies on them. Threads: immutable, share freely. Since: 0.2
#pragma once

#include <filesystem>
#include <memory>
#include <vector>

#include "lumvet/assemble/paper.h"
#include "lumvet/document/document.h"
#include "lumvet/save/save.h"

namespace lumvet {

// The paper lies as pages become largest.
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
  double margin = 18;           // points, around each page
  int sheets_in_a_section = 0;  // that are folded together; 0 for all in one
  bool right_to_left = false;   // bound at the right
};

class LUMVET_EXPORT SheetPlan {
 public:
  // Errors: invalid_argument for paper that no page has, numbers beyond 1 to 20, and margins that
  // leave no room; io, need_more_data, limit.
  static Result<SheetPlan> of(const Document& document, const SheetLayout& layout);
  static Result<SheetPlan> of(const Document& document, const BookletLayout& layout);

  // The document's pages on each page of the new one, from 0, in the order in which they are laid
  // there.
  const std::vector<std::vector<int>>& pages() const;

  // The new document, in memory. Errors: as Assembly::save's.
  Result<Document> document() const;
  // Errors: as Assembly::save's.
  Result<SaveReport> save(const std::filesystem::path& path, const SaveOptions& options = {}) const;
  Result<SaveReport> save(ByteSink& sink, const SaveOptions& options = {}) const;

 private:
  struct Impl;
  explicit SheetPlan(std::shared_ptr<const Impl> impl) : impl_(std::move(impl)) {}
  std::shared_ptr<const Impl> impl_;
};

}  // namespace lumvet
