// SPDX-License-Identifier: Apache-2.0
#include "sign/signed_by.h"

#include <openssl/rsa.h>

#include "crypto/library.h"
#include "sign/certificate_inside.h"
#include "sign/digest_names.h"

namespace lumvet::signing {

bool is_signed_by(const Certificate& signer, SignatureScheme scheme, SignatureDigest digest,
                  ByteView bytes, ByteView signature) {
  const crypto::ErrorScope scope;
  const Own<EVP_MD_CTX> context(EVP_MD_CTX_new());
  EVP_PKEY_CTX* padding = nullptr;
  if (EVP_DigestVerifyInit_ex(context.get(), &padding, digest_argument(scheme, digest),
                              crypto::library(), nullptr, X509_get0_pubkey(x509_of(signer)),
                              nullptr) != 1)
    return false;
  if (scheme == SignatureScheme::rsa_pss &&
      (EVP_PKEY_CTX_set_rsa_padding(padding, RSA_PKCS1_PSS_PADDING) != 1 ||
       EVP_PKEY_CTX_set_rsa_pss_saltlen(padding, RSA_PSS_SALTLEN_DIGEST) != 1))
    return false;
  return EVP_DigestVerify(context.get(), signature.data(), signature.size(), bytes.data(),
                          bytes.size()) == 1;
}

Result<SignatureScheme> scheme_of(const Certificate& signer) {
  const EVP_PKEY* key = X509_get0_pubkey(x509_of(signer));
  if (key != nullptr && EVP_PKEY_is_a(key, "RSA") == 1) return SignatureScheme::rsa_pkcs1;
  if (key != nullptr && EVP_PKEY_is_a(key, "RSA-PSS") == 1) return SignatureScheme::rsa_pss;
  if (key != nullptr && EVP_PKEY_is_a(key, "EC") == 1) return SignatureScheme::ecdsa;
  if (key != nullptr && EVP_PKEY_is_a(key, "ED25519") == 1) return SignatureScheme::ed25519;
  return Error(ErrorCode::unsupported,
               "the certificate has a key of another kind than RSA, EC or Ed25519");
}

std::size_t most_signature_bytes(const Certificate& signer) {
  const int size = EVP_PKEY_get_size(X509_get0_pubkey(x509_of(signer)));
  return size > 0 ? static_cast<std::size_t>(size) : 0;
}

}  // namespace lumvet::signing
