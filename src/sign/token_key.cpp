// SPDX-License-Identifier: Apache-2.0
#include "sign/token_key.h"

#include <openssl/ecdsa.h>

#include <algorithm>
#include <mutex>

#include "crypto/digest.h"
#include "sign/certificate_inside.h"
#include "sign/der.h"
#include "sign/digest_names.h"
#include "sign/token_session.h"

namespace lumvet::signing {

struct TokenKey::Impl {
  Impl(TokenSession opened, CK_OBJECT_HANDLE found, std::vector<Certificate> known)
      : session(std::move(opened)), key(found), certificates(std::move(known)) {}

  TokenSession session;
  CK_OBJECT_HANDLE key;
  std::vector<Certificate> certificates;
  mutable std::mutex mutex;  // a session does one thing at a time
};

namespace {

CK_ATTRIBUTE of_class(const CK_OBJECT_CLASS& value) {
  return {CKA_CLASS, const_cast<CK_OBJECT_CLASS*>(&value), sizeof value};
}

const CK_OBJECT_CLASS kPrivateKey = CKO_PRIVATE_KEY;
const CK_OBJECT_CLASS kPublicKey = CKO_PUBLIC_KEY;
const CK_OBJECT_CLASS kCertificate = CKO_CERTIFICATE;

// The others of a key are known by its identifier.
std::vector<CK_OBJECT_HANDLE> companions(const TokenSession& session, CK_OBJECT_HANDLE key,
                                         const CK_OBJECT_CLASS& kind) {
  std::optional<Bytes> id = session.attribute(key, CKA_ID);
  if (!id || id->empty()) return {};
  return session.find({of_class(kind), {CKA_ID, id->data(), id->size()}});
}

std::vector<Certificate> certificates_of(const TokenSession& session, CK_OBJECT_HANDLE key) {
  std::vector<Certificate> found;
  for (const CK_OBJECT_HANDLE each : companions(session, key, kCertificate))
    if (const auto bytes = session.attribute(each, CKA_VALUE))
      if (auto certificate = Certificate::from_der(*bytes); certificate.ok())
        found.push_back(*certificate);
  return found;
}

// What tells one public key from another: the modulus of RSA without leading zeros, the point of a
// curve. Empty where the token does not say.
Bytes mark_of(const TokenSession& session, CK_OBJECT_HANDLE key) {
  if (session.number(key, CKA_KEY_TYPE) == CKK_RSA) {
    Bytes modulus = session.attribute(key, CKA_MODULUS).value_or(Bytes());
    modulus.erase(modulus.begin(), std::find_if(modulus.begin(), modulus.end(),
                                                [](std::uint8_t byte) { return byte != 0; }));
    return modulus;
  }
  for (const CK_OBJECT_HANDLE each : companions(session, key, kPublicKey))
    if (const auto wrapped = session.attribute(each, CKA_EC_POINT)) {
      ByteView rest = *wrapped;
      const auto point = der::take(rest);
      if (point && point->tag == der::kOctets)
        return Bytes(point->content.begin(), point->content.end());
    }
  return {};
}

Bytes mark_of(const Certificate& certificate) {
  EVP_PKEY* const key = X509_get0_pubkey(x509_of(certificate));
  if (key == nullptr) return {};
  if (EVP_PKEY_is_a(key, "EC") == 1) {
    const ASN1_BIT_STRING* const point = X509_get0_pubkey_bitstr(x509_of(certificate));
    return Bytes(point->data, point->data + point->length);
  }
  BIGNUM* modulus = nullptr;
  if (EVP_PKEY_get_bn_param(key, "n", &modulus) != 1) return {};
  const Own<BIGNUM> owned(modulus);
  Bytes bytes(static_cast<std::size_t>(BN_num_bytes(modulus)));
  BN_bn2bin(modulus, bytes.data());
  return bytes;
}

Result<CK_OBJECT_HANDLE> private_key(const TokenSession& session, const TokenAddress& address) {
  std::vector<CK_ATTRIBUTE> with = address.attributes();
  with.push_back(of_class(kPrivateKey));
  const std::vector<CK_OBJECT_HANDLE> keys = session.find(std::move(with));
  if (keys.size() == 1) return keys.front();
  if (keys.size() > 1)
    return Error(ErrorCode::invalid_argument,
                 "several private keys fit the address; name one by object=…, id=… or both")
        .about(address.text());
  if (session.is_closed_to_us())
    return Error(ErrorCode::password, "the token shows no such private key without its PIN")
        .about(address.text());
  return Error(ErrorCode::invalid_argument, "the token has no such private key")
      .about(address.text());
}

// What the token is given to sign by PKCS#1 version 1.5: a DigestInfo (RFC 8017, 9.2).
Bytes digest_info(ByteView hash, SignatureDigest digest) {
  return der::sequence(
      {der::sequence({der::object_id(oid_of(digest)), der::null()}), der::octets(hash)});
}

CK_RSA_PKCS_PSS_PARAMS pss_of(SignatureDigest digest) {
  switch (digest) {
    case SignatureDigest::sha384: return {CKM_SHA384, CKG_MGF1_SHA384, 48};
    case SignatureDigest::sha512: return {CKM_SHA512, CKG_MGF1_SHA512, 64};
    default: return {CKM_SHA256, CKG_MGF1_SHA256, 32};
  }
}

// Two numbers one after the other, as tokens give them, in DER.
Bytes ecdsa_in_der(ByteView two) {
  const Own<ECDSA_SIG> signature(ECDSA_SIG_new());
  const auto half = static_cast<int>(two.size() / 2);
  ECDSA_SIG_set0(signature.get(), BN_bin2bn(two.data(), half, nullptr),
                 BN_bin2bn(two.data() + half, half, nullptr));
  return der_of(signature.get(), i2d_ECDSA_SIG);
}

}  // namespace

Result<TokenKey> TokenKey::find(std::string_view address, const TokenAccess& access) {
  LUMVET_TRY(const TokenAddress parsed, TokenAddress::of(address));
  LUMVET_TRY(TokenSession session, TokenSession::open(parsed, access.module, access.pin));
  LUMVET_TRY(const CK_OBJECT_HANDLE key, private_key(session, parsed));
  std::vector<Certificate> found = certificates_of(session, key);
  const Bytes mark = mark_of(session, key);
  for (const Certificate& each : access.certificates)
    if (found.empty() && !mark.empty() && mark_of(each) == mark) found.push_back(each);
  if (!found.empty())
    found.insert(found.end(), access.certificates.begin(), access.certificates.end());
  return TokenKey(std::make_shared<Impl>(std::move(session), key, std::move(found)));
}

const std::vector<Certificate>& TokenKey::certificates() const { return impl_->certificates; }

Result<Bytes> TokenKey::sign(ByteView bytes, SignatureScheme scheme, SignatureDigest digest) const {
  const Bytes hash = crypto::digest(kind_of(digest), {bytes});
  const std::lock_guard alone(impl_->mutex);
  if (scheme == SignatureScheme::rsa_pkcs1)
    return impl_->session.sign(impl_->key, {CKM_RSA_PKCS, nullptr, 0}, digest_info(hash, digest));
  if (scheme == SignatureScheme::rsa_pss) {
    CK_RSA_PKCS_PSS_PARAMS how = pss_of(digest);
    return impl_->session.sign(impl_->key, {CKM_RSA_PKCS_PSS, &how, sizeof how}, hash);
  }
  LUMVET_TRY(const Bytes two, impl_->session.sign(impl_->key, {CKM_ECDSA, nullptr, 0}, hash));
  return ecdsa_in_der(two);
}

}  // namespace lumvet::signing
