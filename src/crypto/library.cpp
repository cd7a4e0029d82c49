// SPDX-License-Identifier: Apache-2.0
#include "crypto/library.h"

#include <openssl/crypto.h>
#include <openssl/provider.h>

#include <new>

namespace lumvet::crypto {
namespace {

struct Library {
  OSSL_LIB_CTX* context = OSSL_LIB_CTX_new();
  OSSL_PROVIDER* base = nullptr;
  OSSL_PROVIDER* legacy = nullptr;

  Library() {
    if (context == nullptr) throw std::bad_alloc();
    base = OSSL_PROVIDER_load(context, "default");
    legacy = OSSL_PROVIDER_load(context, "legacy");
  }
  ~Library() {
    OSSL_PROVIDER_unload(legacy);
    OSSL_PROVIDER_unload(base);
    OSSL_LIB_CTX_free(context);
  }
  Library(const Library&) = delete;
  Library& operator=(const Library&) = delete;
};

}  // namespace

OSSL_LIB_CTX* library() {
  static const Library library;
  return library.context;
}

}  // namespace lumvet::crypto
