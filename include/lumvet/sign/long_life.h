// SPDX-License-Identifier: Apache-2.0
// Signatures that can still be judged when their certificates have expired: what proves them is put
// into the document, and all of it is stamped with a time (ETSI EN 319 142-1, levels B-LT and
// B-LTA; ISO 32000-2, 12.8.4.3 and 12.8.5). Done again before the last timestamp's certificate
// expires, it holds for as long as one likes.
//
//   const auto opened = lumvet::Document::open("report-signed.pdf").value();
//   lumvet::ProlongRequest request{.trust = trust, .timestamps = stamp};
//   lumvet::prolong(opened, request, "report-kept.pdf").value();
//
// Threads: free functions; documents may be shared. Since: 0.3
#pragma once

#include <functional>

#include "lumvet/sign/verification.h"

namespace lumvet {

// What stands at an address: asked for where the request is empty, or the answer to it, which is an
// OCSP request (RFC 6960, A.1). Errors: io.
using IssuerSource = std::function<Result<Bytes>(const std::string& address, ByteView request)>;

// Fetches what issuers tell of certificates that they took back, for all certificates of a chain of
// which that is not known yet. Gives how many answers were added; an address that does not answer
// is passed over where another one tells of the same certificate. Errors: io, with the last address
// that did not answer.
LUMVET_EXPORT Result<int> fetch_revocations(Trust& trust, const std::vector<Certificate>& chain,
                                            const IssuerSource& issuers,
                                            std::optional<std::int64_t> time = {});

struct ProlongRequest {
  Trust trust = {};
  // Stamps the whole; without it only the material is added.
  TimestampSource timestamps = {};
  SignatureDigest digest = SignatureDigest::sha256;  // of the timestamp
  IssuerSource issuers = {};                         // nothing is fetched without
  std::optional<std::int64_t> time = {};             // seconds since 1970; without it now
};

struct ProlongReport {
  std::filesystem::path path = {};
  std::uint64_t bytes = 0;  // of the file
  // That were added to those that were there.
  int certificates = 0;
  int lists = 0;
  int responses = 0;
  std::string timestamp_field = {};    // empty without a timestamp
  std::vector<Finding> findings = {};  // of signatures that cannot be prolonged, and why
};

// What is added is appended. Errors: invalid_argument for a document without a signature, or where
// nothing would be added; as PendingSignature's; as those who stamp and fetch.
LUMVET_EXPORT Result<ProlongReport> prolong(const Document& document, const ProlongRequest& request,
                                            const std::filesystem::path& path,
                                            const SaveOptions& options = {});
LUMVET_EXPORT Result<ProlongReport> prolong(const Document& document, const ProlongRequest& request,
                                            ByteSink& sink);

}  // namespace lumvet
