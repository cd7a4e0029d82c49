// SPDX-License-Identifier: Apache-2.0
// Files inside the document (ISO 32000-2, 7.11.4): of the name tree, of annotations, and associated
// with the document or its pages (14.13).
#pragma once

#include "document/core.h"
#include "lumvet/document/document.h"

namespace lumvet::document {

std::vector<Attachment> read_attachments(const Core& core);

}  // namespace lumvet::document
