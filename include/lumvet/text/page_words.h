// SPDX-License-Identifier: Apache-2.0
// What pages say.
//
//   std::string said = lumvet::text_of(page).value();
//
// A scene that is there already has the text in it:
//
//   lumvet::Scene scene = lumvet::Scene::record(page).value();
//   std::string same = lumvet::text_of(scene);
//
// Threads: free functions; pages and documents may be shared. Since: 0.2
#pragma once

#include <string>
#include <vector>

#include "lumvet/content/scene.h"

namespace lumvet {

// In UTF-8 and in the order in which it is drawn, invisible text too, but not what annotations say:
// a line end where a line begins, a blank where letters stand apart. Characters that the document
// does not tell are left out.
LUMVET_EXPORT std::string text_of(const Scene& scene);
// The same of a page that nobody has recorded. Errors: as Scene::record's.
LUMVET_EXPORT Result<std::string> text_of(const Page& page, const RecordOptions& options = {});

// The headings that the structure tree names (14.8.4.3), as entries of an outline that lead to
// where they stand. None of a document that is not tagged. Errors: as text_of's.
LUMVET_EXPORT Result<std::vector<OutlineEntry>> headings_of(const Document& document);

}  // namespace lumvet
