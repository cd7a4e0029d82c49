// SPDX-License-Identifier: Apache-2.0
// A person's certificate together with its private key, for documents that were encrypted for it.
//
//   auto key = lumvet::CertificateKey::from_pkcs12(bytes_of("inspector.p12"), "passphrase");
//   auto document = lumvet::Document::open("statement.pdf", {.key = *key});
//
// Threads: immutable, share freely. Since: 0.2
#pragma once

#include <memory>
#include <string_view>

#include "lumvet/base/bytes.h"
#include "lumvet/base/export.h"
#include "lumvet/base/result.h"

namespace lumvet {

class LUMVET_EXPORT CertificateKey {
 public:
  // From the bytes of a PKCS#12 file (RFC 7292), "*.p12" or "*.pfx". Errors: password when the
  // passphrase is wrong; malformed when it is no such file or holds no key with its certificate.
  static Result<CertificateKey> from_pkcs12(ByteView bytes, std::string_view passphrase);

  // Opens an enveloped message (RFC 5652) made for this certificate. Errors: password when it was
  // made for others; malformed.
  Result<Bytes> open_envelope(ByteView message) const;

  // Whom the certificate names, as "CN=Ida Verlan, O=Ostrel Valley bridge office".
  std::string subject() const;

 private:
  struct Impl;
  explicit CertificateKey(std::shared_ptr<const Impl> impl) : impl_(std::move(impl)) {}
  std::shared_ptr<const Impl> impl_;
};

}  // namespace lumvet
