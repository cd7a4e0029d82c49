// SPDX-License-Identifier: Apache-2.0
// Bytes that nobody can guess, from OpenSSL.
//
// Threads: free functions; internally synchronized.
#pragma once

#include "lumvet/base/bytes.h"

namespace lumvet::crypto {

Bytes random_bytes(std::size_t count);

}  // namespace lumvet::crypto
