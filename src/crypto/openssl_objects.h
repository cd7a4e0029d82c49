// SPDX-License-Identifier: Apache-2.0
// OpenSSL's objects with owners, and its errors kept away from the application.
#pragma once

#include <openssl/cms.h>
#include <openssl/err.h>
#include <openssl/pkcs12.h>
#include <openssl/x509.h>

#include <memory>

namespace lumvet::crypto {

struct FreeObject {
  void operator()(PKCS12* store) const { PKCS12_free(store); }
  void operator()(CMS_ContentInfo* message) const { CMS_ContentInfo_free(message); }
  void operator()(BIO* bio) const { BIO_free_all(bio); }
  void operator()(X509* certificate) const { X509_free(certificate); }
  void operator()(EVP_PKEY* key) const { EVP_PKEY_free(key); }
};
template <typename T>
using Owned = std::unique_ptr<T, FreeObject>;

// OpenSSL keeps its errors per thread; what is answered here leaves none behind for the
// application.
class ErrorScope {
 public:
  ErrorScope() { ERR_set_mark(); }
  ~ErrorScope() { ERR_pop_to_mark(); }
  ErrorScope(const ErrorScope&) = delete;
  ErrorScope& operator=(const ErrorScope&) = delete;
};

}  // namespace lumvet::crypto
