// SPDX-License-Identifier: Apache-2.0
#include "sign/new_message.h"

#include "crypto/digest.h"
#include "sign/certificate_inside.h"
#include "sign/der.h"
#include "sign/digest_names.h"

namespace lumvet::signing {
namespace {

int size_of(SignatureDigest digest) {
  switch (digest) {
    case SignatureDigest::sha384: return 48;
    case SignatureDigest::sha512: return 64;
    default: return 32;
  }
}

Bytes digest_algorithm(SignatureDigest digest) {
  return der::sequence({der::object_id(oid_of(digest))});
}

const char* ecdsa_oid(SignatureDigest digest) {  // RFC 5754, 3.3
  switch (digest) {
    case SignatureDigest::sha384: return "1.2.840.10045.4.3.3";
    case SignatureDigest::sha512: return "1.2.840.10045.4.3.4";
    default: return "1.2.840.10045.4.3.2";
  }
}

// What stands in the algorithm's identifier, without its tag.
std::vector<Bytes> signature_algorithm(const MessageParts& parts) {
  switch (parts.scheme) {
    case SignatureScheme::rsa_pkcs1:  // RFC 3370, 3.2
      return {der::object_id("1.2.840.113549.1.1.1"), der::null()};
    case SignatureScheme::rsa_pss: {  // RFC 4056, 2.2
      const Bytes digest = digest_algorithm(parts.digest);
      const Bytes mask = der::sequence({der::object_id("1.2.840.113549.1.1.8"), digest});
      const Bytes salt = der::integer(size_of(parts.digest));
      return {der::object_id("1.2.840.113549.1.1.10"),
              der::sequence({der::element(der::context(0), {digest}),
                             der::element(der::context(1), {mask}),
                             der::element(der::context(2), {salt})})};
    }
    case SignatureScheme::ed25519: return {der::object_id("1.3.101.112")};  // RFC 8419, 2
    case SignatureScheme::ecdsa: break;
  }
  return {der::object_id(ecdsa_oid(parts.digest))};
}

Bytes attribute(const char* oid, ByteView value) {
  return der::sequence({der::object_id(oid), der::element(der::kSet, {value})});
}

Bytes issuer_of(const Certificate& certificate) {
  return der_of(X509_get_issuer_name(x509_of(certificate)), i2d_X509_NAME);
}

Bytes serial_of(const Certificate& certificate) {
  return der_of(X509_get0_serialNumber(x509_of(certificate)), i2d_ASN1_INTEGER);
}

// ESSCertIDv2 of the signer alone (RFC 5035, 3); SHA-256 is what it has without saying so.
Bytes signing_certificate(const MessageParts& parts) {
  const Certificate& signer = parts.chain.front();
  const Bytes hash = der::octets(crypto::digest(kind_of(parts.digest), {signer.der()}));
  const Bytes name = der::element(der::context(4), {issuer_of(signer)});
  const Bytes issuer = der::sequence({der::sequence({name}), serial_of(signer)});
  const Bytes algorithm =
      parts.digest == SignatureDigest::sha256 ? Bytes() : digest_algorithm(parts.digest);
  return der::sequence({der::sequence({der::sequence({algorithm, hash, issuer})})});
}

}  // namespace

Bytes signed_attributes(const MessageParts& parts) {
  const Bytes protection = der::sequence(
      {digest_algorithm(parts.digest), der::element(der::context(1), signature_algorithm(parts))});
  std::vector<Bytes> attributes = {
      attribute("1.2.840.113549.1.9.3", der::object_id("1.2.840.113549.1.7.1")),
      attribute("1.2.840.113549.1.9.4", der::octets(parts.document_digest)),
      attribute("1.2.840.113549.1.9.16.2.47", signing_certificate(parts)),
      attribute("1.2.840.113549.1.9.52", protection)};
  if (parts.signing_time)
    attributes.push_back(attribute("1.2.840.113549.1.9.5", der::time(*parts.signing_time)));
  return der::set_of(std::move(attributes));
}

Bytes message_of(const MessageParts& parts, ByteView attributes, ByteView signature,
                 ByteView timestamp) {
  const Certificate& signer = parts.chain.front();
  const Bytes digest = digest_algorithm(parts.digest);
  // The same as the set that was signed, but tagged by its place.
  Bytes tagged(attributes.begin(), attributes.end());
  tagged.front() = der::context(0);
  Bytes unsigned_attributes;
  if (!timestamp.empty())
    unsigned_attributes =
        der::element(der::context(1), {attribute("1.2.840.113549.1.9.16.2.14", timestamp)});
  const Bytes signer_info =
      der::sequence({der::integer(1), der::sequence({issuer_of(signer), serial_of(signer)}), digest,
                     tagged, der::element(der::kSequence, signature_algorithm(parts)),
                     der::octets(signature), unsigned_attributes});
  std::vector<Bytes> certificates;
  certificates.reserve(parts.chain.size());
  // Whoever believes a root has it already.
  for (const Certificate& each : parts.chain)
    if (each == signer || !each.is_self_issued()) certificates.push_back(each.der());
  const Bytes signed_data = der::sequence({der::integer(1), der::set_of({digest}),
                                           der::sequence({der::object_id("1.2.840.113549.1.7.1")}),
                                           der::set_of(std::move(certificates), der::context(0)),
                                           der::set_of({signer_info})});
  return der::sequence(
      {der::object_id("1.2.840.113549.1.7.2"), der::element(der::context(0), {signed_data})});
}

}  // namespace lumvet::signing
