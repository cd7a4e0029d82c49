// SPDX-License-Identifier: Apache-2.0
// What a page needs to be shown: what its dictionary leads to, but not where its links, fields and
// structure lead.
//
// Threads: free functions.
#pragma once

#include <vector>

#include "lumvet/objects/object.h"

namespace lumvet::linear {

enum class NeededBy : std::uint8_t { anything, annotations, annotation };

struct Need {
  ObjectId id;
  NeededBy by;
};

// What stands in a page's dictionary, however deep: its content first and its annotations last.
std::vector<Need> needs_of_page(const Dict& page);
// What stands in an object that a page needs.
std::vector<Need> needs_of(const Object& object, NeededBy by);

// Whether something that a page leads to is no part of it: another page, the outline, the tree.
bool is_no_part_of_page(const Object& object);

}  // namespace lumvet::linear
