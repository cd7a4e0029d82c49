// SPDX-License-Identifier: Apache-2.0
// A document whose marks and fields are part of its pages, so that what they show is found there.
//
// Threads: free functions.
#pragma once

#include "lumvet/document/document.h"

namespace lumvet::redacting {

// Those that are hidden stay as they are, or are drawn as if they were not.
enum class HiddenMarks { left, drawn };

// The document itself where it has none. Errors: as flatten_annotations'.
Result<Document> with_marks_drawn(const Document& document, HiddenMarks hidden);

}  // namespace lumvet::redacting
