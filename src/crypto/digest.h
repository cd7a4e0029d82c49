// SPDX-License-Identifier: Apache-2.0
// Digests, computed by OpenSSL.
//
// Threads: Digest one thread at a time; digest() anywhere.
#pragma once

#include <initializer_list>
#include <memory>

#include "lumvet/base/bytes.h"

namespace lumvet::crypto {

enum class DigestKind { md5, sha1, sha256, sha384, sha512 };

class Digest {
 public:
  explicit Digest(DigestKind kind);
  ~Digest();
  Digest(const Digest&) = delete;
  Digest& operator=(const Digest&) = delete;

  void update(ByteView bytes);
  // 16, 20, 32, 48 or 64 bytes; nothing may be added afterwards.
  Bytes finish();

 private:
  struct Impl;
  std::unique_ptr<Impl> impl_;
};

// Of several pieces, one after the other.
Bytes digest(DigestKind kind, std::initializer_list<ByteView> pieces);

}  // namespace lumvet::crypto
