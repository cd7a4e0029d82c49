// SPDX-License-Identifier: Apache-2.0
// What somebody may have meant who misspelled a word.
//
//   lumvet::nearest_word("heding", {"heading", "paragraph"});   // "heading"
//
// Threads: free functions. Since: 0.2
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "lumvet/base/export.h"

namespace lumvet {

// The word that is nearest by letters left out, put in, changed or swapped; none that is far away.
LUMVET_EXPORT std::optional<std::string> nearest_word(const std::string& word,
                                                      const std::vector<std::string>& known);

}  // namespace lumvet
