// SPDX-License-Identifier: Apache-2.0
// How a document shall be shown, as entries of its catalog (ISO 32000-2, 7.7.2, 12.2 and 12.3.2).
//
// Threads: free functions.
#pragma once

#include <functional>

#include "lumvet/edit/new_view.h"
#include "objects/resolver.h"

namespace lumvet::editing {

// The object of a page, from 0. Errors: invalid_argument for one that there is not.
using PageId = std::function<Result<ObjectId>(int page)>;

Error no_such_page(int page, int count);

// Errors: invalid_argument without a page; as page_id's.
Result<Array> place_array(const Destination& place, const PageId& page_id);

// What is asked for, beside what the catalog says. Errors: invalid_argument for less than one copy;
// as place_array's.
Status set_view_entries(const NewView& view, Dict& catalog, const objects::Resolver& objects,
                        const PageId& page_id);

}  // namespace lumvet::editing
