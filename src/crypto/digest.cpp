// SPDX-License-Identifier: Apache-2.0
#include "crypto/digest.h"

#include <openssl/evp.h>

#include <new>

namespace lumvet::crypto {

struct Sha256::Impl {
  EVP_MD_CTX* context = EVP_MD_CTX_new();
  ~Impl() { EVP_MD_CTX_free(context); }
};

Sha256::Sha256() : impl_(std::make_unique<Impl>()) {
  if (impl_->context == nullptr || EVP_DigestInit_ex(impl_->context, EVP_sha256(), nullptr) != 1)
    throw std::bad_alloc();
}

Sha256::~Sha256() = default;

void Sha256::update(ByteView bytes) {
  EVP_DigestUpdate(impl_->context, bytes.data(), bytes.size());
}

Bytes Sha256::finish() {
  Bytes digest(EVP_MAX_MD_SIZE);
  unsigned size = 0;
  EVP_DigestFinal_ex(impl_->context, digest.data(), &size);
  digest.resize(size);
  return digest;
}

}  // namespace lumvet::crypto
