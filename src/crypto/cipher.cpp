// SPDX-License-Identifier: Apache-2.0
#include "crypto/cipher.h"

#include <openssl/evp.h>

#include <algorithm>
#include <memory>

#include "crypto/library.h"

namespace lumvet::crypto {
namespace {

struct FreeCipher {
  void operator()(EVP_CIPHER* cipher) const { EVP_CIPHER_free(cipher); }
  void operator()(EVP_CIPHER_CTX* context) const { EVP_CIPHER_CTX_free(context); }
};

enum class Direction { decrypt = 0, encrypt = 1 };

enum class Padding { none, added };

// What comes out, behind `front` bytes.
Result<Bytes> run(const char* name, Direction direction, ByteView key, ByteView iv, ByteView data,
                  std::size_t front = 0, Padding padding = Padding::none) {
  const std::unique_ptr<EVP_CIPHER, FreeCipher> cipher(EVP_CIPHER_fetch(library(), name, nullptr));
  const std::unique_ptr<EVP_CIPHER_CTX, FreeCipher> context(EVP_CIPHER_CTX_new());
  const auto refused = [&] {
    return Error(ErrorCode::unsupported,
                 std::string("the OpenSSL of this machine cannot do ") + name);
  };
  if (!cipher || !context) return refused();
  EVP_CIPHER_CTX* c = context.get();
  const int way = static_cast<int>(direction);
  if (EVP_CipherInit_ex2(c, cipher.get(), nullptr, nullptr, way, nullptr) != 1 ||
      EVP_CIPHER_CTX_set_key_length(c, static_cast<int>(key.size())) != 1 ||
      EVP_CipherInit_ex2(c, nullptr, key.data(), iv.empty() ? nullptr : iv.data(), way, nullptr) !=
          1)
    return refused();
  EVP_CIPHER_CTX_set_padding(c, padding == Padding::added ? 1 : 0);
  Bytes out(front + data.size() + kAesBlock);
  std::size_t written = front;
  constexpr std::size_t kPart = std::size_t{1} << 30;  // lengths are ints there
  for (std::size_t at = 0; at < data.size(); at += kPart) {
    const ByteView part = data.subspan(at, std::min(kPart, data.size() - at));
    int made = 0;
    if (EVP_CipherUpdate(c, out.data() + written, &made, part.data(),
                         static_cast<int>(part.size())) != 1)
      return refused();
    written += static_cast<std::size_t>(made);
  }
  if (padding == Padding::added) {
    int made = 0;
    if (EVP_CipherFinal_ex(c, out.data() + written, &made) != 1) return refused();
    written += static_cast<std::size_t>(made);
  }
  out.resize(written);
  return out;
}

ByteView whole_blocks(ByteView data) { return data.first(data.size() / kAesBlock * kAesBlock); }

const char* cbc(ByteView key) { return key.size() == 32 ? "AES-256-CBC" : "AES-128-CBC"; }
const char* ecb(ByteView key) { return key.size() == 32 ? "AES-256-ECB" : "AES-128-ECB"; }

}  // namespace

Result<Bytes> rc4(ByteView key, ByteView data) {
  return run("RC4", Direction::encrypt, key, {}, data);
}

Result<Bytes> aes_cbc_decrypt(ByteView key, ByteView iv, ByteView data) {
  return run(cbc(key), Direction::decrypt, key, iv, whole_blocks(data));
}

Result<Bytes> aes_cbc_encrypt(ByteView key, ByteView iv, ByteView data) {
  return run(cbc(key), Direction::encrypt, key, iv, whole_blocks(data));
}

Result<Bytes> aes_cbc_sealed(ByteView key, ByteView iv, ByteView data) {
  LUMVET_TRY(Bytes sealed,
             run(cbc(key), Direction::encrypt, key, iv, data, iv.size(), Padding::added));
  std::copy(iv.begin(), iv.end(), sealed.begin());
  return sealed;
}

Result<Bytes> aes_ecb_decrypt(ByteView key, ByteView data) {
  return run(ecb(key), Direction::decrypt, key, {}, whole_blocks(data));
}

Result<Bytes> aes_ecb_encrypt(ByteView key, ByteView data) {
  return run(ecb(key), Direction::encrypt, key, {}, whole_blocks(data));
}

}  // namespace lumvet::crypto
