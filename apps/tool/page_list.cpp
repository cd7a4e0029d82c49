// SPDX-License-Identifier: Apache-2.0
#include "page_list.h"

namespace tool {

std::string pages_for_people(const std::vector<int>& pages) {
  const std::string first = std::to_string(pages.front() + 1);
  if (pages.size() == 1) return "page " + first;
  const std::string last = std::to_string(pages.back() + 1);
  const bool is_range = pages.back() - pages.front() == static_cast<int>(pages.size()) - 1;
  if (is_range) return "pages " + first + "-" + last;
  const std::string second = std::to_string(pages[1] + 1);
  constexpr std::size_t kThree = 3;
  if (pages.size() < kThree) return "pages " + first + " and " + last;
  return "pages " + first + ", " + second + (pages.size() == kThree ? " and " : ", … ") + last;
}

}  // namespace tool
