// SPDX-License-Identifier: Apache-2.0
#include "lumvet/sign/certificate.h"

#include <openssl/pem.h>

#include <optional>

#include "crypto/digest.h"
#include "crypto/key_file.h"
#include "crypto/library.h"
#include "sign/certificate_inside.h"

namespace lumvet {
namespace {

using crypto::ErrorScope;
using crypto::Owned;

Owned<X509> parsed(ByteView bytes, bool allows_rest = false) {
  X509* allocated = X509_new_ex(crypto::library(), nullptr);
  const unsigned char* at = bytes.data();
  // On failure d2i frees what it was given.
  if (d2i_X509(&allocated, &at, static_cast<long>(bytes.size())) == nullptr) return nullptr;
  Owned<X509> object(allocated);
  if (!allows_rest && at != bytes.data() + bytes.size()) return nullptr;
  return object;
}

}  // namespace

Certificate Inside<Certificate>::of(Owned<X509> object) {
  // Extensions are read here once, so that threads may share it.
  X509_check_purpose(object.get(), -1, 0);
  auto impl = std::make_shared<Certificate::Impl>();
  impl->object = std::move(object);
  return Certificate(std::move(impl));
}

namespace signing {

Certificate certificate_of(X509* object) {
  X509_up_ref(object);
  return Inside<Certificate>::of(Owned<X509>(object));
}

std::optional<std::int64_t> seconds_of(const ASN1_TIME* time) {
  std::tm parts{};
  if (time == nullptr || ASN1_TIME_to_tm(time, &parts) != 1) return std::nullopt;
  return static_cast<std::int64_t>(timegm(&parts));
}

bool is_pem(ByteView bytes) { return as_text(bytes).find("-----BEGIN ") != std::string_view::npos; }

std::vector<PemBlock> pem_blocks(ByteView bytes) {
  std::vector<PemBlock> blocks;
  const Owned<BIO> in(BIO_new_mem_buf(bytes.data(), static_cast<int>(bytes.size())));
  char* name = nullptr;
  char* header = nullptr;
  unsigned char* data = nullptr;
  long size = 0;
  while (PEM_read_bio(in.get(), &name, &header, &data, &size) == 1) {
    blocks.push_back({name, Bytes(data, data + size)});
    OPENSSL_free(name);
    OPENSSL_free(header);
    OPENSSL_free(data);
  }
  return blocks;
}

std::string hex_of(ByteView bytes) {
  constexpr std::string_view kDigits = "0123456789abcdef";
  std::string text;
  text.reserve(bytes.size() * 2);
  for (const std::uint8_t byte : bytes) {
    text += kDigits[byte >> 4];
    text += kDigits[byte & 15];
  }
  return text;
}

}  // namespace signing

Result<Certificate> Certificate::from_der(ByteView bytes) {
  const ErrorScope scope;
  Owned<X509> object = parsed(bytes);
  if (object == nullptr) return Error(ErrorCode::malformed, "not a certificate, or a damaged one");
  return Inside<Certificate>::of(std::move(object));
}

Bytes Certificate::der() const { return signing::der_of(impl_->object.get(), i2d_X509); }

std::string Certificate::subject() const {
  return crypto::name_for_people(X509_get_subject_name(impl_->object.get()));
}

std::string Certificate::issuer() const {
  return crypto::name_for_people(X509_get_issuer_name(impl_->object.get()));
}

std::string Certificate::common_name() const {
  const X509_NAME* name = X509_get_subject_name(impl_->object.get());
  const int at = X509_NAME_get_index_by_NID(name, NID_commonName, -1);
  if (at < 0) return subject();
  unsigned char* text = nullptr;
  const int size =
      ASN1_STRING_to_UTF8(&text, X509_NAME_ENTRY_get_data(X509_NAME_get_entry(name, at)));
  if (size < 0) return subject();
  std::string result(text, text + size);
  OPENSSL_free(text);
  return result;
}

std::string Certificate::serial() const {
  const ASN1_INTEGER* number = X509_get0_serialNumber(impl_->object.get());
  const int size = ASN1_STRING_length(number);
  return signing::hex_of({ASN1_STRING_get0_data(number), static_cast<std::size_t>(size)});
}

std::int64_t Certificate::valid_from() const {
  return signing::seconds_of(X509_get0_notBefore(impl_->object.get())).value_or(0);
}

std::int64_t Certificate::valid_until() const {
  return signing::seconds_of(X509_get0_notAfter(impl_->object.get())).value_or(0);
}

bool Certificate::is_self_issued() const {
  return X509_NAME_cmp(X509_get_subject_name(impl_->object.get()),
                       X509_get_issuer_name(impl_->object.get())) == 0;
}

bool Certificate::may_sign() const {
  constexpr std::uint32_t kSigns = KU_DIGITAL_SIGNATURE | KU_NON_REPUDIATION;
  return (X509_get_key_usage(impl_->object.get()) & kSigns) != 0;
}

std::string Certificate::fingerprint() const {
  return signing::hex_of(crypto::digest(crypto::DigestKind::sha256, {der()}));
}

bool Certificate::operator==(const Certificate& other) const {
  return X509_cmp(impl_->object.get(), other.impl_->object.get()) == 0;
}

Result<std::vector<Certificate>> read_certificates(ByteView bytes) {
  const ErrorScope scope;
  std::vector<Certificate> all;
  if (!signing::is_pem(bytes)) {
    LUMVET_TRY(Certificate one, Certificate::from_der(bytes));
    all.push_back(std::move(one));
    return all;
  }
  for (const signing::PemBlock& block : signing::pem_blocks(bytes)) {
    // Trust settings that may stand behind a certificate are another program's.
    const bool allows_rest = block.name == PEM_STRING_X509_TRUSTED;
    if (block.name != PEM_STRING_X509 && !allows_rest) continue;
    Owned<X509> object = parsed(block.der, allows_rest);
    if (object == nullptr)
      return Error(ErrorCode::malformed,
                   "certificate " + std::to_string(all.size() + 1) + " of the file is damaged");
    all.push_back(Inside<Certificate>::of(std::move(object)));
  }
  if (all.empty()) return Error(ErrorCode::malformed, "there is no certificate in it");
  return all;
}

}  // namespace lumvet
