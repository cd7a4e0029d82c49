// SPDX-License-Identifier: Apache-2.0
// Fields that signatures lock (ISO 32000-2, 12.8.2.4).
//
// Threads: free functions.
#pragma once

#include "document/core.h"
#include "lumvet/document/form.h"

namespace lumvet::document {

// What a signature locks, by its dictionary.
std::vector<FieldLock> field_locks(const file::ObjectStore& store, const Dict& signature);
// Says of every field which signature locks it.
void note_locks(const file::ObjectStore& store, Form& form);

}  // namespace lumvet::document
