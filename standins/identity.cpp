// SPDX-License-Identifier: Apache-2.0
#include "standins/identity.h"

#include <openssl/ec.h>
#include <openssl/ocsp.h>
#include <openssl/pem.h>
#include <openssl/pkcs12.h>
#include <openssl/rand.h>
#include <openssl/rsa.h>
#include <openssl/ts.h>
#include <openssl/x509v3.h>

#include <algorithm>
#include <ctime>
#include <stdexcept>

namespace standins {
namespace {

struct Freed {
  void operator()(EVP_PKEY* key) const { EVP_PKEY_free(key); }
  void operator()(X509* certificate) const { X509_free(certificate); }
  void operator()(X509_CRL* list) const { X509_CRL_free(list); }
  void operator()(BIO* bio) const { BIO_free_all(bio); }
  void operator()(PKCS12* store) const { PKCS12_free(store); }
  void operator()(TS_RESP_CTX* context) const { TS_RESP_CTX_free(context); }
  void operator()(TS_RESP* response) const { TS_RESP_free(response); }
  void operator()(OCSP_BASICRESP* response) const { OCSP_BASICRESP_free(response); }
  void operator()(OCSP_RESPONSE* response) const { OCSP_RESPONSE_free(response); }
};
template <typename T>
using Owned = std::unique_ptr<T, Freed>;

void must(bool is_so, const char* what) {
  if (!is_so) throw std::runtime_error(std::string("stand-in: ") + what);
}

Owned<EVP_PKEY> new_key(KeyKind kind) {
  EVP_PKEY* key = nullptr;
  switch (kind) {
    case KeyKind::p256: key = EVP_EC_gen("P-256"); break;
    case KeyKind::p384: key = EVP_EC_gen("P-384"); break;
    case KeyKind::p521: key = EVP_EC_gen("P-521"); break;
    case KeyKind::ed25519: key = EVP_PKEY_Q_keygen(nullptr, nullptr, "ED25519"); break;
    case KeyKind::rsa_1024: key = EVP_RSA_gen(1024U); break;
    case KeyKind::rsa_2048: key = EVP_RSA_gen(2048U); break;
    case KeyKind::rsa_3072: key = EVP_RSA_gen(3072U); break;
  }
  must(key != nullptr, "no key");
  return Owned<EVP_PKEY>(key);
}

void set_time(ASN1_TIME* into, std::int64_t seconds) {
  ASN1_TIME_set(into, static_cast<std::time_t>(seconds));
}

void add_extension(X509* certificate, X509* issuer, int kind, const std::string& value) {
  if (value.empty()) return;
  X509V3_CTX context;
  X509V3_set_ctx(&context, issuer, certificate, nullptr, nullptr, 0);
  X509_EXTENSION* extension = X509V3_EXT_conf_nid(nullptr, &context, kind, value.c_str());
  must(extension != nullptr, "an extension is wrong");
  X509_add_ext(certificate, extension, -1);
  X509_EXTENSION_free(extension);
}

void set_serial(X509* certificate) {
  unsigned char random[8];
  RAND_bytes(random, sizeof random);
  random[0] = static_cast<unsigned char>((random[0] & 0x7F) | 0x40);
  BIGNUM* number = BN_bin2bn(random, sizeof random, nullptr);
  BN_to_ASN1_INTEGER(number, X509_get_serialNumber(certificate));
  BN_free(number);
}

template <typename T, typename Write>
Bytes der_of(T* object, Write write) {
  unsigned char* out = nullptr;
  const int size = write(object, &out);
  must(size > 0, "nothing was written");
  Bytes bytes(out, out + size);
  OPENSSL_free(out);
  return bytes;
}

std::string text_in(BIO* memory) {
  char* data = nullptr;
  const long size = BIO_get_mem_data(memory, &data);
  return std::string(data, static_cast<std::size_t>(size));
}

Owned<X509> certificate_in(ByteView der) {
  const unsigned char* at = der.data();
  return Owned<X509>(d2i_X509(nullptr, &at, static_cast<long>(der.size())));
}

}  // namespace

struct Identity::Impl {
  Owned<EVP_PKEY> key;
  Owned<X509> certificate;
  std::shared_ptr<const Impl> issuer;  // null of a root

  static std::shared_ptr<const Impl> made(const CertificateRequest& request,
                                          std::shared_ptr<const Impl> issuer, bool is_authority);
  STACK_OF(X509) * issuers(bool with_root) const;
};

std::shared_ptr<const Identity::Impl> Identity::Impl::made(const CertificateRequest& request,
                                                           std::shared_ptr<const Impl> issuer,
                                                           bool is_authority) {
  auto impl = std::make_shared<Impl>();
  impl->key = new_key(request.key);
  impl->certificate.reset(X509_new());
  X509* own = impl->certificate.get();
  X509_set_version(own, X509_VERSION_3);
  set_serial(own);
  set_time(X509_getm_notBefore(own), request.from);
  set_time(X509_getm_notAfter(own), request.until);
  X509_set_pubkey(own, impl->key.get());
  X509_NAME* name = X509_get_subject_name(own);
  const auto add = [&](const char* kind, const std::string& text) {
    X509_NAME_add_entry_by_txt(name, kind, MBSTRING_UTF8,
                               reinterpret_cast<const unsigned char*>(text.c_str()), -1, -1, 0);
  };
  add("O", "Ostrel Valley bridge office");
  add("CN", request.name);
  X509* above = issuer == nullptr ? own : issuer->certificate.get();
  X509_set_issuer_name(own, X509_get_subject_name(above));
  std::string constraints = is_authority ? "critical,CA:TRUE" : "critical,CA:FALSE";
  if (request.path_length >= 0) constraints += ",pathlen:" + std::to_string(request.path_length);
  add_extension(own, above, NID_basic_constraints, constraints);
  const std::string usage = is_authority ? "critical,keyCertSign,cRLSign,digitalSignature"
                                         : "critical,digitalSignature,nonRepudiation";
  add_extension(own, above, NID_key_usage, request.usage.empty() ? usage : request.usage);
  add_extension(own, above, NID_ext_key_usage, request.extended_usage);
  add_extension(own, above, NID_subject_key_identifier, "hash");
  add_extension(own, above, NID_authority_key_identifier, "keyid:always");
  add_extension(own, above, NID_name_constraints, request.name_constraints);
  add_extension(own, above, NID_subject_alt_name, request.alternative_name);
  if (!request.revocation_list.empty())
    add_extension(own, above, NID_crl_distribution_points, "URI:" + request.revocation_list);
  if (!request.responder.empty())
    add_extension(own, above, NID_info_access, "OCSP;URI:" + request.responder);
  EVP_PKEY* signer = issuer == nullptr ? impl->key.get() : issuer->key.get();
  const bool is_ed25519 = EVP_PKEY_is_a(signer, "ED25519") == 1;
  must(X509_sign(own, signer, is_ed25519 ? nullptr : EVP_get_digestbyname(request.digest.c_str())) >
           0,
       "a certificate was not signed");
  impl->issuer = std::move(issuer);
  return impl;
}

STACK_OF(X509) * Identity::Impl::issuers(bool with_root) const {
  STACK_OF(X509)* all = sk_X509_new_null();
  for (const Impl* at = issuer.get(); at != nullptr; at = at->issuer.get())
    if (with_root || at->issuer != nullptr) sk_X509_push(all, at->certificate.get());
  return all;
}

Identity Identity::root(const CertificateRequest& request) {
  return Identity(Impl::made(request, nullptr, true));
}

Identity Identity::issue(const CertificateRequest& request) const {
  return Identity(Impl::made(request, impl_, request.is_authority));
}

Bytes Identity::certificate() const { return der_of(impl_->certificate.get(), i2d_X509); }

std::string Identity::pem() const {
  const Owned<BIO> out(BIO_new(BIO_s_mem()));
  PEM_write_bio_X509(out.get(), impl_->certificate.get());
  return text_in(out.get());
}

std::string Identity::chain_pem() const {
  std::string all;
  for (std::shared_ptr<const Impl> at = impl_; at != nullptr; at = at->issuer)
    all += Identity(at).pem();
  return all;
}

std::string Identity::key_pem() const {
  const Owned<BIO> out(BIO_new(BIO_s_mem()));
  PEM_write_bio_PKCS8PrivateKey(out.get(), impl_->key.get(), nullptr, nullptr, 0, nullptr, nullptr);
  return text_in(out.get());
}

Bytes Identity::pkcs12(const std::string& passphrase) const {
  STACK_OF(X509)* issuers = impl_->issuers(false);
  const Owned<PKCS12> store(PKCS12_create(passphrase.c_str(), "signer", impl_->key.get(),
                                          impl_->certificate.get(), issuers, 0, 0, 0, 0, 0));
  sk_X509_free(issuers);
  must(store != nullptr, "no key file");
  return der_of(store.get(), i2d_PKCS12);
}

Bytes Identity::revocation_list(const std::vector<RevokedCertificate>& revoked, std::int64_t from,
                                std::int64_t until) const {
  const Owned<X509_CRL> list(X509_CRL_new());
  X509_CRL_set_version(list.get(), X509_CRL_VERSION_2);
  X509_CRL_set_issuer_name(list.get(), X509_get_subject_name(impl_->certificate.get()));
  const std::unique_ptr<ASN1_TIME, decltype(&ASN1_TIME_free)> time(ASN1_TIME_new(), ASN1_TIME_free);
  set_time(time.get(), from);
  X509_CRL_set1_lastUpdate(list.get(), time.get());
  set_time(time.get(), until);
  X509_CRL_set1_nextUpdate(list.get(), time.get());
  for (const RevokedCertificate& each : revoked) {
    const Owned<X509> certificate = certificate_in(each.certificate);
    X509_REVOKED* entry = X509_REVOKED_new();
    X509_REVOKED_set_serialNumber(entry, X509_get_serialNumber(certificate.get()));
    set_time(time.get(), each.when);
    X509_REVOKED_set_revocationDate(entry, time.get());
    X509_CRL_add0_revoked(list.get(), entry);
  }
  X509_CRL_sort(list.get());
  must(X509_CRL_sign(list.get(), impl_->key.get(), EVP_sha256()) > 0, "a list was not signed");
  return der_of(list.get(), i2d_X509_CRL);
}

Bytes Identity::timestamp(ByteView request, const StampRequest& how) const {
  Bytes asked(request.begin(), request.end());
  if (how.changes_digest || how.changes_nonce) {
    const unsigned char* at = asked.data();
    TS_REQ* parsed = d2i_TS_REQ(nullptr, &at, static_cast<long>(asked.size()));
    must(parsed != nullptr, "no timestamp request");
    if (how.changes_nonce) {
      ASN1_INTEGER* nonce = ASN1_INTEGER_new();
      ASN1_INTEGER_set(nonce, 4711);
      TS_REQ_set_nonce(parsed, nonce);
      ASN1_INTEGER_free(nonce);
    }
    if (how.changes_digest) {
      const ASN1_OCTET_STRING* digest = TS_MSG_IMPRINT_get_msg(TS_REQ_get_msg_imprint(parsed));
      Bytes other(ASN1_STRING_get0_data(digest),
                  ASN1_STRING_get0_data(digest) + ASN1_STRING_length(digest));
      other[0] ^= 1;
      TS_MSG_IMPRINT_set_msg(TS_REQ_get_msg_imprint(parsed), other.data(),
                             static_cast<int>(other.size()));
    }
    asked = der_of(parsed, i2d_TS_REQ);
    TS_REQ_free(parsed);
  }
  const Owned<TS_RESP_CTX> context(TS_RESP_CTX_new());
  TS_RESP_CTX_set_signer_cert(context.get(), impl_->certificate.get());
  TS_RESP_CTX_set_signer_key(context.get(), impl_->key.get());
  TS_RESP_CTX_set_signer_digest(context.get(), EVP_get_digestbyname(how.digest.c_str()));
  TS_RESP_CTX_set_ess_cert_id_digest(context.get(), EVP_sha256());
  STACK_OF(X509)* issuers = impl_->issuers(false);
  TS_RESP_CTX_set_certs(context.get(), issuers);
  sk_X509_free(issuers);
  ASN1_OBJECT* policy = OBJ_txt2obj("1.3.6.1.4.1.99999.1", 1);
  TS_RESP_CTX_set_def_policy(context.get(), policy);
  ASN1_OBJECT_free(policy);
  if (!how.refuses)
    for (const char* digest : {"SHA256", "SHA384", "SHA512"})
      TS_RESP_CTX_add_md(context.get(), EVP_get_digestbyname(digest));
  std::int64_t when = how.when;
  TS_RESP_CTX_set_time_cb(
      context.get(),
      [](TS_RESP_CTX*, void* given, long* seconds, long* microseconds) {
        *seconds = static_cast<long>(*static_cast<std::int64_t*>(given));
        *microseconds = 0;
        return 1;
      },
      &when);
  TS_RESP_CTX_set_serial_cb(
      context.get(),
      [](TS_RESP_CTX*, void*) {
        ASN1_INTEGER* serial = ASN1_INTEGER_new();
        ASN1_INTEGER_set(serial, 12);
        return serial;
      },
      nullptr);
  const Owned<BIO> in(BIO_new_mem_buf(asked.data(), static_cast<int>(asked.size())));
  const Owned<TS_RESP> response(TS_RESP_create_response(context.get(), in.get()));
  must(response != nullptr, "no timestamp");
  return der_of(response.get(), i2d_TS_RESP);
}

Bytes Identity::status_of(ByteView certificate, bool is_revoked, std::int64_t when) const {
  const Owned<X509> asked = certificate_in(certificate);
  const Owned<OCSP_BASICRESP> basic(OCSP_BASICRESP_new());
  OCSP_CERTID* id = OCSP_cert_to_id(EVP_sha1(), asked.get(), impl_->certificate.get());
  const std::unique_ptr<ASN1_TIME, decltype(&ASN1_TIME_free)> time(
      ASN1_GENERALIZEDTIME_set(nullptr, static_cast<std::time_t>(when)), ASN1_TIME_free);
  OCSP_basic_add1_status(basic.get(), id,
                         is_revoked ? V_OCSP_CERTSTATUS_REVOKED : V_OCSP_CERTSTATUS_GOOD, 0,
                         is_revoked ? time.get() : nullptr, time.get(), nullptr);
  OCSP_CERTID_free(id);
  must(OCSP_basic_sign(basic.get(), impl_->certificate.get(), impl_->key.get(), EVP_sha256(),
                       nullptr, 0) == 1,
       "a status was not signed");
  const Owned<OCSP_RESPONSE> response(
      OCSP_response_create(OCSP_RESPONSE_STATUS_SUCCESSFUL, basic.get()));
  return der_of(response.get(), i2d_OCSP_RESPONSE);
}

}  // namespace standins
