// SPDX-License-Identifier: Apache-2.0
// A text as it is compared: without what makes no difference, and where each byte of it came from.
//
// Threads: a value.
#pragma once

#include <cstdint>
#include <string>
#include <string_view>
#include <vector>

namespace lumvet::text {

struct Folding {
  bool keeps_case = false;
  bool keeps_accents = false;
};

struct FoldedText {
  std::string text;                   // UTF-8
  std::vector<std::uint32_t> begins;  // of each byte, where what it came from begins
  std::vector<std::uint32_t> ends;    // and ends
};

// Compatible characters become plain ones, white space one blank; soft hyphens, hyphens at the ends
// of lines that small letters follow, and white space beside signs of scripts that write none
// between words (Han, Kana, Thai) are left out.
FoldedText folded(std::string_view text, const Folding& folding);

// Whether a text has a line end at a place, behind a hyphen, and goes on with a small letter.
bool joins_lines(std::string_view text, std::size_t line_end);
// Without the hyphen at its end; as it is where there is none.
std::string_view without_hyphen(std::string_view text);

}  // namespace lumvet::text
