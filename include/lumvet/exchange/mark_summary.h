// SPDX-License-Identifier: Apache-2.0
// The remarks of a document, page by page, to be read on paper: each with the answers to it and a
// picture of its place.
//
//   const auto summary = lumvet::mark_summary(annex, {.title = "Remarks on Q-01"}).value();
//   lumvet::save(summary, "remarks.pdf").value();
//
// Links, pop-ups and fields are no remarks. Threads: free functions. Since: 0.2
#pragma once

#include <string>
#include <vector>

#include "lumvet/assemble/page_selection.h"
#include "lumvet/assemble/paper.h"
#include "lumvet/document/document.h"

namespace lumvet {

struct SummaryOptions {
  std::string title = {};  // without one that of the document, or its name
  std::string language = {};
  PaperSize paper = {595.276, 841.89};  // A4
  PageSelection pages = {};
  std::vector<Annotation::Kind> kinds = {};  // all for none
  bool has_pictures = true;
};

// A new document, tagged, with an entry in its outline for each page that has remarks. One that
// says that there are none, where there are none. Errors: invalid_argument for pages that are not
// there; as Page::annotations' and Flow's.
LUMVET_EXPORT Result<Document> mark_summary(const Document& document,
                                            const SummaryOptions& options = {});

}  // namespace lumvet
