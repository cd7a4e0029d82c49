// SPDX-License-Identifier: Apache-2.0
// Values that stand alone, apart from any file: in place of each reference stands what it leads to,
// streams too.
//
// Threads: free functions.
#pragma once

#include <functional>

#include "objects/resolver.h"

namespace lumvet::objects {

// Null takes the place of what is nested deeper than that. Streams lose what ties them to their
// document: layers, structure, metadata, private data of programs.
Object standing_alone(const Resolver& resolver, const Object& object, int nesting);

// The same for a file, where each stream within it is an object: what `put` says, innermost first.
Object with_references(const Object& object, const std::function<ObjectId(Stream)>& put);

}  // namespace lumvet::objects
