// SPDX-License-Identifier: Apache-2.0
// Words in braces that stand for what a page or a row of data says: "{page} of {pages}".
//
// Threads: free functions.
#pragma once

#include <map>
#include <string>

#include "lumvet/base/result.h"

namespace lumvet::compose {

using Fields = std::map<std::string, std::string>;

// With what stands in braces filled in; two of them are one that is meant. Errors: invalid_argument
// for words that mean nothing, with those that do.
Result<std::string> filled(const std::string& text, const Fields& fields);

}  // namespace lumvet::compose
