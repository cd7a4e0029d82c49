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
  Object object;  // a reference, or what may hold some
  NeededBy by;
};

// Of a page, its content first and its annotations last.
std::vector<Need> needs_of_page(const Dict& page);
// Of anything that it needs itself, references followed.
std::vector<Need> needs_of(const Object& object, NeededBy by);

// Whether something that a page leads to is no part of it: another page, the outline, the tree.
bool is_no_part_of_page(const Object& object);

}  // namespace lumvet::linear
