// SPDX-License-Identifier: Apache-2.0
#include "sign/certificate_chain.h"

#include <algorithm>
#include <array>
#include <ctime>
#include <set>

#include "crypto/library.h"
#include "sign/certificate_inside.h"
#include "sign/clock.h"
#include "sign/revocations.h"

namespace lumvet::signing {
namespace {

constexpr int kMostChain = 16;

std::string named(const Certificate& certificate) {
  return "the certificate of " + certificate.common_name();
}

bool has_only_other_purposes(X509* certificate, Purpose purpose) {
  const std::unique_ptr<EXTENDED_KEY_USAGE, decltype(&EXTENDED_KEY_USAGE_free)> usage(
      static_cast<EXTENDED_KEY_USAGE*>(
          X509_get_ext_d2i(certificate, NID_ext_key_usage, nullptr, nullptr)),
      EXTENDED_KEY_USAGE_free);
  if (purpose == Purpose::timestamps)
    return usage == nullptr || sk_ASN1_OBJECT_num(usage.get()) != 1 ||
           OBJ_obj2nid(sk_ASN1_OBJECT_value(usage.get(), 0)) != NID_time_stamp;
  if (usage == nullptr) return false;
  // For mail and clients, which people have who sign; for documents (RFC 9336, and what programs
  // used before it).
  static const std::set<std::string> kFitting = {
      "2.5.29.37.0",        "1.3.6.1.5.5.7.3.2",       "1.3.6.1.5.5.7.3.4",
      "1.3.6.1.5.5.7.3.36", "1.3.6.1.4.1.311.10.3.12", "1.2.840.113583.1.1.5"};
  for (int i = 0; i < sk_ASN1_OBJECT_num(usage.get()); ++i) {
    std::array<char, 80> text{};
    OBJ_obj2txt(text.data(), text.size(), sk_ASN1_OBJECT_value(usage.get(), i), 1);
    if (kFitting.contains(text.data())) return false;
  }
  return true;
}

Opinion opinion_of(int error, const Certificate& where, std::int64_t time) {
  switch (error) {
    case X509_V_ERR_UNABLE_TO_GET_ISSUER_CERT:
    case X509_V_ERR_UNABLE_TO_GET_ISSUER_CERT_LOCALLY:
    case X509_V_ERR_UNABLE_TO_VERIFY_LEAF_SIGNATURE:
    case X509_V_ERR_DEPTH_ZERO_SELF_SIGNED_CERT:
    case X509_V_ERR_SELF_SIGNED_CERT_IN_CHAIN:
    case X509_V_ERR_CERT_UNTRUSTED:
      return {Verdict::untrusted, "NO_CERTIFICATE_CHAIN_FOUND",
              "nobody whom you trust answers for " + named(where) +
                  (where.is_self_issued() ? ", which answers for itself" : "")};
    case X509_V_ERR_CERT_HAS_EXPIRED:
      return {Verdict::unjudged, "OUT_OF_BOUNDS_NO_POE",
              named(where) + " was valid until " + day_of(where.valid_until()) +
                  ", and nothing proves that it was used before"};
    case X509_V_ERR_CERT_NOT_YET_VALID:
      return {Verdict::invalid, "NOT_YET_VALID",
              named(where) + " is not valid before " + day_of(where.valid_from()) +
                  ", and is used on " + day_of(time)};
    default:
      return {Verdict::invalid, "CHAIN_CONSTRAINTS_FAILURE",
              named(where) + " is not to be believed: " + X509_verify_cert_error_string(error)};
  }
}

Opinion revoked(const Certificate& certificate, std::int64_t when, std::int64_t time,
                bool is_proven) {
  if (is_proven && time < when) return {};
  return {
      Verdict::invalid, is_proven ? "REVOKED" : "REVOKED_NO_POE",
      named(certificate) + " was taken back on " + day_of(when) +
          (is_proven ? ", before it was used" : ", and nothing proves that it was used before")};
}

}  // namespace

// Until when each was good enough, as ETSI TS 119 312 has it.
std::optional<Opinion> weakness_of(const std::string& digest, std::int64_t time, bool is_proven) {
  static const std::map<std::string, std::int64_t> kUntil = {
      {"MD2", 1'104'537'600},
      {"MD4", 1'104'537'600},
      {"MD5", 1'104'537'600},         // 2005-01-01
      {"SHA1", 1'356'998'400},        // 2013-01-01
      {"RIPEMD160", 1'420'070'400}};  // 2015-01-01
  const auto found = kUntil.find(digest);
  if (found == kUntil.end() || (is_proven && time < found->second)) return std::nullopt;
  return Opinion{Verdict::invalid, "CRYPTO_CONSTRAINTS_FAILURE_NO_POE",
                 "it was made with " + digest + ", which can be forged since " +
                     day_of(found->second).substr(0, 4)};
}

std::optional<Opinion> weakness_of(const Certificate& certificate, std::int64_t time,
                                   bool is_proven) {
  const EVP_PKEY* key = X509_get0_pubkey(x509_of(certificate));
  if (key == nullptr)
    return Opinion{Verdict::unjudged, "CRYPTO_CONSTRAINTS_FAILURE_NO_POE",
                   named(certificate) + " has a key of a kind that is not known"};
  constexpr std::int64_t k2014 = 1'388'534'400;
  constexpr int kLeastBits = 2048;
  constexpr int kOldBits = 1024;
  if (EVP_PKEY_is_a(key, "RSA") != 1 || EVP_PKEY_get_bits(key) >= kLeastBits) return std::nullopt;
  if (EVP_PKEY_get_bits(key) >= kOldBits && is_proven && time < k2014) return std::nullopt;
  return Opinion{Verdict::invalid, "CRYPTO_CONSTRAINTS_FAILURE_NO_POE",
                 named(certificate) + " has a key of " + std::to_string(EVP_PKEY_get_bits(key)) +
                     " bits, which can be broken"};
}

ChainJudge::ChainJudge(const Trust& trust, std::vector<Certificate> others,
                       const std::vector<Bytes>& lists, const std::vector<Bytes>& responses)
    : store_(X509_STORE_new()), anchors_(trust.anchors), others_(std::move(others)) {
  for (const Certificate& anchor : anchors_) X509_STORE_add_cert(store_.get(), x509_of(anchor));
  revocations_.add(lists, responses);
  revocations_.add(trust.revocation_lists, trust.responses);
}

bool ChainJudge::is_anchor(const Certificate& certificate) const {
  return std::find(anchors_.begin(), anchors_.end(), certificate) != anchors_.end();
}

ChainJudge::Judged ChainJudge::judge(const Certificate& certificate,
                                     const std::vector<Certificate>& beside, Purpose purpose,
                                     std::int64_t time, bool is_proven) {
  const Key key{certificate.fingerprint(), purpose, time, is_proven};
  if (const auto known = known_.find(key); known != known_.end()) return known->second;
  const crypto::ErrorScope scope;
  return known_.emplace(key, judge_anew(certificate, beside, purpose, time, is_proven))
      .first->second;
}

ChainJudge::Judged ChainJudge::judge_anew(const Certificate& certificate,
                                          const std::vector<Certificate>& beside, Purpose purpose,
                                          std::int64_t time, bool is_proven) {
  ++chains_built_;
  Own<STACK_OF(X509)> helpers(sk_X509_new_null());
  for (const Certificate& each : beside) sk_X509_push(helpers.get(), x509_of(each));
  for (const Certificate& each : others_) sk_X509_push(helpers.get(), x509_of(each));
  const Own<X509_STORE_CTX> context(X509_STORE_CTX_new_ex(crypto::library(), nullptr));
  X509_STORE_CTX_init(context.get(), store_.get(), x509_of(certificate), helpers.get());
  X509_VERIFY_PARAM* how = X509_STORE_CTX_get0_param(context.get());
  X509_VERIFY_PARAM_set_flags(how, X509_V_FLAG_PARTIAL_CHAIN);
  X509_VERIFY_PARAM_set_time(how, static_cast<std::time_t>(time));
  X509_VERIFY_PARAM_set_depth(how, kMostChain);
  X509_VERIFY_PARAM_set_auth_level(how, 0);  // weak algorithms are judged by their time
  const bool holds = X509_verify_cert(context.get()) == 1;

  Judged judged;
  STACK_OF(X509)* chain = X509_STORE_CTX_get0_chain(context.get());
  for (int i = 0; i < sk_X509_num(chain); ++i)
    judged.chain.push_back(certificate_of(sk_X509_value(chain, i)));
  if (judged.chain.empty()) judged.chain.push_back(certificate);
  if (!holds) {
    const int at = std::clamp(X509_STORE_CTX_get_error_depth(context.get()), 0,
                              static_cast<int>(judged.chain.size()) - 1);
    judged.opinion = opinion_of(X509_STORE_CTX_get_error(context.get()),
                                judged.chain[static_cast<std::size_t>(at)], time);
    return judged;
  }
  if (!certificate.may_sign() || has_only_other_purposes(x509_of(certificate), purpose)) {
    judged.opinion = {Verdict::invalid, "SIG_CONSTRAINTS_FAILURE",
                      named(certificate) + " is for other purposes"};
    return judged;
  }
  for (std::size_t i = 0; i < judged.chain.size(); ++i) {
    const Certificate& each = judged.chain[i];
    if (const auto weak = weakness_of(each, time, is_proven)) {
      judged.opinion = *weak;
      return judged;
    }
    if (is_anchor(each) || i + 1 == judged.chain.size()) break;
    int digest = NID_undef;
    X509_get_signature_info(x509_of(each), &digest, nullptr, nullptr, nullptr);
    if (const auto weak =
            weakness_of(digest == NID_undef ? "" : OBJ_nid2sn(digest), time, is_proven)) {
      judged.opinion = *weak;
      judged.opinion.reason = named(each) + " is not to be believed: " + weak->reason;
      return judged;
    }
    if (auto opinion = revocation_of(each, judged.chain[i + 1], time, is_proven)) {
      judged.opinion = std::move(*opinion);
      return judged;
    }
  }
  return judged;
}

std::optional<Opinion> ChainJudge::revocation_of(const Certificate& certificate,
                                                 const Certificate& issuer, std::int64_t time,
                                                 bool is_proven) const {
  const Revocation told = revocations_.of(certificate, issuer, time);
  if (told.when) {
    Opinion opinion = revoked(certificate, *told.when, time, is_proven);
    if (opinion.verdict != Verdict::valid) return opinion;
  }
  if (told.is_known || revocation_places(certificate).empty()) return std::nullopt;
  return Opinion{Verdict::unjudged, "TRY_LATER",
                 "whether " + named(certificate) +
                     " was taken back is not known; its issuer says where that is told"};
}

}  // namespace lumvet::signing
