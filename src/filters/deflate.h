// SPDX-License-Identifier: Apache-2.0
// The encoding side of FlateDecode.
#pragma once

#include "lumvet/base/bytes.h"

namespace lumvet::filters {

enum class Effort { usual, most };  // much slower, for a few hundredths

// With zlib's header, as FlateDecode wants it; the same bytes for the same input.
Bytes deflate(ByteView bytes, Effort effort = Effort::usual);

}  // namespace lumvet::filters
