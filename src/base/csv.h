// SPDX-License-Identifier: Apache-2.0
// Tables with commas (RFC 4180).
//
// Threads: free functions.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "lumvet/base/result.h"

namespace lumvet {

// Within quotes where it needs them.
inline std::string csv_cell(std::string_view cell) {
  if (cell.find_first_of("\",\n\r") == std::string_view::npos) return std::string(cell);
  std::string field = "\"";
  for (const char c : cell) field += c == '"' ? "\"\"" : std::string(1, c);
  return field + '"';
}

// The lines of a table with their cells; empty lines are none. What stands between cells is told
// from the first line: a comma, a semicolon or a tab. Errors: malformed, with line and column, for
// a quote that is not closed.
Result<std::vector<std::vector<std::string>>> read_csv(std::string_view table);

}  // namespace lumvet
