// SPDX-License-Identifier: Apache-2.0
// The objects a document is made of, for the developer who looks into a file.
#pragma once

#include <ostream>

#include "sections.h"

namespace tool {

// One object with its place, its value and its stream, undone. Errors: invalid_argument when the
// number is not in use; those of Document::object.
lumvet::Status print_object(const lumvet::Document& document, lumvet::ObjectId id,
                            std::ostream& out);
lumvet::Result<Json> object_facts(const lumvet::Document& document, lumvet::ObjectId id);

// All objects as a tree from the trailer, each where it is first met, then those that nothing leads
// to.
void print_tree(const lumvet::Document& document, std::ostream& out);
// The same as a list by number. The document is read as the list is, and has to outlive it.
Facts tree_facts(const lumvet::Document& document);

}  // namespace tool
