// SPDX-License-Identifier: Apache-2.0
// Files that grow at their end, whole or not at all.
//
// Threads: free functions.
#pragma once

#include "lumvet/io/byte_sink.h"

namespace lumvet::io {

// Puts bytes behind a file that has `size` bytes, and on disk. A copy with them behind it takes the
// file's name, so that whatever happens, the end of the program and of the power too, the file is
// as it was or has all of them, and who reads it meanwhile sees the one or the other. Other names
// of it (hard links) stay with the file as it was. A lock (flock) on the file keeps others that do
// the same from beginning meanwhile. Errors: io, also while somebody has that lock;
// invalid_argument when it has another size, or somebody changed it meanwhile.
Status append_bytes(const std::filesystem::path& path, std::uint64_t size, ByteView bytes);

}  // namespace lumvet::io
