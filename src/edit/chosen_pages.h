// SPDX-License-Identifier: Apache-2.0
// Pages as they are named for a step, and told in words.
//
// Threads: free functions.
#pragma once

#include <string>
#include <vector>

#include "lumvet/assemble/page_selection.h"

namespace lumvet::editing {

inline std::string pages_of(std::size_t count) {
  return std::to_string(count) + (count == 1 ? " page" : " pages");
}

// In the selection's order, with a page that it names twice. Errors: invalid_argument when it names
// none.
inline Result<std::vector<int>> named_pages(const PageSelection& pages, int count) {
  LUMVET_TRY(std::vector<int> named, pages.in(count));
  if (named.empty())
    return Error(ErrorCode::invalid_argument,
                 "the selection names none of the " + pages_of(static_cast<std::size_t>(count)));
  return named;
}

// Each once.
inline Result<std::vector<int>> chosen_pages(const PageSelection& pages, int count) {
  LUMVET_TRY(const std::vector<int> named, named_pages(pages, count));
  std::vector<int> once;
  std::vector<bool> met(static_cast<std::size_t>(count));
  for (const int page : named) {
    if (!met[static_cast<std::size_t>(page)]) once.push_back(page);
    met[static_cast<std::size_t>(page)] = true;
  }
  return once;
}

inline Status is_place(int before, int count) {
  if (before >= 0 && before <= count) return Done{};
  return Error(ErrorCode::invalid_argument, "there is no place before page " +
                                                std::to_string(before + 1) + "; there are " +
                                                pages_of(static_cast<std::size_t>(count)));
}

inline std::vector<bool> marks_of(const std::vector<int>& pages, int count) {
  std::vector<bool> marks(static_cast<std::size_t>(count));
  for (const int page : pages) marks[static_cast<std::size_t>(page)] = true;
  return marks;
}

}  // namespace lumvet::editing
