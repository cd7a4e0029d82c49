// SPDX-License-Identifier: Apache-2.0
// Annotations of pages (ISO 32000-2, 12.5).
#pragma once

#include "document/core.h"
#include "lumvet/document/annotation.h"
#include "lumvet/document/document.h"

namespace lumvet::document {

// As files name the kind; empty for `other`.
std::string_view type_of(Annotation::Kind kind);

// One, from its dictionary.
Annotation read_annotation(const Core& core, const Dict& dict);

// Of the page with this dictionary.
std::vector<Annotation> read_annotations(const Core& core, const Dict& page);

// Of every page, from the first, on so many threads; 0 is one for each core. Errors: as
// Document::page's.
Result<std::vector<std::vector<Annotation>>> read_all_annotations(const Document& document,
                                                                  int threads);

}  // namespace lumvet::document
