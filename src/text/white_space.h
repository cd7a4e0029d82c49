// SPDX-License-Identifier: Apache-2.0
// Texts in lines as one line.
//
// Threads: free functions.
#pragma once

#include <string>
#include <string_view>

namespace lumvet::text {

// One blank for each stretch of blanks, tabs and line ends.
inline std::string with_single_blanks(std::string_view text) {
  std::string line;
  for (const char c : text) {
    const bool is_white = c == ' ' || c == '\n' || c == '\t' || c == '\r';
    if (!is_white)
      line += c;
    else if (line.empty() || line.back() != ' ')
      line += ' ';
  }
  return line;
}

inline std::string_view without_blanks_around(std::string_view text) {
  while (text.starts_with(' ')) text.remove_prefix(1);
  while (text.ends_with(' ')) text.remove_suffix(1);
  return text;
}

inline std::string in_one_line(std::string_view text) {
  return std::string(without_blanks_around(with_single_blanks(text)));
}

}  // namespace lumvet::text
