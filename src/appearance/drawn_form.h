// SPDX-License-Identifier: Apache-2.0
// A drawing as a form of a document, for rooms that know nothing of how drawings are written.
//
// Threads: free functions.
#pragma once

#include "document/core.h"
#include "file/ledger.h"
#include "lumvet/draw/drawing.h"

namespace lumvet::appearance {

// With its fonts and pictures, in the ledger of the document. Errors: the drawing's; as
// DrawingWriter's.
Result<ObjectId> drawn_form(const document::Core& core, file::Ledger& ledger,
                            const Drawing& drawing);

}  // namespace lumvet::appearance
