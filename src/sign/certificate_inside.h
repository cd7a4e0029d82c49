// SPDX-License-Identifier: Apache-2.0
// What a certificate is from inside.
//
// Threads: free functions.
#pragma once

#include <ctime>

#include "lumvet/sign/certificate.h"
#include "sign/openssl_sign.h"

namespace lumvet {

struct Certificate::Impl {
  crypto::Owned<X509> object;
};

template <>
struct Inside<Certificate> {
  static X509* object(const Certificate& certificate) { return certificate.impl_->object.get(); }
  static Certificate of(crypto::Owned<X509> object);
};

namespace signing {

inline X509* x509_of(const Certificate& certificate) {
  return Inside<Certificate>::object(certificate);
}
// Another owner of the same one.
Certificate certificate_of(X509* object);
// Seconds since 1970; nothing for what is no time.
std::optional<std::int64_t> seconds_of(const ASN1_TIME* time);
std::string hex_of(ByteView bytes);

// What stands between the lines of PEM (RFC 7468), with what it is called.
struct PemBlock {
  std::string name;  // "CERTIFICATE"
  Bytes der;
};
bool is_pem(ByteView bytes);
std::vector<PemBlock> pem_blocks(ByteView bytes);

}  // namespace signing

}  // namespace lumvet
