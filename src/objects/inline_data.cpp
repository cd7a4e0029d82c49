// SPDX-License-Identifier: Apache-2.0
#include "objects/inline_data.h"

#include <algorithm>

#include "objects/lexer.h"

namespace lumvet::objects {

std::size_t inline_data_end(ByteView bytes, std::size_t from) {
  for (std::size_t at = from; at + 1 < bytes.size(); ++at) {
    if (bytes[at] != 'E' || bytes[at + 1] != 'I') continue;
    if (at > from && !is_white(bytes[at - 1])) continue;
    if (at + 2 < bytes.size() && !is_white(bytes[at + 2])) continue;
    const std::size_t last = std::min(bytes.size(), at + 2 + kInlineLook);
    const bool plain =
        std::all_of(bytes.begin() + static_cast<std::ptrdiff_t>(at + 2),
                    bytes.begin() + static_cast<std::ptrdiff_t>(last),
                    [](std::uint8_t b) { return is_white(b) || (b >= 32 && b < 127); });
    if (plain) return at;
  }
  return bytes.size();
}

}  // namespace lumvet::objects
