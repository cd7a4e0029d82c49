// SPDX-License-Identifier: Apache-2.0
// Pages with nothing on them.
//
// Threads: free functions.
#pragma once

#include "lumvet/assemble/paper.h"
#include "lumvet/document/document.h"

namespace lumvet::assemble {

// Errors: invalid_argument for a size that no page has (ISO 32000-2, annex C: 3 to 14,400 points).
Status check_size(const PaperSize& size);
// Its dictionary, but for the parent.
Dict blank_page(const PaperSize& size);
// Of one page, to be read within limits. Errors: as check_size's.
Result<Document> blank_document(const PaperSize& size, const Limits& limits);

}  // namespace lumvet::assemble
