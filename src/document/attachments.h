// SPDX-License-Identifier: Apache-2.0
// Files inside the document (ISO 32000-2, 7.11.4): of the name tree, of annotations, and associated
// with the document or its pages (14.13); of the pages before `pages`.
#pragma once

#include <set>

#include "document/core.h"
#include "lumvet/document/document.h"

namespace lumvet::document {

std::vector<Attachment> read_attachments(const Core& core, int pages);

// Numbers of the streams of the document's own files, none of which is read.
std::set<std::uint32_t> attached_streams(const Core& core);

}  // namespace lumvet::document
