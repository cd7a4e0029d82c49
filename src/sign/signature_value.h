// SPDX-License-Identifier: Apache-2.0
// What a signature holds, whatever its form (ISO 32000-2, 12.8.3; ISO 32000-1, 12.8.3.2), read and
// held against what it signs.
//
// Threads: free functions.
#pragma once

#include "sign/signed_message.h"
#include "sign/timestamps.h"

namespace lumvet::signing {

struct SignatureValue {
  SignedMessage::State state = SignedMessage::State::forged;
  std::string digest = {};  // a name of OpenSSL's, "SHA256"; the weakest of several
  std::optional<Certificate> signer = {};
  std::vector<Certificate> certificates = {};
  std::optional<std::int64_t> signing_time = {};  // seconds since 1970
  Bytes signature = {};                           // what a timestamp of it stamps
  Bytes timestamp = {};                           // empty without
};

// `contents` fills the gap; `certificates` stand beside it, in DER, where the form has them there.
// Errors: malformed, with the reason, for what cannot be read; unsupported for other forms; as
// digest_of's.
Result<SignatureValue> signature_value(const std::string& form, ByteView contents,
                                       const std::vector<Bytes>& certificates,
                                       const DigestOf& digest_of);

}  // namespace lumvet::signing
