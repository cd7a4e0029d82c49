// SPDX-License-Identifier: Apache-2.0
// What somebody may have meant who misspelled a word.
#pragma once

#include <optional>
#include <string>
#include <vector>

namespace tool {

// The word that is nearest by letters left out, put in, changed or swapped; none that is far away.
std::optional<std::string> nearest(const std::string& word, const std::vector<std::string>& known);

}  // namespace tool
