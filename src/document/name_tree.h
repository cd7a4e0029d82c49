// SPDX-License-Identifier: Apache-2.0
// Name trees and number trees (ISO 32000-2, 7.9.6 and 7.9.7). Both kinds are walked without
// recursion, and end where they lead back into themselves.
#pragma once

#include <functional>

#include "file/object_store.h"

namespace lumvet::document {

using TreeVisit = std::function<void(const Object& key, const Object& value)>;

// Calls `visit` with each key and, as it stands, each value, in order. `entries` is "Names" or
// "Nums". Nodes deeper than Limits::name_tree_depth stop the attempt.
void walk_tree(const file::ObjectStore& store, const Object& root, std::string_view entries,
               const TreeVisit& visit);

// The value of a key in a name tree; null when it is not there.
Object find_in_name_tree(const objects::Resolver& resolver, const Object& root,
                         std::string_view key, int most_depth);

}  // namespace lumvet::document
