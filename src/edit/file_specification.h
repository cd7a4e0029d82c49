// SPDX-License-Identifier: Apache-2.0
// Files within a document, as it refers to them (ISO 32000-2, 7.11.3 and 7.11.4).
//
// Threads: free functions.
#pragma once

#include "file/ledger.h"
#include "lumvet/edit/editable_document.h"

namespace lumvet::editing {

// Done for a name that a file can have. Errors: invalid_argument.
Status check_file_name(const std::string& name);

// The file in the ledger, and what refers to it.
Dict file_specification(file::Ledger& ledger, NewAttachment attachment);

}  // namespace lumvet::editing
