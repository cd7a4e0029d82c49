// SPDX-License-Identifier: Apache-2.0
// The states in which a document was saved, one behind the other in its file (ISO 32000-2, 7.5.6).
#pragma once

#include "file/object_store.h"
#include "lumvet/document/document.h"

namespace lumvet::document {

// Oldest first. Of a repaired document only the whole.
std::vector<Revision> find_revisions(const file::ObjectStore& store);

// The first `size` bytes of a source.
std::shared_ptr<const ByteSource> beginning_of(std::shared_ptr<const ByteSource> source,
                                               std::uint64_t size);

// Whether the file was laid out for showing its first page early (annex F), and how long it was
// then; nothing when it was not.
// The linearization parameters in front of the file (F.3.3); nothing when there are none.
std::optional<Dict> linear_parameters(const file::ObjectStore& store);
std::optional<std::uint64_t> linearized_size(const file::ObjectStore& store);

}  // namespace lumvet::document
