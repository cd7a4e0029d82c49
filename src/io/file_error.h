// SPDX-License-Identifier: Apache-2.0
#pragma once

#include <cstring>
#include <filesystem>
#include <string>

#include "lumvet/base/error.h"

namespace lumvet::io {

// "cannot write a.pdf: No space left on device"; `reason` is an errno.
inline Error cannot(const char* what, const std::filesystem::path& path, int reason) {
  return Error(ErrorCode::io,
               std::string("cannot ") + what + " " + path.string() + ": " + std::strerror(reason));
}

}  // namespace lumvet::io
