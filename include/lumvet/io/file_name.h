// SPDX-License-Identifier: Apache-2.0
// Names of files out of texts that documents bring along.
//
// Threads: free functions. Since: 0.2
#pragma once

#include <string>
#include <string_view>

#include "lumvet/base/export.h"

namespace lumvet {

// The text, in UTF-8, as a name within a folder: without what some system or other does not allow,
// never hidden, never leading elsewhere, at most 120 bytes long. Empty when nothing is left.
LUMVET_EXPORT std::string safe_file_name(std::string_view text);

}  // namespace lumvet
