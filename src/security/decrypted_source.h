// SPDX-License-Identifier: Apache-2.0
// The bytes of one encrypted stream, decrypted as they are read, at the places where they stand in
// the file. Nothing decrypted is kept.
//
// Threads: immutable, share freely.
#pragma once

#include "lumvet/io/byte_source.h"

namespace lumvet::security {

// RC4: as many bytes as there are encrypted ones.
std::shared_ptr<const ByteSource> rc4_source(std::shared_ptr<const ByteSource> encrypted,
                                             std::uint64_t offset, std::uint64_t length, Bytes key);

// AES in CBC mode: 16 bytes of vector in front, padding at the end (7.6.3.1). Errors: io,
// need_more_data, since the last block has to be read to know the length.
Result<std::shared_ptr<const ByteSource>> aes_source(std::shared_ptr<const ByteSource> encrypted,
                                                     std::uint64_t offset, std::uint64_t length,
                                                     Bytes key);

// One string by the same rules; what is too short to have been encrypted gives nothing.
Bytes aes_decrypted(ByteView key, ByteView bytes);
// The same the other way, with a vector of its own in front. Errors: unsupported.
Result<Bytes> aes_encrypted(ByteView key, ByteView bytes);

}  // namespace lumvet::security
