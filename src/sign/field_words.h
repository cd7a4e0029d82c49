// SPDX-License-Identifier: Apache-2.0
// Whether a field that was filled in shows what it holds.
//
// Threads: free functions.
#pragma once

#include <optional>
#include <string>

#include "lumvet/document/document.h"

namespace lumvet::signing {

// What keeps a person from seeing a field's value where it stands, as "says '900'"; nothing where
// it is seen, and where no look is kept for it: then each program draws the value itself. Errors:
// io, need_more_data, limit.
Result<std::optional<std::string>> misleading_look(const Document& document,
                                                   const FormField& field);

}  // namespace lumvet::signing
