// SPDX-License-Identifier: Apache-2.0
#include "page_area.h"

#include <charconv>
#include <vector>

namespace tool {

lumvet::Result<AreaOfPage> page_area(const std::string& option, const std::string& text) {
  const lumvet::Error wrong(
      lumvet::ErrorCode::invalid_argument,
      option + " takes PAGE:left,top,width,height in points, not '" + text + "'");
  std::vector<double> numbers;
  const char* at = text.data();
  const char* const end = text.data() + text.size();
  while (at < end) {
    double number = 0;
    const auto read = std::from_chars(at, end, number);
    if (read.ec != std::errc()) return wrong;
    numbers.push_back(number);
    at = read.ptr;
    if (at == end) break;
    if (*at != (numbers.size() == 1 ? ':' : ',')) return wrong;
    ++at;
  }
  if (numbers.size() != 5 || !(numbers[0] >= 1) || !(numbers[0] < 1e9) || !(numbers[3] > 0) ||
      !(numbers[4] > 0))
    return wrong;
  return AreaOfPage{static_cast<int>(numbers[0]) - 1,
                    {numbers[1], numbers[2], numbers[3], numbers[4]}};
}

}  // namespace tool
