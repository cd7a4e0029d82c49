// SPDX-License-Identifier: Apache-2.0
// Timestamps of an authority (RFC 3161): asked for, and what came back.
//
// Threads: free functions.
#pragma once

#include "lumvet/sign/signing.h"
#include "sign/certificate_chain.h"

namespace lumvet::signing {

// Room that is left for a token, in bytes; a larger one has the room made anew.
inline constexpr std::size_t kTimestampRoom = 12'288;

// A token for a digest. Errors: as the source's; malformed for what is no response, refuses, or is
// for something else.
Result<Bytes> timestamp_of(ByteView digest, SignatureDigest kind, const TimestampSource& source);

// What a token says and whether it is to be believed. `digest_of` gives the digest of what was
// stamped with a kind of digest by its name, empty for an unknown one.
struct JudgedTimestamp {
  std::int64_t time = 0;    // seconds since 1970
  std::string digest = {};  // "SHA256"
  std::vector<Certificate> chain = {};
  Opinion opinion = {};
};
using DigestOf = std::function<Result<Bytes>(const std::string& digest)>;
// Its authority is judged at seconds since 1970, when the token is proven to have been there, or
// now. Errors: as digest_of's.
Result<JudgedTimestamp> judge_timestamp(ByteView token, const DigestOf& digest_of,
                                        ChainJudge& chains, std::int64_t time, bool is_proven);

}  // namespace lumvet::signing
