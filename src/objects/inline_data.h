// SPDX-License-Identifier: Apache-2.0
// The bytes of images within content streams (ISO 32000-2, 8.9.7), which no token describes.
//
// Threads: free functions.
#pragma once

#include <optional>

#include "lumvet/base/bytes.h"

namespace lumvet::objects {

// Bytes behind "EI" that are looked at to tell it from image data.
inline constexpr std::size_t kInlineLook = 12;

// Where the "EI" behind data that ends at `end` is, with nothing but white space between; nothing
// when something else is there.
std::optional<std::size_t> inline_end_at(ByteView bytes, std::size_t end);

// Where the image's bytes that begin at `from` end when nothing tells their length: at "EI" between
// white space, with what looks like content behind; otherwise at one that only has white space
// behind it. The end of `bytes` when there is none.
std::size_t inline_data_end(ByteView bytes, std::size_t from);

}  // namespace lumvet::objects
