// SPDX-License-Identifier: Apache-2.0
// Objects whose references lead elsewhere.
//
// Threads: free functions.
#pragma once

#include "objects/serializer.h"

namespace lumvet::objects {

// With every reference in it as `map` says, those of a stream's dictionary too.
Object with_references(const Object& object, const ReferenceMap& map);

}  // namespace lumvet::objects
