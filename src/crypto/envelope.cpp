// SPDX-License-Identifier: Apache-2.0
#include "crypto/envelope.h"

#include <openssl/pem.h>

#include "crypto/library.h"
#include "crypto/openssl_objects.h"

namespace lumvet::crypto {
namespace {

Owned<X509> read_certificate(ByteView bytes) {
  const unsigned char* at = bytes.data();
  if (X509* der = d2i_X509(nullptr, &at, static_cast<long>(bytes.size()))) return Owned<X509>(der);
  const Owned<BIO> text(BIO_new_mem_buf(bytes.data(), static_cast<int>(bytes.size())));
  return Owned<X509>(PEM_read_bio_X509(text.get(), nullptr, nullptr, nullptr));
}

struct FreeStack {
  void operator()(STACK_OF(X509) * stack) const { sk_X509_free(stack); }
};

}  // namespace

Result<Bytes> seal_envelope(ByteView certificate, ByteView secret) {
  const ErrorScope scope;
  const Owned<X509> recipient = read_certificate(certificate);
  if (!recipient)
    return Error(ErrorCode::invalid_argument, "a recipient's certificate is neither DER nor PEM");
  const std::unique_ptr<STACK_OF(X509), FreeStack> recipients(sk_X509_new_null());
  sk_X509_push(recipients.get(), recipient.get());
  const Owned<BIO> in(BIO_new_mem_buf(secret.data(), static_cast<int>(secret.size())));
  const Owned<CMS_ContentInfo> message(CMS_encrypt_ex(recipients.get(), in.get(), EVP_aes_256_cbc(),
                                                      CMS_BINARY, library(), nullptr));
  if (!message)
    return Error(ErrorCode::invalid_argument,
                 "nothing can be encrypted for a recipient's certificate; its key is not made for "
                 "that");
  unsigned char* data = nullptr;
  const int size = i2d_CMS_ContentInfo(message.get(), &data);
  Bytes bytes(data, data + std::max(size, 0));
  OPENSSL_free(data);
  return bytes;
}

}  // namespace lumvet::crypto
