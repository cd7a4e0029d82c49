// SPDX-License-Identifier: Apache-2.0
// Whom one trusts: certificates that are believed as they are, and what is known of those that were
// taken back.
//
//   lumvet::Trust trust;
//   trust.add(bytes).value();               // anchors.pem: certificates, and lists beside them
//   trust.add_revocations(list).value();
//
// Threads: values; const methods may run concurrently. Since: 0.3
#pragma once

#include <vector>

#include "lumvet/sign/certificate.h"

namespace lumvet {

struct LUMVET_EXPORT Trust {
  std::vector<Certificate> anchors = {};
  std::vector<Bytes> revocation_lists = {};  // DER (RFC 5280, 5)
  std::vector<Bytes> responses = {};         // of OCSP responders, DER (RFC 6960)

  // All that a file holds, in DER or PEM: its certificates become anchors. Errors: malformed when
  // there is nothing of the kind, or something is damaged.
  Status add(ByteView bytes);
  // Lists or a response, in DER or PEM. Errors: as add's.
  Status add_revocations(ByteView bytes);
};

}  // namespace lumvet
