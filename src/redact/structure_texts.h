// SPDX-License-Identifier: Apache-2.0
// What the structure of a document says of marked content that is no longer there (ISO 32000-2,
// 14.7 and 14.9).
//
// Threads: free functions.
#pragma once

#include "file/ledger.h"
#include "redact/cut_content.h"

namespace lumvet::redacting {

// Texts that stand in for what was hit go, of the elements of it and of those around them; marked
// content of forms that were replaced is that of what stands in their place. `catalog` is the
// document's.
void forget_in_structure(file::Ledger& ledger, const Dict& catalog, const CutRecord& record);

}  // namespace lumvet::redacting
