// SPDX-License-Identifier: Apache-2.0
// Bytes as text of 64 signs (RFC 4648, 4).
//
// Threads: free functions.
#pragma once

#include <optional>
#include <string>
#include <string_view>

#include "lumvet/base/bytes.h"

namespace lumvet::crypto {

std::string base64(ByteView bytes);
// White space may stand anywhere; nothing for what is no such text.
std::optional<Bytes> from_base64(std::string_view text);

}  // namespace lumvet::crypto
