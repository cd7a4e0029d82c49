// SPDX-License-Identifier: Apache-2.0
#include "crypto/random.h"

#include <openssl/rand.h>

#include <cstdlib>

#include "crypto/library.h"

namespace lumvet::crypto {

Bytes random_bytes(std::size_t count) {
  Bytes bytes(count);
  // A machine that cannot give any must not encrypt.
  if (RAND_bytes_ex(library(), bytes.data(), bytes.size(), 0) != 1) std::abort();
  return bytes;
}

}  // namespace lumvet::crypto
