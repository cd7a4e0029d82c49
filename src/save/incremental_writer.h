// SPDX-License-Identifier: Apache-2.0
// Updates that are appended to a file (ISO 32000-2, 7.5.6): the changed objects, and cross
// references of the kind that the file has.
//
// Threads: free functions.
#pragma once

#include "file/ledger.h"
#include "lumvet/document/document.h"

namespace lumvet::saving {

// The bytes to be put behind those of the document's file. `ledger` lies on the document's objects;
// what it holds and nothing leads to is left out. `info` is a reference, or null. Errors:
// unsupported, with the reason, for a file that has to be saved whole.
Result<Bytes> update_for(const Document& document, const file::Ledger& ledger, const Object& info);

}  // namespace lumvet::saving
