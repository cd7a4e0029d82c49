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

std::optional<Bytes> from_base64(std::string_view text) {
  std::string signs;
  signs.reserve(text.size());
  for (const char c : text)
    if (std::string_view(" \t\r\n").find(c) == std::string_view::npos) signs += c;
  if (signs.size() % 4 != 0 || signs.size() > 0x7FFFFFFF) return std::nullopt;
  const std::size_t end = std::min(signs.find('='), signs.size());
  const std::size_t padding = signs.size() - end;
  if (padding > 2 || signs.find_first_not_of('=', end) != std::string::npos) return std::nullopt;
  Bytes bytes(signs.size() / 4 * 3);
  if (EVP_DecodeBlock(bytes.data(), reinterpret_cast<const unsigned char*>(signs.data()),
                      static_cast<int>(signs.size())) < 0)
    return std::nullopt;
  bytes.resize(bytes.size() - padding);
  return bytes;
}

}  // namespace lumvet::crypto
