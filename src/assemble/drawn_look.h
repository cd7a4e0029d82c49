// SPDX-License-Identifier: Apache-2.0
// What an annotation looks like, as a part of its page (ISO 32000-2, 12.5).
//
// Threads: free functions.
#pragma once

#include <optional>

#include "assemble/page_drawing.h"

namespace lumvet::assemble {

struct AnnotationPlace {
  Rect rect;     // in which the look goes
  Rect stated;   // the annotation's own
  Object blend;  // /BM; null without
  Object layer;  // /OC, as the ledger's document has it; null without
  std::int64_t flags = 0;
  int rotation = 0;  // degrees, of the page
};

// The look, a form whose references are the ledger's, mixes with the page as the annotation says,
// is of its layer, and stays upright where it does. Nothing for one without extent.
std::optional<Drawn> drawn_look(file::Ledger& ledger, Stream look, const AnnotationPlace& place);

}  // namespace lumvet::assemble
