// SPDX-License-Identifier: Apache-2.0
// Lays copies of pages onto sheets, each as a form, and lets what leads to them follow.
//
//   SheetLayer sheets(ledger);
//   for (…) sheets.add(page, copy, on);   // every page, in order; a sheet comes after its pages
//   sheets.finish();                      // once everything else is in the ledger
//
// Threads: one thread at a time.
#pragma once

#include <map>
#include <optional>
#include <set>
#include <vector>

#include "assemble/page_drawing.h"
#include "assemble/page_moves.h"

namespace lumvet::assemble {

// A page that is part of a larger one, a sheet.
struct OnSheet {
  std::size_t sheet = 0;  // its place among all pages of all parts
  Matrix placed;          // from the page's space to the sheet's
  bool framed = false;
};

class SheetLayer {
 public:
  explicit SheetLayer(file::Ledger& ledger) : ledger_(ledger), moves_(ledger) {}

  // The next of all pages; its copy is in the ledger, with its annotations.
  void add(const Page& page, ObjectId copy, const std::optional<OnSheet>& on);
  // Errors: as decoding streams.
  Status finish();

 private:
  struct Part {
    ObjectId page;
    Rect crop;
    Limits limits;
    OnSheet on;
  };

  file::Ledger& ledger_;
  PageMoves moves_;
  std::size_t next_ = 0;  // page's place among all
  std::vector<Part> parts_;
  std::map<std::size_t, ObjectId> sheets_;  // by their places
};

}  // namespace lumvet::assemble
