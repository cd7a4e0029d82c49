// SPDX-License-Identifier: Apache-2.0
// The digests of signatures, as each place names them.
//
// Threads: free functions.
#pragma once

#include "crypto/digest.h"
#include "lumvet/sign/signing_key.h"

namespace lumvet::signing {

inline const char* openssl_name_of(SignatureDigest digest) {
  switch (digest) {
    case SignatureDigest::sha384: return "SHA384";
    case SignatureDigest::sha512: return "SHA512";
    default: return "SHA256";
  }
}

inline crypto::DigestKind kind_of(SignatureDigest digest) {
  switch (digest) {
    case SignatureDigest::sha384: return crypto::DigestKind::sha384;
    case SignatureDigest::sha512: return crypto::DigestKind::sha512;
    default: return crypto::DigestKind::sha256;
  }
}

}  // namespace lumvet::signing
