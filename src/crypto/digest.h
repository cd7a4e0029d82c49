// SPDX-License-Identifier: Apache-2.0
// Digests, computed by OpenSSL.
//
// Threads: one thread at a time.
#pragma once

#include <memory>

#include "lumvet/base/bytes.h"

namespace lumvet::crypto {

class Sha256 {
 public:
  Sha256();
  ~Sha256();
  Sha256(const Sha256&) = delete;
  Sha256& operator=(const Sha256&) = delete;

  void update(ByteView bytes);
  // 32 bytes; nothing may be added afterwards.
  Bytes finish();

 private:
  struct Impl;
  std::unique_ptr<Impl> impl_;
};

}  // namespace lumvet::crypto
