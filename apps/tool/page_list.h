// SPDX-License-Identifier: Apache-2.0
// Pages as they are told to people.
#pragma once

#include <string>
#include <vector>

namespace tool {

// "page 7", "pages 1-4", "pages 1, 3, … 21": of indices from 0, of which there is one at least.
std::string pages_for_people(const std::vector<int>& pages);

}  // namespace tool
