// SPDX-License-Identifier: Apache-2.0
#include "crypto/base64.h"

#include <openssl/evp.h>

#include <algorithm>

namespace lumvet::crypto {

std::string base64(ByteView bytes) {
  constexpr std::size_t kPortion = 3 << 20;  // a multiple of 3, so that portions join
  std::string text;
  while (!bytes.empty()) {
    const ByteView portion = bytes.first(std::min(bytes.size(), kPortion));
    bytes = bytes.subspan(portion.size());
    const std::size_t at = text.size();
    text.resize(at + (portion.size() + 2) / 3 * 4 + 1);  // and the zero that is put behind
    const int length = EVP_EncodeBlock(reinterpret_cast<unsigned char*>(text.data() + at),
                                       portion.data(), static_cast<int>(portion.size()));
    text.resize(at + static_cast<std::size_t>(length));
  }
  return text;
}

}  // namespace lumvet::crypto
