// SPDX-License-Identifier: Apache-2.0
// Cells of tables with commas (RFC 4180).
//
// Threads: free functions.
#pragma once

#include <string>
#include <string_view>

namespace lumvet {

// Within quotes where it needs them.
inline std::string csv_cell(std::string_view cell) {
  if (cell.find_first_of("\",\n\r") == std::string_view::npos) return std::string(cell);
  std::string field = "\"";
  for (const char c : cell) field += c == '"' ? "\"\"" : std::string(1, c);
  return field + '"';
}

}  // namespace lumvet
