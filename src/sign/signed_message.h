// SPDX-License-Identifier: Apache-2.0
// The message of a signature, read and held against the digest of what it signs (RFC 5652).
//
// Threads: one thread at a time.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "lumvet/sign/certificate.h"
#include "sign/openssl_sign.h"

namespace lumvet::signing {

// The message in a gap, in DER, without the zeros that fill it. Signatures of documents are written
// in DER (ISO 32000-2, 12.8.3.3.1); programs that write BER are common, and are read. Errors:
// malformed for what is no message, or has something else behind it.
Result<Bytes> message_in(ByteView gap);

class SignedMessage {
 public:
  enum class Content {
    detached,  // the document's bytes
    inside,    // in the message itself: adbe.pkcs7.sha1
  };
  // What stands in a gap, with the zeros behind it. Errors: malformed, with the reason, for what is
  // no message of one signature, with its content where it should be; unsupported.
  static Result<SignedMessage> read(ByteView gap, Content content = Content::detached);

  // What the document has to be digested with; a name of OpenSSL's, "SHA256".
  const std::string& digest_name() const { return digest_name_; }
  const std::vector<Certificate>& certificates() const { return certificates_; }
  // Of the signer, where the message has it.
  const std::optional<Certificate>& signer() const { return signer_; }
  // Seconds since 1970, as the signer's clock says.
  std::optional<std::int64_t> signing_time() const;
  // The token of a timestamp of the signature (RFC 3161, appendix A); empty without.
  Bytes timestamp() const;
  Bytes signature() const;
  // What it carries; empty of a detached one.
  Bytes content() const;

  enum class State {
    holds,
    other_document,   // its digest is another one
    forged,           // not made with the signer's key
    other_signer,     // its attributes name another certificate
    other_algorithm,  // than its attributes protect
    without_signer,   // the certificate is missing
  };
  // The digest is that of what is signed: the document, or the content inside.
  // `needs_certificate`: whether its attributes have to name it, as EN 319 142-1 asks.
  State check(ByteView due, bool needs_certificate) const;

 private:
  SignedMessage() = default;
  bool names_signer(bool needs_certificate) const;
  bool protects_algorithms() const;
  bool is_signed_by_its_key() const;

  crypto::Owned<CMS_ContentInfo> message_;
  CMS_SignerInfo* info_ = nullptr;
  Bytes attributes_;  // that are signed, as a set in DER
  std::string digest_name_;
  std::vector<Certificate> certificates_;
  std::optional<Certificate> signer_;
};

}  // namespace lumvet::signing
