// SPDX-License-Identifier: Apache-2.0
// A stream packed anew: filters without loss undone and one strong one put in their place. What is
// in it, predicted rows and images of a codec too, stays the same to the bit.
//
// Threads: free functions.
#pragma once

#include <optional>

#include "objects/resolver.h"

namespace lumvet::saving {

struct RecompressedStream {
  Dict dict;
  Bytes bytes;
};

// Nothing when it would not be smaller, or cannot be read without damage.
std::optional<RecompressedStream> recompressed(const Stream& stream,
                                               const objects::Resolver& objects);

}  // namespace lumvet::saving
