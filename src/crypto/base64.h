// SPDX-License-Identifier: Apache-2.0
// Bytes as text of 64 signs (RFC 4648, 4).
//
// Threads: free functions.
#pragma once

#include <string>

#include "lumvet/base/bytes.h"

namespace lumvet::crypto {

std::string base64(ByteView bytes);

}  // namespace lumvet::crypto
