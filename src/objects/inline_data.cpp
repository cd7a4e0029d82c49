// SPDX-License-Identifier: Apache-2.0
#include "objects/inline_data.h"

#include <algorithm>

#include "objects/lexer.h"

namespace lumvet::objects {

namespace {

bool is_end_at(ByteView bytes, std::size_t at) {
  return at + 1 < bytes.size() && bytes[at] == 'E' && bytes[at + 1] == 'I' &&
         (at + 2 == bytes.size() || !is_regular(bytes[at + 2]));
}

}  // namespace

std::optional<std::size_t> inline_end_at(ByteView bytes, std::size_t end) {
  while (end < bytes.size() && is_white(bytes[end])) ++end;
  return is_end_at(bytes, end) ? std::optional(end) : std::nullopt;
}

std::size_t inline_data_end(ByteView bytes, std::size_t from) {
  std::size_t likely = bytes.size();
  for (std::size_t at = from; at + 1 < bytes.size(); ++at) {
    if (!is_end_at(bytes, at)) continue;
    const std::size_t last = std::min(bytes.size(), at + 2 + kInlineLook);
    const bool plain =
        std::all_of(bytes.begin() + static_cast<std::ptrdiff_t>(at + 2),
                    bytes.begin() + static_cast<std::ptrdiff_t>(last),
                    [](std::uint8_t b) { return is_white(b) || (b >= 32 && b < 127); });
    if (!plain) continue;
    if (at == from || is_white(bytes[at - 1])) return at;
    if (likely == bytes.size()) likely = at;
  }
  return likely;
}

}  // namespace lumvet::objects
