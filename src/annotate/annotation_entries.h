// SPDX-License-Identifier: Apache-2.0
// Annotations as the dictionaries that files have of them (ISO 32000-2, 12.5).
//
// Threads: free functions.
#pragma once

#include "lumvet/document/annotation.h"
#include "lumvet/objects/object.h"

namespace lumvet::annotate {

// What the annotation says, over what a dictionary has already; entries that it does not know stay.
// Without an appearance and a page.
Dict with_entries(Dict dict, const Annotation& annotation);

}  // namespace lumvet::annotate
