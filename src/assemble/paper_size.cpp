// SPDX-License-Identifier: Apache-2.0
// Sizes of paper by name (ISO 216; ANSI/ASME Y14.1 and the usual North American ones).
#include <algorithm>
#include <array>
#include <cctype>
#include <string>

#include "lumvet/assemble/paper.h"

namespace lumvet {
namespace {

constexpr double kPointsPerMillimeter = 72 / 25.4;

struct Named {
  std::string_view name;
  double width;  // millimeters
  double height;
};

constexpr std::array<Named, 14> kPapers = {{{"a0", 841, 1189},
                                            {"a1", 594, 841},
                                            {"a2", 420, 594},
                                            {"a3", 297, 420},
                                            {"a4", 210, 297},
                                            {"a5", 148, 210},
                                            {"a6", 105, 148},
                                            {"b4", 250, 353},
                                            {"b5", 176, 250},
                                            {"c5", 162, 229},
                                            {"letter", 215.9, 279.4},
                                            {"legal", 215.9, 355.6},
                                            {"tabloid", 279.4, 431.8},
                                            {"executive", 184.15, 266.7}}};

// "210x297"; nothing for anything else.
std::optional<PaperSize> from_millimeters(const std::string& text) {
  const std::size_t times = text.find('x');
  if (times == std::string::npos) return std::nullopt;
  const auto number = [](const std::string& part) {
    const bool is_number = !part.empty() && part.size() < 9 &&
                           std::all_of(part.begin(), part.end(),
                                       [](char c) { return (c >= '0' && c <= '9') || c == '.'; }) &&
                           std::count(part.begin(), part.end(), '.') <= 1 && part != ".";
    return is_number ? std::stod(part) : 0;
  };
  const PaperSize size{number(text.substr(0, times)) * kPointsPerMillimeter,
                       number(text.substr(times + 1)) * kPointsPerMillimeter};
  if (!(size.width > 0) || !(size.height > 0)) return std::nullopt;
  return size;
}

}  // namespace

Result<PaperSize> PaperSize::parse(std::string_view text) {
  std::string name(text);
  std::transform(name.begin(), name.end(), name.begin(),
                 [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
  constexpr std::string_view kLandscape = " landscape";
  const bool is_landscape = name.ends_with(kLandscape);
  if (is_landscape) name.resize(name.size() - kLandscape.size());
  std::optional<PaperSize> size = from_millimeters(name);
  for (const Named& paper : kPapers)
    if (paper.name == name)
      size = PaperSize{paper.width * kPointsPerMillimeter, paper.height * kPointsPerMillimeter};
  if (!size)
    return Error(ErrorCode::invalid_argument,
                 "'" + std::string(text) +
                     "' is not a size of paper; write for example A4, A3 landscape, Letter or, in "
                     "millimeters, 210x297");
  if (is_landscape) std::swap(size->width, size->height);
  return *size;
}

}  // namespace lumvet
