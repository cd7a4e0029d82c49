// SPDX-License-Identifier: Apache-2.0
// The ciphers of the security handlers, computed by OpenSSL.
//
// Threads: free functions; internally synchronized.
#pragma once

#include "lumvet/base/bytes.h"
#include "lumvet/base/result.h"

namespace lumvet::crypto {

constexpr std::size_t kAesBlock = 16;  // bytes

// The same for both directions. Keys of 5 to 16 bytes. Errors: unsupported when the machine's
// OpenSSL comes without RC4.
Result<Bytes> rc4(ByteView key, ByteView data);

// AES with a key of 16 or 32 bytes, without padding; `data` is cut to whole blocks.
Result<Bytes> aes_cbc_decrypt(ByteView key, ByteView iv, ByteView data);
Result<Bytes> aes_cbc_encrypt(ByteView key, ByteView iv, ByteView data);
// With padding, and the vector in front (ISO 32000-2, 7.6.3.1). Errors: unsupported.
Result<Bytes> aes_cbc_sealed(ByteView key, ByteView iv, ByteView data);
Result<Bytes> aes_ecb_decrypt(ByteView key, ByteView data);
Result<Bytes> aes_ecb_encrypt(ByteView key, ByteView data);

}  // namespace lumvet::crypto
