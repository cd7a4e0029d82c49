// SPDX-License-Identifier: Apache-2.0
// Where words can be divided, by the patterns of their language, through libhyphen.
//
// Threads: internally synchronized.
#pragma once

#include <string>
#include <string_view>
#include <vector>

namespace lumvet::draw {

// The units before which a word can be divided; none where there are no patterns for the language
// ("de-AT"; English without one).
std::vector<int> divisions_of(std::u16string_view word, const std::string& language);

}  // namespace lumvet::draw
