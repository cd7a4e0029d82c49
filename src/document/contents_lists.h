// SPDX-License-Identifier: Apache-2.0
// The outline (ISO 32000-2, 12.3.3) and the attachments (7.11.4) as a person lists them.
#pragma once

#include "document/core.h"
#include "lumvet/document/document.h"

namespace lumvet::document {

std::vector<OutlineEntry> read_outline(const Core& core);
std::vector<Attachment> read_attachments(const Core& core);
std::vector<FontUse> read_fonts(const Core& core);

// The array that a destination stands for, whether given so, by name or in a dictionary (12.3.2);
// null when there is none.
Object explicit_destination(const Core& core, const Object& destination);

// The page a destination leads to: an array, a name, or a dictionary with /D (12.3.2).
std::optional<int> page_of_destination(const Core& core, const Object& destination);

// The value of a key in a name tree (7.9.6); null when it is not there.
Object find_in_name_tree(const objects::Resolver& resolver, const Object& root,
                         std::string_view key, int nesting);

}  // namespace lumvet::document
