// SPDX-License-Identifier: Apache-2.0
// Pages made of what is left when a file has lost all that says where its pages are: streams that
// read like content, or images.
#pragma once

#include <vector>

#include "file/object_store.h"

namespace lumvet::document {

// New page dictionaries in the order of the file; empty when nothing of the kind is left.
// `objects` are those to look at.
std::vector<Dict> salvage_pages(const file::ObjectStore& store,
                                const std::vector<ObjectId>& objects);

}  // namespace lumvet::document
