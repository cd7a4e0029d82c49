// SPDX-License-Identifier: Apache-2.0
#include "crypto/digest.h"

#include <openssl/evp.h>

#include <new>

namespace lumvet::crypto {
namespace {

const EVP_MD* method(DigestKind kind) {
  switch (kind) {
    case DigestKind::md5: return EVP_md5();
    case DigestKind::sha1: return EVP_sha1();
    case DigestKind::sha256: break;
    case DigestKind::sha384: return EVP_sha384();
    case DigestKind::sha512: return EVP_sha512();
  }
  return EVP_sha256();
}

}  // namespace

struct Digest::Impl {
  EVP_MD_CTX* context = EVP_MD_CTX_new();
  ~Impl() { EVP_MD_CTX_free(context); }
};

Digest::Digest(DigestKind kind) : impl_(std::make_unique<Impl>()) {
  if (impl_->context == nullptr || EVP_DigestInit_ex(impl_->context, method(kind), nullptr) != 1)
    throw std::bad_alloc();
}

Digest::~Digest() = default;

void Digest::update(ByteView bytes) {
  EVP_DigestUpdate(impl_->context, bytes.data(), bytes.size());
}

Bytes Digest::finish() {
  Bytes digest(EVP_MAX_MD_SIZE);
  unsigned size = 0;
  EVP_DigestFinal_ex(impl_->context, digest.data(), &size);
  digest.resize(size);
  return digest;
}

Bytes digest(DigestKind kind, std::initializer_list<ByteView> pieces) {
  Digest digest(kind);
  for (const ByteView piece : pieces) digest.update(piece);
  return digest.finish();
}

}  // namespace lumvet::crypto
