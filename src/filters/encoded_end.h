// SPDX-License-Identifier: Apache-2.0
// Where encoded data ends by itself, for images within content streams, whose length nothing states
// (ISO 32000-2, 8.9.7).
//
// Threads: free functions.
#pragma once

#include <optional>
#include <string_view>

#include "lumvet/objects/object.h"

namespace lumvet::filters {

// Bytes of `input` up to its own end, by the filter's full name and parameters. Nothing for filters
// without one, and where it does not come.
std::optional<std::size_t> encoded_end(ByteView input, std::string_view filter,
                                       const Dict& parameters);

}  // namespace lumvet::filters
