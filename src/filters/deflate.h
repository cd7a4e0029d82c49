// SPDX-License-Identifier: Apache-2.0
// The encoding side of FlateDecode.
#pragma once

#include "lumvet/base/bytes.h"

namespace lumvet::filters {

enum class Effort { usual, most };  // much slower, for a few hundredths

// With zlib's header, as FlateDecode wants it; the same bytes for the same input.
Bytes deflate(ByteView bytes, Effort effort = Effort::usual);

// CRC-32 in the upper half and Adler-32 in the lower one, of two pieces in a row. Tells what
// changed by chance, not what somebody made alike.
std::uint64_t checksum(ByteView first, ByteView second);

}  // namespace lumvet::filters
