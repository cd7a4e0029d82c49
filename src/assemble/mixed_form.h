// SPDX-License-Identifier: Apache-2.0
// What an annotation looks like, as a part of a page (ISO 32000-2, 12.5).
//
// Threads: free functions.
#pragma once

#include "file/ledger.h"
#include "lumvet/geometry/matrix.h"

namespace lumvet::assemble {

// A form over a box that mixes with the page as the annotation says (/BM, null without) and is of
// its layer (/OC, as the ledger's document has it); the form itself where it says neither.
ObjectId mixed_form(file::Ledger& ledger, ObjectId form, const Rect& box, const Object& blend,
                    const Object& layer);

}  // namespace lumvet::assemble
