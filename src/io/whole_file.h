// SPDX-License-Identifier: Apache-2.0
// All bytes of a file, as those that are used whole are read.
//
// Threads: free functions.
#pragma once

#include <filesystem>

#include "lumvet/io/byte_source.h"

namespace lumvet {

// Errors: io.
inline Result<Bytes> whole_file(const std::filesystem::path& path) {
  LUMVET_TRY(const auto source, open_file_source(path));
  Bytes bytes(source->size());
  LUMVET_RETURN_IF_ERROR(source->read(0, bytes));
  return bytes;
}

}  // namespace lumvet
