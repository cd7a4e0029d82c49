// SPDX-License-Identifier: Apache-2.0
// A signature as a message of the cryptographic message syntax (RFC 5652), detached from what it
// signs: the attributes that the key signs, and the whole around them.
//
// Threads: free functions.
#pragma once

#include <optional>
#include <vector>

#include "lumvet/sign/signing_key.h"

namespace lumvet::signing {

struct MessageParts {
  std::vector<Certificate> chain = {};  // the signer's first
  SignatureScheme scheme = SignatureScheme::rsa_pkcs1;
  SignatureDigest digest = SignatureDigest::sha256;
  Bytes document_digest = {};
  // Seconds since 1970. Signatures by EN 319 142-1 have none; it stands in the document.
  std::optional<std::int64_t> signing_time = {};
};

// A SET OF, in DER: what the key signs (5.4). With signing-certificate-v2 (RFC 5035) and the
// protection of algorithms (RFC 6211).
Bytes signed_attributes(const MessageParts& parts);
// The whole, with a timestamp of the signature where there is one (RFC 3161, appendix A).
Bytes message_of(const MessageParts& parts, ByteView attributes, ByteView signature,
                 ByteView timestamp = {});

}  // namespace lumvet::signing
