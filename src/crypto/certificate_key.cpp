// SPDX-License-Identifier: Apache-2.0
#include "lumvet/crypto/certificate_key.h"

#include "crypto/key_file.h"
#include "crypto/library.h"
#include "crypto/openssl_objects.h"

namespace lumvet {
using crypto::ErrorScope;
using crypto::Owned;

struct CertificateKey::Impl {
  Owned<EVP_PKEY> key;
  Owned<X509> certificate;
};

Result<CertificateKey> CertificateKey::from_pkcs12(ByteView bytes, std::string_view passphrase) {
  LUMVET_TRY(crypto::KeyFile file, crypto::read_key_file(bytes, passphrase));
  if (file.key == nullptr || file.certificate == nullptr)
    return Error(ErrorCode::malformed, "the key file holds no private key with its certificate");
  auto impl = std::make_shared<Impl>();
  impl->key = std::move(file.key);
  impl->certificate = std::move(file.certificate);
  return CertificateKey(std::move(impl));
}

Result<Bytes> CertificateKey::open_envelope(ByteView message) const {
  const ErrorScope scope;
  CMS_ContentInfo* allocated = CMS_ContentInfo_new_ex(crypto::library(), nullptr);
  const unsigned char* at = message.data();
  if (d2i_CMS_ContentInfo(&allocated, &at, static_cast<long>(message.size())) == nullptr)
    return Error(ErrorCode::malformed, "a recipient's envelope is damaged");
  const Owned<CMS_ContentInfo> envelope(allocated);
  if (OBJ_obj2nid(CMS_get0_type(envelope.get())) != NID_pkcs7_enveloped)
    return Error(ErrorCode::malformed, "a recipient's envelope is of another kind");
  const Owned<BIO> out(BIO_new(BIO_s_mem()));
  if (CMS_decrypt(envelope.get(), impl_->key.get(), impl_->certificate.get(), nullptr, out.get(),
                  0) != 1)
    return Error(ErrorCode::password, "the document was not encrypted for this certificate");
  char* data = nullptr;
  const long size = BIO_get_mem_data(out.get(), &data);
  return Bytes(data, data + size);
}

std::string CertificateKey::subject() const {
  return crypto::name_for_people(X509_get_subject_name(impl_->certificate.get()));
}

}  // namespace lumvet
