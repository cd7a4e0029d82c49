// SPDX-License-Identifier: Apache-2.0
// Two states of a document held against each other by what their pages show, and laid beside each
// other with the differences framed.
//
//   const auto before = opened.revision(0).value();   // as it was signed
//   const auto pages = lumvet::compare_pages(before, opened).value();
//   const auto sheets = lumvet::side_by_side(before, opened, pages).value();
//   lumvet::save(sheets, "then-and-now.pdf").value();
//
// What shows nothing (properties, scripts, what reads aloud) is not compared.
// Threads: free functions; documents may be shared. Since: 0.3
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "lumvet/assemble/paper.h"
#include "lumvet/base/progress.h"
#include "lumvet/content/scene.h"
#include "lumvet/document/document.h"

namespace lumvet {

struct PageComparison {
  std::optional<int> before = {};  // from 0; nothing for a page that came later
  std::optional<int> after = {};   // nothing for one that is gone
  // What differs, in points from the top left corner of the page as it is shown; the whole page
  // where it has another size. None overlap.
  std::vector<PageArea> places = {};

  bool is_same() const { return before && after && places.empty(); }
};

struct CompareOptions {
  // Which pages belong together: those that are the same object, for two states of one file; or
  // those that have the same number.
  enum class Pairs { by_object, by_number };
  Pairs pairs = Pairs::by_object;
  double dpi = 100;   // by which pages are looked at; less for very large ones
  int tolerance = 0;  // levels of 255 by which a pixel may differ
  RecordOptions record = {};
  CancelToken cancel = {};
  Progress progress = {};  // of pages
};

// All pages of both, in the order of `after`; those that are gone stand where they stood. Errors:
// as Scene::record and render; cancelled.
LUMVET_EXPORT Result<std::vector<PageComparison>> compare_pages(const Document& before,
                                                                const Document& after,
                                                                const CompareOptions& options = {});

struct SideBySideOptions {
  std::string title = {};
  std::string language = {};
  std::string before = "Before";        // stands above its pages
  std::string after = "After";          // above those
  std::vector<std::string> notes = {};  // paragraphs in front of all pages
  bool has_all_pages = false;           // also those that are the same
  PaperSize paper = {841.89, 595.276};  // A4, lying
};

// A new document, tagged: what differs is framed, in broken lines on the left and in whole ones on
// the right, with an entry in its outline for each page. Errors: as Flow's.
LUMVET_EXPORT Result<Document> side_by_side(const Document& before, const Document& after,
                                            const std::vector<PageComparison>& pages,
                                            const SideBySideOptions& options = {});

}  // namespace lumvet
