// SPDX-License-Identifier: Apache-2.0
#include "lumvet/sign/signing_key.h"

#include <openssl/pem.h>
#include <openssl/rsa.h>

#include <algorithm>

#include "crypto/key_file.h"
#include "crypto/library.h"
#include "sign/certificate_inside.h"
#include "sign/digest_names.h"
#include "sign/token_key.h"

namespace lumvet {

using crypto::ErrorScope;
using crypto::Owned;

struct SigningKey::Impl {
  Owned<EVP_PKEY> key;  // its public part alone when the private one is on a token
  std::optional<signing::TokenKey> token = {};
  std::vector<Certificate> chain;
};

namespace {

constexpr int kLeastRsaBits = 2048;

Status check_kind(const EVP_PKEY* key) {
  if (EVP_PKEY_is_a(key, "RSA") == 1 || EVP_PKEY_is_a(key, "RSA-PSS") == 1) {
    if (EVP_PKEY_get_bits(key) < kLeastRsaBits)
      return Error(ErrorCode::unsupported,
                   "the key has " + std::to_string(EVP_PKEY_get_bits(key)) +
                       " bits; signatures of RSA need 2048 or more to be believed");
    return Done{};
  }
  if (EVP_PKEY_is_a(key, "ED25519") == 1) return Done{};
  if (EVP_PKEY_is_a(key, "EC") == 1) {
    char curve[64] = {};
    std::size_t size = 0;
    EVP_PKEY_get_utf8_string_param(key, "group", curve, sizeof curve, &size);
    for (const std::string_view known :
         {"prime256v1", "P-256", "secp384r1", "P-384", "secp521r1", "P-521"})
      if (known == curve) return Done{};
    return Error(ErrorCode::unsupported, "the key is of the curve " + std::string(curve) +
                                             "; signatures take P-256, P-384 or P-521");
  }
  return Error(ErrorCode::unsupported,
               "the key is of a kind that signatures of documents do not take; RSA or a curve "
               "P-256, P-384 or P-521 is needed, or Ed25519");
}

// The key's own certificate first, then its issuer, and so on.
Result<std::vector<Certificate>> in_order(EVP_PKEY* key, std::vector<Certificate> found) {
  const auto own = std::find_if(found.begin(), found.end(), [&](const Certificate& each) {
    return X509_check_private_key(signing::x509_of(each), key) == 1;
  });
  if (own == found.end())
    return Error(ErrorCode::malformed, found.empty()
                                           ? "there is a private key without its certificate"
                                           : "none of the certificates is of the private key");
  std::vector<Certificate> chain = {*own};
  found.erase(own);
  while (!chain.back().is_self_issued()) {
    const auto issuer = std::find_if(found.begin(), found.end(), [&](const Certificate& each) {
      return X509_check_issued(signing::x509_of(each), signing::x509_of(chain.back())) == X509_V_OK;
    });
    if (issuer == found.end()) break;
    chain.push_back(*issuer);
    found.erase(issuer);
  }
  return chain;
}

int give_passphrase(char* into, int size, int, void* phrase) {
  const auto& text = *static_cast<const std::string*>(phrase);
  const int length = std::min(size, static_cast<int>(text.size()));
  std::copy_n(text.data(), length, into);
  return length;
}

}  // namespace

Result<SigningKey> SigningKey::from_pkcs12(ByteView bytes, std::string_view passphrase) {
  const ErrorScope scope;
  LUMVET_TRY(crypto::KeyFile file, crypto::read_key_file(bytes, passphrase));
  std::vector<Certificate> found;
  found.reserve(file.others.size() + 1);
  if (file.certificate != nullptr)
    found.push_back(Inside<Certificate>::of(std::move(file.certificate)));
  for (Owned<X509>& other : file.others) found.push_back(Inside<Certificate>::of(std::move(other)));
  if (file.key == nullptr)
    return Error(ErrorCode::malformed, found.empty()
                                           ? "the key file is empty"
                                           : "the key file holds certificates and no private key");
  LUMVET_RETURN_IF_ERROR(check_kind(file.key.get()));
  auto impl = std::make_shared<Impl>();
  LUMVET_TRY(impl->chain, in_order(file.key.get(), std::move(found)));
  impl->key = std::move(file.key);
  return SigningKey(std::move(impl));
}

Result<SigningKey> SigningKey::from_pem(ByteView bytes, std::string_view passphrase) {
  const ErrorScope scope;
  const std::string_view text = as_text(bytes);
  if (text.find("PRIVATE KEY-----") == std::string_view::npos)
    return Error(ErrorCode::malformed, "there is no private key in it");
  std::string phrase(passphrase);
  const Owned<BIO> in(BIO_new_mem_buf(bytes.data(), static_cast<int>(bytes.size())));
  auto impl = std::make_shared<Impl>();
  impl->key.reset(PEM_read_bio_PrivateKey_ex(in.get(), nullptr, give_passphrase, &phrase,
                                             crypto::library(), nullptr));
  if (impl->key == nullptr) {
    const bool is_locked = text.find("ENCRYPTED") != std::string_view::npos;
    return is_locked ? Error(ErrorCode::password, "the passphrase of the private key is wrong")
                     : Error(ErrorCode::malformed, "the private key is damaged");
  }
  LUMVET_RETURN_IF_ERROR(check_kind(impl->key.get()));
  std::vector<Certificate> found;
  if (text.find("BEGIN CERTIFICATE") != std::string_view::npos) {
    LUMVET_TRY(found, read_certificates(bytes));
  }
  LUMVET_TRY(impl->chain, in_order(impl->key.get(), std::move(found)));
  return SigningKey(std::move(impl));
}

Result<SigningKey> SigningKey::from(ByteView bytes, std::string_view passphrase) {
  return signing::is_pem(bytes) ? from_pem(bytes, passphrase) : from_pkcs12(bytes, passphrase);
}

Result<SigningKey> SigningKey::from_token(std::string_view address, const TokenAccess& access) {
  const ErrorScope scope;
  LUMVET_TRY(signing::TokenKey token, signing::TokenKey::find(address, access));
  if (token.certificates().empty())
    return Error(ErrorCode::malformed, "there is a private key without its certificate")
        .about(std::string(address));
  auto impl = std::make_shared<Impl>();
  impl->key.reset(X509_get_pubkey(signing::x509_of(token.certificates().front())));
  LUMVET_RETURN_IF_ERROR(check_kind(impl->key.get()));
  LUMVET_TRY(impl->chain, in_order(impl->key.get(), token.certificates()));
  impl->token = std::move(token);
  return SigningKey(std::move(impl));
}

const std::vector<Certificate>& SigningKey::chain() const { return impl_->chain; }

SignatureScheme SigningKey::scheme() const {
  if (EVP_PKEY_is_a(impl_->key.get(), "EC") == 1) return SignatureScheme::ecdsa;
  if (EVP_PKEY_is_a(impl_->key.get(), "ED25519") == 1) return SignatureScheme::ed25519;
  return EVP_PKEY_is_a(impl_->key.get(), "RSA-PSS") == 1 ? SignatureScheme::rsa_pss
                                                         : SignatureScheme::rsa_pkcs1;
}

Result<Bytes> SigningKey::sign(ByteView bytes, SignatureScheme scheme,
                               SignatureDigest digest) const {
  const ErrorScope scope;
  const SignatureScheme own = this->scheme();
  const auto is_rsa = [](SignatureScheme each) {
    return each == SignatureScheme::rsa_pkcs1 || each == SignatureScheme::rsa_pss;
  };
  if (scheme != own && !(is_rsa(scheme) && is_rsa(own)))
    return Error(ErrorCode::invalid_argument,
                 is_rsa(own) ? "the key is of RSA and signs by PKCS#1 or PSS alone"
                 : own == SignatureScheme::ecdsa
                     ? "the key is of a curve and signs by ECDSA alone"
                     : "the key is of Ed25519 and signs by nothing else");
  if (impl_->token) return impl_->token->sign(bytes, scheme, digest);
  const Error refused(ErrorCode::unsupported, "the key does not sign in this way");
  const signing::Own<EVP_MD_CTX> context(EVP_MD_CTX_new());
  EVP_PKEY_CTX* padding = nullptr;
  if (EVP_DigestSignInit_ex(context.get(), &padding, signing::digest_argument(scheme, digest),
                            crypto::library(), nullptr, impl_->key.get(), nullptr) != 1)
    return refused;
  if (scheme == SignatureScheme::rsa_pss &&
      (EVP_PKEY_CTX_set_rsa_padding(padding, RSA_PKCS1_PSS_PADDING) != 1 ||
       EVP_PKEY_CTX_set_rsa_pss_saltlen(padding, RSA_PSS_SALTLEN_DIGEST) != 1))
    return refused;
  std::size_t size = 0;
  if (EVP_DigestSign(context.get(), nullptr, &size, bytes.data(), bytes.size()) != 1)
    return refused;
  Bytes signature(size);
  if (EVP_DigestSign(context.get(), signature.data(), &size, bytes.data(), bytes.size()) != 1)
    return refused;
  signature.resize(size);
  return signature;
}

}  // namespace lumvet
