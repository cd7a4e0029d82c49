// SPDX-License-Identifier: Apache-2.0
// What the certificate of a document lets be changed in it (ISO 32000-2, 12.8.2.2).
//
// Threads: free functions.
#pragma once

#include <cstdint>
#include <optional>

#include "document/core.h"
#include "lumvet/base/result.h"

namespace lumvet::document {

enum class ChangeKind { fill_in, annotate };

// What the dictionary of a signature lets be changed: 1 nothing, 2 fields filled in, 3 marks as
// well (table 257); nothing where it certifies nothing.
std::optional<std::int64_t> certified_level(const file::ObjectStore& store, const Dict& signature);

// Done for documents without one. Errors: unsupported, with what it allows.
Status check_certification(const Core& core, ChangeKind change);

}  // namespace lumvet::document
