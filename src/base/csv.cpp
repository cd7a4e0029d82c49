// SPDX-License-Identifier: Apache-2.0
#include "base/csv.h"

#include <algorithm>

#include "base/text_place.h"

namespace lumvet {
namespace {

// Which of the usual ones the first line has most of, outside of quotes.
char separator_of(std::string_view table) {
  std::size_t counts[3] = {};
  constexpr std::string_view kKnown = ",;\t";
  bool is_quoted = false;
  for (const char c : table) {
    if (c == '"') is_quoted = !is_quoted;
    if (c == '\n' && !is_quoted) break;
    if (const std::size_t which = kKnown.find(c); which != std::string_view::npos && !is_quoted)
      ++counts[which];
  }
  return kKnown[static_cast<std::size_t>(std::max_element(counts, counts + 3) - counts)];
}

}  // namespace

Result<std::vector<std::vector<std::string>>> read_csv(std::string_view table) {
  if (table.starts_with("\xEF\xBB\xBF")) table.remove_prefix(3);
  const char separator = separator_of(table);
  std::vector<std::vector<std::string>> lines;
  std::vector<std::string> line;
  std::string cell;
  std::size_t opened = 0;
  bool is_quoted = false;
  const auto end_line = [&] {
    line.push_back(std::move(cell));
    cell.clear();
    if (line.size() > 1 || !line[0].empty()) lines.push_back(std::move(line));
    line.clear();
  };
  for (std::size_t at = 0; at < table.size(); ++at) {
    const char c = table[at];
    if (is_quoted) {
      const bool is_doubled = c == '"' && at + 1 < table.size() && table[at + 1] == '"';
      if (c == '"' && !is_doubled)
        is_quoted = false;
      else
        cell += c;
      if (is_doubled) ++at;
    } else if (c == '"' && cell.empty()) {
      is_quoted = true;
      opened = at;
    } else if (c == separator) {
      line.push_back(std::move(cell));
      cell.clear();
    } else if (c == '\n') {
      end_line();
    } else if (c != '\r') {
      cell += c;
    }
  }
  if (is_quoted)
    return Error(ErrorCode::malformed, text_place(table, opened) + ": this quote is not closed");
  if (!cell.empty() || !line.empty()) end_line();
  return lines;
}

}  // namespace lumvet
