// SPDX-License-Identifier: Apache-2.0
#include "lengths.h"

#include <charconv>
#include <cmath>
#include <map>

namespace tool {

lumvet::Result<double> parse_length(const std::string& text, BareLength bare) {
  static const std::map<std::string, double> kPoints = {
      {"mm", 72 / 25.4}, {"cm", 720 / 25.4}, {"in", 72}, {"pt", 1}};
  double number = 0;
  const char* end = text.data() + text.size();
  const auto read = std::from_chars(text.data(), end, number);
  const std::string stated(read.ptr, end);
  const auto unit =
      kPoints.find(!stated.empty() ? stated : (bare == BareLength::points ? "pt" : "mm"));
  if (read.ec != std::errc() || unit == kPoints.end() || !std::isfinite(number))
    return lumvet::Error(lumvet::ErrorCode::invalid_argument,
                         "'" + text + "' is not a length; write 12mm, 1.5cm, 30pt or 2in");
  return number * unit->second;
}

}  // namespace tool
