// SPDX-License-Identifier: Apache-2.0
#include "raster/screen_gamma.h"

#include <algorithm>
#include <cmath>

namespace lumvet::raster {

ScreenGamma::ScreenGamma(double gamma) {
  const double power = std::isnan(gamma) ? 1.0 : std::clamp(gamma, 0.5, 3.0);
  for (std::size_t i = 0; i < tables_.size(); ++i) {
    const double letter = static_cast<double>(i) / static_cast<double>(tables_.size() - 1);
    const double paper = 1 - letter;
    const double light = std::pow(letter, power);
    const double paper_light = std::pow(paper, power);
    for (std::size_t c = 0; c < tables_[i].size(); ++c) {
      const double coverage = static_cast<double>(c) / 255;
      double opacity = coverage;
      constexpr double kAlike = 0.01;  // gray on gray needs no help
      if (std::abs(letter - paper) > kAlike) {
        const double seen = std::pow(paper_light + (light - paper_light) * coverage, 1 / power);
        opacity = (seen - paper) / (letter - paper);
      }
      tables_[i][c] = static_cast<std::uint8_t>(std::lround(std::clamp(opacity, 0.0, 1.0) * 255));
    }
  }
}

}  // namespace lumvet::raster
