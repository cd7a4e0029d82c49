// SPDX-License-Identifier: Apache-2.0
// Lines as they are seen, from left to right, put into the order in which they are read (UAX #9).
//
// Threads: free functions.
#pragma once

#include <cstddef>
#include <string>
#include <string_view>
#include <vector>

namespace lumvet::text {

// Whether any of it is written from right to left.
bool has_right_to_left(std::u32string_view characters);
bool is_right_to_left(char32_t character);

// Whether at least half of what has a direction goes left.
bool mostly_goes_left(std::u32string_view characters);

// Of each place in reading order, the place in `seen`. The line as a whole goes the way that most
// of its letters go.
std::vector<std::size_t> order_of_reading(const std::u32string& seen);

}  // namespace lumvet::text
