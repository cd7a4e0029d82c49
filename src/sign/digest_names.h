// SPDX-License-Identifier: Apache-2.0
// The digests of signatures, as each place names them: "SHA256" in messages and in what fields ask
// for.
//
// Threads: free functions.
#pragma once

#include <openssl/evp.h>

#include <string>

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

// What OpenSSL is told of it: nothing for Ed25519, which digests in its own way.
inline const char* digest_argument(SignatureScheme scheme, SignatureDigest digest) {
  return scheme == SignatureScheme::ed25519 ? nullptr : openssl_name_of(digest);
}

// In dots, as object identifiers are told (RFC 5754, 2).
inline const char* oid_of(SignatureDigest digest) {
  switch (digest) {
    case SignatureDigest::sha384: return "2.16.840.1.101.3.4.2.2";
    case SignatureDigest::sha512: return "2.16.840.1.101.3.4.2.3";
    default: return "2.16.840.1.101.3.4.2.1";
  }
}

// By the name that OpenSSL has for it; empty for one that it does not know.
inline Bytes digest_by_name(const std::string& name, ByteView bytes) {
  Bytes digest(EVP_MAX_MD_SIZE);
  unsigned int size = 0;
  const EVP_MD* kind = EVP_get_digestbyname(name.c_str());
  if (kind == nullptr ||
      EVP_Digest(bytes.data(), bytes.size(), digest.data(), &size, kind, nullptr) != 1)
    return {};
  digest.resize(size);
  return digest;
}

inline crypto::DigestKind kind_of(SignatureDigest digest) {
  switch (digest) {
    case SignatureDigest::sha384: return crypto::DigestKind::sha384;
    case SignatureDigest::sha512: return crypto::DigestKind::sha512;
    default: return crypto::DigestKind::sha256;
  }
}

}  // namespace lumvet::signing
