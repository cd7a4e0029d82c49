// SPDX-License-Identifier: Apache-2.0
#include "lumvet/crypto/certificate_key.h"

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
  const ErrorScope scope;
  PKCS12* allocated = PKCS12_init_ex(NID_pkcs7_data, crypto::library(), nullptr);
  const unsigned char* at = bytes.data();
  if (d2i_PKCS12(&allocated, &at, static_cast<long>(bytes.size())) == nullptr) {
    // On failure d2i frees what it was given.
    return Error(ErrorCode::malformed, "not a PKCS#12 file (.p12, .pfx)");
  }
  const Owned<PKCS12> store(allocated);
  const std::string phrase(passphrase);
  if (PKCS12_verify_mac(store.get(), phrase.c_str(), static_cast<int>(phrase.size())) != 1 &&
      !(phrase.empty() && PKCS12_verify_mac(store.get(), nullptr, 0) == 1))
    return Error(ErrorCode::password, "the passphrase of the certificate's key file is wrong");
  EVP_PKEY* key = nullptr;
  X509* certificate = nullptr;
  const int parsed = PKCS12_parse(store.get(), phrase.c_str(), &key, &certificate, nullptr);
  auto impl = std::make_shared<Impl>();
  impl->key.reset(key);
  impl->certificate.reset(certificate);
  if (parsed != 1 || key == nullptr || certificate == nullptr)
    return Error(ErrorCode::malformed, "the key file holds no private key with its certificate");
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
  const Owned<BIO> out(BIO_new(BIO_s_mem()));
  X509_NAME_print_ex(out.get(), X509_get_subject_name(impl_->certificate.get()), 0,
                     XN_FLAG_ONELINE & ~XN_FLAG_SPC_EQ);
  char* data = nullptr;
  const long size = BIO_get_mem_data(out.get(), &data);
  return std::string(data, static_cast<std::size_t>(size));
}

}  // namespace lumvet
