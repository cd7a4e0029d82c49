// SPDX-License-Identifier: Apache-2.0
// More of OpenSSL's objects with owners, those of certificates, lists and timestamps.
//
// Threads: free functions.
#pragma once

#include <openssl/bn.h>
#include <openssl/ec.h>
#include <openssl/ess.h>
#include <openssl/ocsp.h>
#include <openssl/ts.h>
#include <openssl/x509v3.h>

#include <memory>

#include "crypto/openssl_objects.h"
#include "lumvet/base/bytes.h"

namespace lumvet::signing {

struct FreeObject {
  void operator()(X509_CRL* list) const { X509_CRL_free(list); }
  void operator()(X509_STORE* store) const { X509_STORE_free(store); }
  void operator()(X509_STORE_CTX* context) const { X509_STORE_CTX_free(context); }
  void operator()(EVP_PKEY_CTX* context) const { EVP_PKEY_CTX_free(context); }
  void operator()(EVP_MD_CTX* context) const { EVP_MD_CTX_free(context); }
  void operator()(ECDSA_SIG* signature) const { ECDSA_SIG_free(signature); }
  void operator()(BIGNUM* number) const { BN_free(number); }
  void operator()(ASN1_OBJECT* object) const { ASN1_OBJECT_free(object); }
  void operator()(ASN1_INTEGER* integer) const { ASN1_INTEGER_free(integer); }
  void operator()(TS_REQ* request) const { TS_REQ_free(request); }
  void operator()(TS_RESP* response) const { TS_RESP_free(response); }
  void operator()(TS_TST_INFO* info) const { TS_TST_INFO_free(info); }
  void operator()(ESS_SIGNING_CERT_V2* list) const { ESS_SIGNING_CERT_V2_free(list); }
  void operator()(OCSP_RESPONSE* response) const { OCSP_RESPONSE_free(response); }
  void operator()(OCSP_BASICRESP* response) const { OCSP_BASICRESP_free(response); }
  void operator()(OCSP_CERTID* id) const { OCSP_CERTID_free(id); }
  // The certificates stay with who has them.
  void operator()(STACK_OF(X509) * list) const { sk_X509_free(list); }
};
template <typename T>
using Own = std::unique_ptr<T, FreeObject>;

// What one of OpenSSL's i2d functions writes.
template <typename T, typename Write>
Bytes der_of(const T* object, Write write) {
  unsigned char* out = nullptr;
  const int size = write(object, &out);
  if (size <= 0) return {};
  Bytes bytes(out, out + size);
  OPENSSL_free(out);
  return bytes;
}

}  // namespace lumvet::signing
