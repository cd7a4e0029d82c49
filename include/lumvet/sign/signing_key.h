// SPDX-License-Identifier: Apache-2.0
// A private key with its certificate, and those of its issuers: who signs.
//
//   const auto key = lumvet::SigningKey::from_pkcs12(bytes, "passphrase").value();
//   std::cout << key.chain().front().subject();
//
// A key on a card or another token stays there, and signs there:
//
//   const auto on_card = lumvet::SigningKey::from_token("pkcs11:token=Office;object=chief",
//                                                       {.pin = "1234"}).value();
//
// Keys are of RSA (2,048 bits on), of the curves P-256, P-384 and P-521, or of Ed25519, which
// tokens are not asked for. Threads: immutable, share freely. Since: 0.3
#pragma once

#include <filesystem>
#include <memory>
#include <string>
#include <string_view>
#include <vector>

#include "lumvet/sign/certificate.h"

namespace lumvet {

enum class SignatureDigest { sha256, sha384, sha512 };

// How it is signed: what stands in the signature (RFC 3370, 4056, 5754, 8419).
enum class SignatureScheme { rsa_pkcs1, rsa_pss, ecdsa, ed25519 };

// How a token is reached (PKCS#11).
struct TokenAccess {
  // The driver of the token, a shared library; without it the system's own choice.
  std::filesystem::path module = {};
  std::string pin = {};
  // The key's own, where it is not on the token, and those of its issuers.
  std::vector<Certificate> certificates = {};
};

class LUMVET_EXPORT SigningKey {
 public:
  // From the bytes of a PKCS#12 file (RFC 7292), "*.p12" or "*.pfx". Errors: password when the
  // passphrase is wrong; malformed when it is no such file, or holds no key, or no certificate of
  // it; unsupported for keys of another kind.
  static Result<SigningKey> from_pkcs12(ByteView bytes, std::string_view passphrase);
  // A key and certificates in PEM, in any order. The passphrase is for a key that is locked.
  // Errors: as from_pkcs12.
  static Result<SigningKey> from_pem(ByteView bytes, std::string_view passphrase = {});
  // Either of them, by what the bytes are. Errors: as from_pkcs12.
  static Result<SigningKey> from(ByteView bytes, std::string_view passphrase);
  // A key on a token, by its address (RFC 7512), which may name the module and the PIN too.
  // Errors: password for a PIN that is wrong or missing; invalid_argument for an address that no
  // key fits, or several do; io for a module that is not there; malformed when there is no
  // certificate of the key; unsupported for keys of another kind, for modules that do not work,
  // and for a token that is locked.
  static Result<SigningKey> from_token(std::string_view address, const TokenAccess& access);

  // The key's own certificate first, then those of its issuers as far as they are known.
  const std::vector<Certificate>& chain() const;
  // What it signs with unless something else is asked for: rsa_pkcs1, ecdsa or ed25519.
  SignatureScheme scheme() const;

  // The signature of bytes: of ECDSA in DER (RFC 3279, 2.2.3). Ed25519 takes no digest. Errors:
  // invalid_argument for a scheme that the key is not of; unsupported when the cryptographic
  // library refuses.
  Result<Bytes> sign(ByteView bytes, SignatureScheme scheme, SignatureDigest digest) const;

 private:
  struct Impl;
  explicit SigningKey(std::shared_ptr<const Impl> impl) : impl_(std::move(impl)) {}
  std::shared_ptr<const Impl> impl_;
};

}  // namespace lumvet
