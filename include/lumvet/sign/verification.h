// SPDX-License-Identifier: Apache-2.0
// Signatures judged, by ETSI EN 319 102-1: whether they are whole, who made them and when, whether
// that is to be believed, and what was changed since.
//
//   const auto opened = lumvet::Document::open("report-signed.pdf").value();
//   for (const auto& signature : lumvet::verify_signatures(opened, trust).value())
//     std::cout << signature.signer << ": " << lumvet::name_of(signature.verdict) << '\n';
//
// Nothing is fetched: what is known of certificates that were taken back stands in the document, or
// is given. Threads: free functions; documents may be shared. Since: 0.3
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "lumvet/document/document.h"
#include "lumvet/sign/signing.h"
#include "lumvet/sign/trust.h"

namespace lumvet {

enum class Verdict {
  valid,      // whole, and made by somebody whom the anchors answer for
  untrusted,  // whole, but nobody known answers for who made it
  invalid,    // broken, forged, or changed as it must not be
  unjudged,   // something is missing to say
};
// "valid", "not trusted", "not valid", "cannot be judged".
LUMVET_EXPORT const char* name_of(Verdict verdict);

// Something that is other than it was when it was signed.
struct LaterChange {
  enum class Kind {
    page,        // what a page shows, or which pages there are
    field,       // filled in, or made, or taken away
    annotation,  // a mark on a page
    signature,   // a further one, or a timestamp
    material,    // certificates and lists that prove signatures (12.8.4.3)
    properties,
    other,
  };
  enum class Allowed {
    yes,
    doubtful,  // a person has to look: what was added can pass for what was signed
    no,
  };
  Kind kind = Kind::other;
  Allowed allowed = Allowed::yes;
  std::optional<int> page = {};  // from 0
  std::string what = {};         // "field gap.width was filled in"
};

// What a signature says of itself, which anybody can write.
struct SignatureClaim {
  std::string field = {};
  bool is_timestamp = false;  // of the whole document, by an authority
  std::string name = {};      // UTF-8, as all texts
  std::string reason = {};
  std::string place = {};
  std::string contact = {};
  std::string form = {};                          // its /SubFilter
  std::optional<std::int64_t> claimed_time = {};  // seconds since 1970; of the signer's clock
};

struct SignatureJudgement : SignatureClaim {
  Verdict verdict = Verdict::unjudged;
  // EN 319 102-1, table 5 and 6: "TOTAL-PASSED", "INDETERMINATE", "TOTAL-FAILED", and why.
  std::string indication = {};
  std::string sub_indication = {};
  std::vector<std::string> reasons = {};  // sentences for people; none when it is valid

  std::string signer = {};  // the common name of the certificate
  std::string digest = {};  // "SHA256"
  // "B-B", "B-T", "B-LT" or "B-LTA" of EN 319 142-1, where it is whole; empty for other forms.
  std::string level = {};
  std::vector<Certificate> chain = {};            // the signer's first, as far as it was found
  std::vector<Certificate> timestamp_chain = {};  // of the authority that stamped the signature
  std::optional<std::int64_t> proven_time = {};   // by a timestamp that is to be believed
  // What it may allow to be changed later.
  Certification certification = Certification::none;

  int revision = -1;             // of Document::revisions(); -1 when it signs none
  bool covers_document = false;  // no byte follows what it signs
  std::vector<LaterChange> changes = {};
};

struct VerifyOptions {
  // Seconds since 1970, where nothing proves when something was signed; without it now.
  std::optional<std::int64_t> time = {};
};

// What the signatures of a document say, unjudged, in the order of their fields. Errors: io,
// need_more_data, limit.
LUMVET_EXPORT Result<std::vector<SignatureClaim>> list_signatures(const Document& document);

// All signatures, in the order in which they were made. Errors: io, need_more_data, limit.
LUMVET_EXPORT Result<std::vector<SignatureJudgement>> verify_signatures(
    const Document& document, const Trust& trust, const VerifyOptions& options = {});

}  // namespace lumvet
