// SPDX-License-Identifier: Apache-2.0
#include "lumvet/sign/verification.h"

#include <algorithm>
#include <array>
#include <map>
#include <set>

#include "base/attempt.h"
#include "document/inside.h"
#include "sign/ambiguity.h"
#include "sign/byte_range.h"
#include "sign/certificate_inside.h"
#include "sign/clock.h"
#include "sign/digest_names.h"
#include "sign/later_changes.h"
#include "sign/material.h"
#include "sign/signature_claim.h"
#include "sign/signature_value.h"
#include "sign/timestamps.h"

namespace lumvet {
namespace {

using signing::ByteRange;
using signing::Material;
using signing::Opinion;
using signing::SignedMessage;

constexpr std::int64_t kClockTolerance = 300;  // seconds between clocks

struct Found {
  SignatureJudgement judgement;
  ObjectId object;
  Dict dict;
  std::optional<ByteRange> range;
};

class Verification {
 public:
  Verification(const Document& document, const Trust& trust, const Material& material,
               const VerifyOptions& options)
      : document_(document),
        chains_(trust, material.certificates, material.lists, material.responses),
        time_(options.time.value_or(signing::now_in_seconds())),
        brings_material_(!material.certificates.empty()) {
    told_within_.add(material.lists, material.responses);
  }

  Result<std::vector<SignatureJudgement>> run() {
    LUMVET_TRY(revisions_, document_.revisions());
    LUMVET_RETURN_IF_ERROR(collect());
    for (Found& found : found_) LUMVET_RETURN_IF_ERROR(find_range(found));
    std::optional<std::string> ambiguity;
    if (!found_.empty()) {
      LUMVET_TRY(ambiguity, signing::ambiguity_of(document_));
    }
    for (Found& found : found_)
      if (ambiguity) take(found.judgement, {Verdict::unjudged, "AMBIGUOUS_FILE", *ambiguity});
    std::stable_sort(found_.begin(), found_.end(), [](const Found& a, const Found& b) {
      return (a.range ? a.range->end : 0) < (b.range ? b.range->end : 0);
    });
    // Later timestamps prove what was there before, so that the newest is judged first.
    for (auto found = found_.rbegin(); found != found_.rend(); ++found)
      LUMVET_RETURN_IF_ERROR(judge(*found));
    std::vector<SignatureJudgement> all;
    all.reserve(found_.size());
    for (Found& found : found_) all.push_back(std::move(found.judgement));
    return all;
  }

 private:
  static void take(SignatureJudgement& judgement, const Opinion& opinion) {
    // The worst that was found counts; reasons of all are told.
    static constexpr std::array<Verdict, 4> kByWeight = {Verdict::valid, Verdict::untrusted,
                                                         Verdict::unjudged, Verdict::invalid};
    const auto weight = [](Verdict verdict) {
      return std::find(kByWeight.begin(), kByWeight.end(), verdict) - kByWeight.begin();
    };
    if (opinion.verdict == Verdict::valid) return;
    judgement.reasons.push_back(opinion.reason);
    if (weight(opinion.verdict) <= weight(judgement.verdict)) return;
    judgement.verdict = opinion.verdict;
    judgement.sub_indication = opinion.sub_indication;
  }

  Status collect() {
    LUMVET_TRY(const Form form, document_.form());
    std::set<ObjectId> met;
    for (const FormField& field : form.fields) {
      if (!signing::is_signed(field)) continue;
      Found found;
      SignatureJudgement& judgement = found.judgement;
      LUMVET_TRY(static_cast<SignatureClaim&>(judgement), signing::claim_of(document_, field));
      judgement.verdict = Verdict::valid;
      found.object = field.signature.as_reference();
      LUMVET_TRY(const Object signature, document_.resolve(field.signature));
      found.dict = signature.as_dict();
      if (!met.insert(found.object).second)
        take(judgement,
             {Verdict::invalid, "FORMAT_FAILURE", "another field has the same signature"});
      found_.push_back(std::move(found));
    }
    return Done{};
  }

  // Which bytes it signs, and that those are a state of the document in which it stands.
  Status find_range(Found& found) {
    SignatureJudgement& judgement = found.judgement;
    const auto broken = [&](const std::string& why) {
      take(judgement, {Verdict::invalid, "FORMAT_FAILURE", why});
      return Done{};
    };
    if (document_.was_repaired())
      return broken("the file is damaged, and what it shows may be other than what was signed");
    if (found.object == ObjectId()) return broken("the signature is no object of its own");
    const auto range = signing::byte_range_of(document_, found.object, found.dict);
    if (!range.ok()) {
      if (range.error().code() != ErrorCode::malformed) return range.error();
      return broken(range.error().message());
    }
    const std::uint64_t size = document_.file_size();
    judgement.covers_document = range->end == size;
    for (std::size_t i = 0; i < revisions_.size(); ++i) {
      LUMVET_TRY(const bool is_end, is_end_of(revisions_[i].size, range->end));
      if (is_end) judgement.revision = static_cast<int>(i);
    }
    if (judgement.revision < 0)
      return broken("what is signed ends where no state of the document ends");
    LUMVET_TRY(const Document as_signed, revision(judgement.revision));
    LUMVET_TRY(const auto place, as_signed.place_of(found.object));
    LUMVET_TRY(const auto current, document_.place_of(found.object));
    if (!place || !current || place->offset != current->offset)
      return broken("the signature was not there yet in what it signs");
    found.range = *range;
    return Done{};
  }

  // Some programs sign all but the line end behind the last word.
  Result<bool> is_end_of(std::uint64_t revision, std::uint64_t end) const {
    constexpr std::uint64_t kLineEnd = 2;
    if (end > revision || revision - end > kLineEnd) return false;
    LUMVET_TRY(const ByteSlice rest, store_of(document_).source()->slice(end, revision - end));
    return std::all_of(rest.view().begin(), rest.view().end(),
                       [](std::uint8_t c) { return c == '\r' || c == '\n'; });
  }

  Result<Document> revision(int index) {
    if (index + 1 == static_cast<int>(revisions_.size())) return document_;
    if (const auto known = states_.find(index); known != states_.end()) return known->second;
    LUMVET_TRY(Document state, document_.revision(index));
    return states_.emplace(index, std::move(state)).first->second;
  }

  Result<Bytes> digest_of(const ByteRange& range, const std::string& name) {
    const EVP_MD* kind = EVP_get_digestbyname(name.c_str());
    if (kind == nullptr) return Bytes();
    const signing::Own<EVP_MD_CTX> context(EVP_MD_CTX_new());
    EVP_DigestInit_ex(context.get(), kind, nullptr);
    LUMVET_RETURN_IF_ERROR(signing::each_part(document_, range, [&](ByteView part) -> Status {
      EVP_DigestUpdate(context.get(), part.data(), part.size());
      return Done{};
    }));
    Bytes digest(EVP_MAX_MD_SIZE);
    unsigned int size = 0;
    EVP_DigestFinal_ex(context.get(), digest.data(), &size);
    digest.resize(size);
    return digest;
  }

  Status judge(Found& found) {
    SignatureJudgement& judgement = found.judgement;
    if (found.range) {
      LUMVET_RETURN_IF_ERROR(judgement.is_timestamp ? judge_timestamp(found)
                                                    : judge_signature(found));
      LUMVET_RETURN_IF_ERROR(find_changes(found));
    }
    switch (judgement.verdict) {
      case Verdict::valid: judgement.indication = "TOTAL-PASSED"; break;
      case Verdict::invalid:
        judgement.indication =
            judgement.sub_indication.ends_with("NO_POE") ? "INDETERMINATE" : "TOTAL-FAILED";
        break;
      default: judgement.indication = "INDETERMINATE";
    }
    return Done{};
  }

  // When a thing is known to have been there, and whether that is proven.
  struct Moment {
    std::int64_t time;
    bool is_proven;
  };
  Moment moment_of(std::optional<std::int64_t> own = {}) const {
    std::optional<std::int64_t> earliest = own;
    if (proof_ && (!earliest || *proof_ < *earliest)) earliest = proof_;
    return {earliest.value_or(time_), earliest.has_value()};
  }

  Status judge_timestamp(Found& found) {
    SignatureJudgement& judgement = found.judgement;
    const Moment moment = moment_of();
    const std::string_view contents = found.dict["Contents"].as_string();
    const auto token = signing::message_in(as_bytes(contents));
    if (!token.ok()) {
      take(judgement, {Verdict::invalid, "FORMAT_FAILURE", token.error().message()});
      return Done{};
    }
    LUMVET_TRY(
        const signing::JudgedTimestamp judged,
        signing::judge_timestamp(
            *token, [&](const std::string& digest) { return digest_of(*found.range, digest); },
            chains_, moment.time, moment.is_proven));
    judgement.chain = judged.chain;
    judgement.digest = judged.digest;
    judgement.signer = judged.chain.empty() ? "" : judged.chain.front().common_name();
    judgement.claimed_time = judged.time;
    take(judgement, judged.opinion);
    if (judgement.verdict != Verdict::valid) return Done{};
    judgement.proven_time = judged.time;
    proof_ = proof_ ? std::min(*proof_, judged.time) : judged.time;
    return Done{};
  }

  // Certificates that stand beside the signature instead of in it.
  Result<std::vector<Bytes>> certificates_beside(const Dict& signature) {
    LUMVET_TRY(const Object stated, document_.resolve(signature["Cert"]));
    std::vector<Bytes> found;
    const auto add = [&](const Object& string) {
      const ByteView bytes = as_bytes(string.as_string());
      found.emplace_back(bytes.begin(), bytes.end());
    };
    if (stated.is_string()) add(stated);
    for (const Object& each : stated.as_array()) {
      LUMVET_TRY(const Object string, document_.resolve(each));
      add(string);
    }
    return found;
  }

  Status judge_signature(Found& found) {
    SignatureJudgement& judgement = found.judgement;
    LUMVET_TRY(const std::vector<Bytes> beside, certificates_beside(found.dict));
    const auto value = signing::signature_value(
        judgement.form, as_bytes(found.dict["Contents"].as_string()), beside,
        [&](const std::string& name) { return digest_of(*found.range, name); });
    if (!value.ok()) {
      const bool is_damaged = value.error().code() == ErrorCode::malformed;
      if (!is_damaged && value.error().code() != ErrorCode::unsupported) return value.error();
      take(judgement, {is_damaged ? Verdict::invalid : Verdict::unjudged,
                       is_damaged ? "FORMAT_FAILURE" : "GENERIC", value.error().message()});
      return Done{};
    }
    judgement.digest = value->digest;
    if (value->signing_time) judgement.claimed_time = value->signing_time;
    if (value->signer) {
      judgement.chain = {*value->signer};
      judgement.signer = value->signer->common_name();
    }
    take_state(judgement, value->state);
    if (value->state != SignedMessage::State::holds) return Done{};
    LUMVET_RETURN_IF_ERROR(judge_signer(judgement, *value));
    if (judgement.form == "ETSI.CAdES.detached") judgement.level = level_of(judgement);
    return Done{};
  }

  std::string level_of(const SignatureJudgement& judgement) const {
    if (!judgement.proven_time) return "B-B";
    const bool is_lasting = brings_material_ && is_told_within(judgement.chain) &&
                            is_told_within(judgement.timestamp_chain);
    if (!is_lasting) return "B-T";
    return proof_ ? "B-LTA" : "B-LT";
  }

  // Whether the document itself says that nobody took a part of a chain back.
  bool is_told_within(const std::vector<Certificate>& chain) const {
    for (std::size_t i = 0; i + 1 < chain.size(); ++i)
      if (!signing::revocation_places(chain[i]).empty() &&
          !told_within_.of(chain[i], chain[i + 1], 0).is_known)
        return false;
    return true;
  }

  static void take_state(SignatureJudgement& judgement, SignedMessage::State state) {
    using State = SignedMessage::State;
    switch (state) {
      case State::holds: return;
      case State::other_document:
        take(judgement,
             {Verdict::invalid, "HASH_FAILURE", "the document was changed after it was signed"});
        return;
      case State::forged:
        take(judgement, {Verdict::invalid, "SIG_CRYPTO_FAILURE",
                         "the signature was not made with the key of its certificate"});
        return;
      case State::other_signer:
        take(judgement, {Verdict::invalid, "SIG_CONSTRAINTS_FAILURE",
                         "the signature does not say that it is of its certificate"});
        return;
      case State::other_algorithm:
        take(judgement, {Verdict::invalid, "SIG_CONSTRAINTS_FAILURE",
                         "the signature states other algorithms than were signed"});
        return;
      case State::without_signer:
        take(judgement, {Verdict::unjudged, "NO_SIGNING_CERTIFICATE_FOUND",
                         "the certificate of whoever signed is missing"});
        return;
    }
  }

  Status judge_signer(SignatureJudgement& judgement, const signing::SignatureValue& value) {
    std::optional<std::int64_t> stamped;
    if (!value.timestamp.empty()) {
      const Moment moment = moment_of();
      LUMVET_TRY(const signing::JudgedTimestamp judged,
                 signing::judge_timestamp(
                     value.timestamp,
                     [&](const std::string& name) -> Result<Bytes> {
                       return signing::digest_by_name(name, value.signature);
                     },
                     chains_, moment.time, moment.is_proven));
      judgement.timestamp_chain = judged.chain;
      Opinion opinion = judged.opinion;
      // One that nobody answers for, or no more, proves nothing; a forged one is a forgery.
      if (opinion.verdict == Verdict::valid)
        stamped = judged.time;
      else if (opinion.verdict != Verdict::invalid || opinion.sub_indication.ends_with("NO_POE"))
        opinion.verdict = Verdict::unjudged;
      if (opinion.verdict != Verdict::valid)
        opinion.reason = "its timestamp is not to be believed: " + opinion.reason;
      take(judgement, opinion);
      if (stamped && judgement.claimed_time && *stamped + kClockTolerance < *judgement.claimed_time)
        take(judgement, {Verdict::unjudged, "TIMESTAMP_ORDER_FAILURE",
                         "its timestamp is older than the time at which it claims to be made"});
    }
    const Moment moment = moment_of(stamped);
    if (moment.is_proven) judgement.proven_time = moment.time;
    auto judged = chains_.judge(*value.signer, value.certificates, signing::Purpose::signatures,
                                moment.time, moment.is_proven);
    judgement.chain = std::move(judged.chain);
    take(judgement, judged.opinion);
    if (const auto weak = signing::weakness_of(value.digest, moment.time, moment.is_proven))
      take(judgement, *weak);
    return Done{};
  }

  Status find_changes(Found& found) {
    SignatureJudgement& judgement = found.judgement;
    const signing::ChangeRules rules = signing::change_rules(document_, found.dict);
    judgement.certification = rules.certification;
    if (judgement.covers_document || judgement.revision + 1 == static_cast<int>(revisions_.size()))
      return Done{};
    LUMVET_TRY(const Document as_signed, revision(judgement.revision));
    LUMVET_TRY(judgement.changes, signing::later_changes(as_signed, document_, rules));
    const auto worst = std::max_element(
        judgement.changes.begin(), judgement.changes.end(),
        [](const LaterChange& a, const LaterChange& b) { return a.allowed < b.allowed; });
    if (worst == judgement.changes.end() || worst->allowed == LaterChange::Allowed::yes)
      return Done{};
    if (worst->allowed == LaterChange::Allowed::no)
      take(judgement, {Verdict::invalid, "FORBIDDEN_CHANGE",
                       "changed later as it must not be: " + worst->what});
    else
      take(judgement, {Verdict::unjudged, "DOUBTFUL_CHANGE",
                       "changed later in a way that a person has to look at: " + worst->what});
    return Done{};
  }

  const Document& document_;
  signing::ChainJudge chains_;
  std::int64_t time_;
  std::vector<Revision> revisions_;
  std::map<int, Document> states_;
  std::vector<Found> found_;
  signing::Revocations told_within_;  // by what the document brings along
  bool brings_material_;
  std::optional<std::int64_t> proof_;  // of what lies before it in the file
};

}  // namespace

const char* name_of(Verdict verdict) {
  switch (verdict) {
    case Verdict::valid: return "valid";
    case Verdict::untrusted: return "not trusted";
    case Verdict::invalid: return "not valid";
    default: return "cannot be judged";
  }
}

Result<std::vector<SignatureJudgement>> verify_signatures(const Document& document,
                                                          const Trust& trust,
                                                          const VerifyOptions& options) {
  const crypto::ErrorScope scope;
  return attempted([&]() -> Result<std::vector<SignatureJudgement>> {
    LUMVET_TRY(const Material material, signing::material_of(document));
    return Verification(document, trust, material, options).run();
  });
}

}  // namespace lumvet
