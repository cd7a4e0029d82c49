// SPDX-License-Identifier: Apache-2.0
#include "sign/signature_value.h"

#include "crypto/library.h"
#include "sign/certificate_inside.h"
#include "sign/der.h"
#include "sign/digest_names.h"

namespace lumvet::signing {
namespace {

SignatureValue value_of(const SignedMessage& message, SignedMessage::State state) {
  return {state,
          message.digest_name(),
          message.signer(),
          message.certificates(),
          message.signing_time(),
          message.signature(),
          message.timestamp()};
}

// A message that carries the document's digest, and signs that.
Result<SignatureValue> of_carried_digest(ByteView contents, const DigestOf& digest_of) {
  LUMVET_TRY(const SignedMessage message,
             SignedMessage::read(contents, SignedMessage::Content::inside));
  LUMVET_TRY(const Bytes document, digest_of("SHA1"));
  const Bytes carried = message.content();
  SignedMessage::State state = message.check(digest_by_name(message.digest_name(), carried), false);
  if (state == SignedMessage::State::holds && carried != document)
    state = SignedMessage::State::other_document;
  SignatureValue value = value_of(message, state);
  // Whoever forges another document with this digest needs to break no other.
  value.digest = "SHA1";
  return value;
}

// The signature alone, of PKCS#1, with the certificates beside it.
Result<SignatureValue> of_bare_signature(ByteView contents, const std::vector<Bytes>& certificates,
                                         const DigestOf& digest_of) {
  LUMVET_TRY(const Bytes wrapped, message_in(contents));
  ByteView rest = wrapped;
  const auto string = der::take(rest);
  if (!string || string->tag != der::kOctets)
    return Error(ErrorCode::malformed, "the signature is damaged: it is no string of bytes");
  SignatureValue value;
  value.digest = "SHA1";
  value.signature = Bytes(string->content.begin(), string->content.end());
  for (const Bytes& each : certificates) {
    LUMVET_TRY(Certificate read, Certificate::from_der(each));
    value.certificates.push_back(std::move(read));
  }
  value.state = SignedMessage::State::without_signer;
  if (value.certificates.empty()) return value;
  value.signer = value.certificates.front();
  LUMVET_TRY(const Bytes document, digest_of("SHA1"));
  EVP_PKEY* const key = X509_get0_pubkey(x509_of(*value.signer));
  const Own<EVP_PKEY_CTX> context(EVP_PKEY_CTX_new_from_pkey(crypto::library(), key, nullptr));
  const bool holds =
      EVP_PKEY_verify_init(context.get()) == 1 &&
      EVP_PKEY_CTX_set_signature_md(context.get(), EVP_get_digestbyname("SHA1")) == 1 &&
      EVP_PKEY_verify(context.get(), value.signature.data(), value.signature.size(),
                      document.data(), document.size()) == 1;
  value.state = holds ? SignedMessage::State::holds : SignedMessage::State::other_document;
  return value;
}

}  // namespace

Result<SignatureValue> signature_value(const std::string& form, ByteView contents,
                                       const std::vector<Bytes>& certificates,
                                       const DigestOf& digest_of) {
  const crypto::ErrorScope scope;
  if (form == "adbe.pkcs7.sha1") return of_carried_digest(contents, digest_of);
  if (form == "adbe.x509.rsa_sha1") return of_bare_signature(contents, certificates, digest_of);
  const bool is_pades = form == "ETSI.CAdES.detached";
  if (!is_pades && form != "adbe.pkcs7.detached")
    return Error(ErrorCode::unsupported, "signatures of the form '" + form + "' are not read");
  LUMVET_TRY(const SignedMessage message, SignedMessage::read(contents));
  LUMVET_TRY(const Bytes document, digest_of(message.digest_name()));
  return value_of(message, message.check(document, is_pades));
}

}  // namespace lumvet::signing
