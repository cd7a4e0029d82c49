// SPDX-License-Identifier: Apache-2.0
#include "crypto/key_file.h"

#include "crypto/library.h"

namespace lumvet::crypto {

Result<KeyFile> read_key_file(ByteView bytes, std::string_view passphrase) {
  const ErrorScope scope;
  PKCS12* allocated = PKCS12_init_ex(NID_pkcs7_data, library(), nullptr);
  const unsigned char* at = bytes.data();
  if (d2i_PKCS12(&allocated, &at, static_cast<long>(bytes.size())) == nullptr) {
    // On failure d2i frees what it was given.
    return Error(ErrorCode::malformed, "not a PKCS#12 file (.p12, .pfx)");
  }
  const Owned<PKCS12> store(allocated);
  const std::string phrase(passphrase);
  if (PKCS12_verify_mac(store.get(), phrase.c_str(), static_cast<int>(phrase.size())) != 1 &&
      !(phrase.empty() && PKCS12_verify_mac(store.get(), nullptr, 0) == 1))
    return Error(ErrorCode::password, "the passphrase of the key file is wrong");
  EVP_PKEY* key = nullptr;
  X509* certificate = nullptr;
  STACK_OF(X509)* others = nullptr;
  const int parsed = PKCS12_parse(store.get(), phrase.c_str(), &key, &certificate, &others);
  KeyFile file;
  file.key.reset(key);
  file.certificate.reset(certificate);
  while (sk_X509_num(others) > 0) file.others.emplace_back(sk_X509_shift(others));
  sk_X509_free(others);
  if (parsed != 1)
    return Error(ErrorCode::malformed, "the key file is damaged, or locked in a way not known");
  return file;
}

std::string name_for_people(const X509_NAME* name) {
  const Owned<BIO> out(BIO_new(BIO_s_mem()));
  constexpr unsigned long kFlags =
      (XN_FLAG_ONELINE & ~XN_FLAG_SPC_EQ & ~ASN1_STRFLGS_ESC_MSB) | ASN1_STRFLGS_UTF8_CONVERT;
  X509_NAME_print_ex(out.get(), name, 0, kFlags);
  char* data = nullptr;
  const long size = BIO_get_mem_data(out.get(), &data);
  return size > 0 ? std::string(data, static_cast<std::size_t>(size)) : std::string();
}

}  // namespace lumvet::crypto
