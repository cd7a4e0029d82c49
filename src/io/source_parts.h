// SPDX-License-Identifier: Apache-2.0
// A stretch of a source in parts, so that no file has to be in memory as a whole.
//
// Threads: free functions.
#pragma once

#include <algorithm>

#include "lumvet/io/byte_source.h"

namespace lumvet::io {

// Errors: as reading's and take's.
template <typename Take>
Status each_part_of(const ByteSource& source, std::uint64_t from, std::uint64_t to,
                    const Take& take) {
  constexpr std::uint64_t kPart = 1 << 20;  // bytes read at once
  while (from < to) {
    const std::uint64_t size = std::min(kPart, to - from);
    LUMVET_TRY(const ByteSlice part, source.slice(from, size));
    LUMVET_RETURN_IF_ERROR(take(part.view()));
    from += size;
  }
  return Done{};
}

}  // namespace lumvet::io
