// SPDX-License-Identifier: Apache-2.0
// Whether a signature was made with the key of a certificate.
//
// Threads: free functions.
#pragma once

#include "lumvet/sign/signing_key.h"

namespace lumvet::signing {

bool is_signed_by(const Certificate& signer, SignatureScheme scheme, SignatureDigest digest,
                  ByteView bytes, ByteView signature);
// The scheme of a certificate's key. Errors: unsupported for keys of other kinds.
Result<SignatureScheme> scheme_of(const Certificate& signer);
// How many bytes a signature of its key has at most.
std::size_t most_signature_bytes(const Certificate& signer);

}  // namespace lumvet::signing
