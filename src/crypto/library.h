// SPDX-License-Identifier: Apache-2.0
// OpenSSL with what old documents need (RC4, RC2) loaded, in a context of its own, so that the
// application's OpenSSL is left as it is.
//
// Threads: internally synchronized.
#pragma once

#include <openssl/types.h>

namespace lumvet::crypto {

OSSL_LIB_CTX* library();

}  // namespace lumvet::crypto
