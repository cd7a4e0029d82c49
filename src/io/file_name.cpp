// SPDX-License-Identifier: Apache-2.0
#include "lumvet/io/file_name.h"

namespace lumvet {

std::string safe_file_name(std::string_view text) {
  std::string safe;
  for (const char c : text) {
    const bool is_bad = c == ' ' || static_cast<unsigned char>(c) < ' ' || c == 0x7F ||
                        std::string_view("/\\:*?\"<>|").find(c) != std::string_view::npos;
    if (!is_bad)
      safe += c;
    else if (!safe.empty() && safe.back() != ' ')
      safe += ' ';
  }
  // Short enough for every system, and not in the middle of a character.
  constexpr std::size_t kLongest = 120;  // bytes
  if (safe.size() > kLongest) {
    std::size_t end = kLongest;
    while (end > 0 && (static_cast<unsigned char>(safe[end]) & 0xC0) == 0x80) --end;
    safe.resize(end);
  }
  while (!safe.empty() && (safe.front() == ' ' || safe.front() == '.')) safe.erase(0, 1);
  while (!safe.empty() && (safe.back() == ' ' || safe.back() == '.')) safe.pop_back();
  return safe;
}

}  // namespace lumvet
