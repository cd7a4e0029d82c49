// SPDX-License-Identifier: Apache-2.0
// A private key that stays on a token, and signs there.
//
// Threads: internally synchronized.
#pragma once

#include <memory>
#include <string_view>
#include <vector>

#include "lumvet/sign/signing_key.h"

namespace lumvet::signing {

class TokenKey {
 public:
  // Errors: as SigningKey::from_token.
  static Result<TokenKey> find(std::string_view address, const TokenAccess& access);

  // The key's own first; empty where none is known. Then those that were given.
  const std::vector<Certificate>& certificates() const;
  Result<Bytes> sign(ByteView bytes, SignatureScheme scheme, SignatureDigest digest) const;

 private:
  struct Impl;
  explicit TokenKey(std::shared_ptr<const Impl> impl) : impl_(std::move(impl)) {}
  std::shared_ptr<const Impl> impl_;
};

}  // namespace lumvet::signing
