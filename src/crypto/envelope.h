// SPDX-License-Identifier: Apache-2.0
// Messages that only the holder of a certificate's key can read (RFC 5652), by OpenSSL.
//
// Threads: free functions.
#pragma once

#include "lumvet/base/bytes.h"
#include "lumvet/base/result.h"

namespace lumvet::crypto {

// `certificate` is DER or PEM. Errors: invalid_argument when it is none, or its key encrypts
// nothing.
Result<Bytes> seal_envelope(ByteView certificate, ByteView secret);

}  // namespace lumvet::crypto
