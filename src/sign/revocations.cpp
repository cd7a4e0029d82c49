// SPDX-License-Identifier: Apache-2.0
#include "sign/revocations.h"

#include <algorithm>

#include "sign/certificate_inside.h"

namespace lumvet::signing {
namespace {

void add_address(const GENERAL_NAME* name, std::vector<std::string>& into) {
  if (name == nullptr || name->type != GEN_URI) return;
  const ASN1_IA5STRING* text = name->d.uniformResourceIdentifier;
  into.emplace_back(reinterpret_cast<const char*>(ASN1_STRING_get0_data(text)),
                    static_cast<std::size_t>(ASN1_STRING_length(text)));
}

// Signed by the issuer, or by somebody whom it lets answer.
bool is_answer_of(OCSP_BASICRESP* response, const Certificate& issuer) {
  const Own<X509_STORE> store(X509_STORE_new());
  X509_STORE_add_cert(store.get(), x509_of(issuer));
  X509_STORE_set_flags(store.get(), X509_V_FLAG_PARTIAL_CHAIN | X509_V_FLAG_NO_CHECK_TIME);
  const Own<STACK_OF(X509)> helpers(sk_X509_new_null());
  sk_X509_push(helpers.get(), x509_of(issuer));
  return OCSP_basic_verify(response, helpers.get(), store.get(), 0) == 1;
}

bool is_list_of(X509_CRL* list, const Certificate& issuer) {
  X509* object = x509_of(issuer);
  return X509_NAME_cmp(X509_CRL_get_issuer(list), X509_get_subject_name(object)) == 0 &&
         (X509_get_key_usage(object) & KU_CRL_SIGN) != 0 &&
         X509_CRL_verify(list, X509_get0_pubkey(object)) == 1;
}

}  // namespace

void Revocations::add(const std::vector<Bytes>& lists, const std::vector<Bytes>& responses) {
  for (const Bytes& list : lists) add_list(list);
  for (const Bytes& response : responses) add_response(response);
}

void Revocations::add_list(ByteView der) {
  const unsigned char* at = der.data();
  lists_.emplace_back(d2i_X509_CRL(nullptr, &at, static_cast<long>(der.size())));
}

void Revocations::add_response(ByteView der) {
  const unsigned char* at = der.data();
  const Own<OCSP_RESPONSE> read(d2i_OCSP_RESPONSE(nullptr, &at, static_cast<long>(der.size())));
  responses_.emplace_back(read == nullptr ? nullptr : OCSP_response_get1_basic(read.get()));
}

Revocation Revocations::of(const Certificate& certificate, const Certificate& issuer,
                           std::int64_t time) const {
  const crypto::ErrorScope scope;
  X509* own = x509_of(certificate);
  Revocation told;
  const auto take = [&](std::optional<std::int64_t> when) {
    told.is_known = true;
    if (when) told.when = std::min(told.when.value_or(*when), *when);
  };
  for (std::size_t i = 0; i < lists_.size(); ++i) {
    X509_CRL* list = lists_[i].get();
    if (list == nullptr || !is_list_of(list, issuer)) continue;
    // One that is older than the signature does not know what was taken back since.
    const auto until = seconds_of(X509_CRL_get0_nextUpdate(list));
    if (until && *until < time) continue;
    told.lists.push_back(i);
    X509_REVOKED* entry = nullptr;
    const bool is_in = X509_CRL_get0_by_serial(list, &entry, X509_get0_serialNumber(own)) == 1;
    take(is_in ? std::optional(seconds_of(X509_REVOKED_get0_revocationDate(entry)).value_or(0))
               : std::nullopt);
  }
  for (std::size_t i = 0; i < responses_.size(); ++i) {
    OCSP_BASICRESP* response = responses_[i].get();
    if (response == nullptr) continue;
    const Own<OCSP_CERTID> id(OCSP_cert_to_id(nullptr, own, x509_of(issuer)));
    int status = 0;
    int reason = 0;
    ASN1_GENERALIZEDTIME* when = nullptr;
    ASN1_GENERALIZEDTIME* until = nullptr;
    if (OCSP_resp_find_status(response, id.get(), &status, &reason, &when, nullptr, &until) != 1 ||
        status == V_OCSP_CERTSTATUS_UNKNOWN || !is_answer_of(response, issuer))
      continue;
    const auto last = seconds_of(until);
    if (last && *last < time) continue;
    told.responses.push_back(i);
    take(status == V_OCSP_CERTSTATUS_REVOKED ? std::optional(seconds_of(when).value_or(0))
                                             : std::nullopt);
  }
  return told;
}

RevocationPlaces revocation_places(const Certificate& certificate) {
  const crypto::ErrorScope scope;
  RevocationPlaces places;
  X509* own = x509_of(certificate);
  const std::unique_ptr<CRL_DIST_POINTS, decltype(&CRL_DIST_POINTS_free)> points(
      static_cast<CRL_DIST_POINTS*>(
          X509_get_ext_d2i(own, NID_crl_distribution_points, nullptr, nullptr)),
      CRL_DIST_POINTS_free);
  for (int i = 0; i < sk_DIST_POINT_num(points.get()); ++i) {
    const DIST_POINT_NAME* name = sk_DIST_POINT_value(points.get(), i)->distpoint;
    if (name == nullptr || name->type != 0) continue;
    for (int k = 0; k < sk_GENERAL_NAME_num(name->name.fullname); ++k)
      add_address(sk_GENERAL_NAME_value(name->name.fullname, k), places.lists);
  }
  const std::unique_ptr<AUTHORITY_INFO_ACCESS, decltype(&AUTHORITY_INFO_ACCESS_free)> access(
      static_cast<AUTHORITY_INFO_ACCESS*>(X509_get_ext_d2i(own, NID_info_access, nullptr, nullptr)),
      AUTHORITY_INFO_ACCESS_free);
  for (int i = 0; i < sk_ACCESS_DESCRIPTION_num(access.get()); ++i) {
    const ACCESS_DESCRIPTION* each = sk_ACCESS_DESCRIPTION_value(access.get(), i);
    if (OBJ_obj2nid(each->method) == NID_ad_OCSP) add_address(each->location, places.responders);
  }
  return places;
}

Bytes status_request(const Certificate& certificate, const Certificate& issuer) {
  const std::unique_ptr<OCSP_REQUEST, decltype(&OCSP_REQUEST_free)> request(OCSP_REQUEST_new(),
                                                                            OCSP_REQUEST_free);
  // The request owns it then.
  OCSP_request_add0_id(request.get(),
                       OCSP_cert_to_id(nullptr, x509_of(certificate), x509_of(issuer)));
  return der_of(request.get(), i2d_OCSP_REQUEST);
}

}  // namespace lumvet::signing
