// SPDX-License-Identifier: Apache-2.0
// Letters and accents that were drawn one over the other, put together; ligatures taken apart.
//
// Threads: free functions.
#pragma once

#include <string>
#include <string_view>

#include "text/letters.h"

namespace lumvet::text {

// An accent that stands over or under a letter, drawn before or after it, becomes part of it.
void compose_accents(Direction& direction);

// Ligatures of Latin and Armenian and the forms of Arabic letters as the letters they stand for;
// the rest as it is.
std::string without_ligatures(std::string_view characters);

}  // namespace lumvet::text
