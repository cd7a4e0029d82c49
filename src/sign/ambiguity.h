// SPDX-License-Identifier: Apache-2.0
// What two programs may read in two ways: a key that stands twice in a dictionary, and hybrid files
// whose two kinds of cross references lead to other objects.
//
// Threads: free functions.
#pragma once

#include <optional>
#include <string>

#include "lumvet/document/document.h"

namespace lumvet::signing {

// A sentence about the first that is met in the catalog, the form, its fields and signatures, or a
// page; nothing where all is clear. Errors: io, need_more_data, limit.
Result<std::optional<std::string>> ambiguity_of(const Document& document);

}  // namespace lumvet::signing
