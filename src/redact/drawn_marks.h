// SPDX-License-Identifier: Apache-2.0
// A document whose marks and fields are part of its pages, so that what they show is found there.
//
// Threads: free functions.
#pragma once

#include "lumvet/annotate/annotations.h"

namespace lumvet::redacting {

// The document itself where it has none. Errors: as flatten_annotations'.
inline Result<Document> with_marks_drawn(const Document& document) {
  bool has_marks = false;
  for (int i = 0; i < document.page_count() && !has_marks; ++i) {
    LUMVET_TRY(const Page page, document.page(i));
    has_marks = page.dict().contains("Annots");
  }
  if (!has_marks) return document;
  EditableDocument drawn = EditableDocument::of(document);
  LUMVET_TRY([[maybe_unused]] const int count, flatten_annotations(drawn, {}));
  return drawn.now();
}

}  // namespace lumvet::redacting
