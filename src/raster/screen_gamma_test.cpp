// SPDX-License-Identifier: Apache-2.0
#include "raster/screen_gamma.h"

#include <cmath>
#include <limits>

#include "tests/support/catch.h"

using lumvet::raster::ScreenGamma;

TEST_CASE("what is half covered gives half of the light", "[raster]") {
  const double gamma = 2.2;
  const ScreenGamma screen(gamma);
  for (int coverage = 0; coverage <= 255; coverage += 15) {
    CAPTURE(coverage);
    const double part = coverage / 255.0;
    // Black on white, then white on black.
    const double on_white = 1 - screen.opacities(0)[static_cast<std::size_t>(coverage)] / 255.0;
    CHECK(std::pow(on_white, gamma) == Approx(1 - part).margin(0.01));
    const double on_black = screen.opacities(255)[static_cast<std::size_t>(coverage)] / 255.0;
    CHECK(std::pow(on_black, gamma) == Approx(part).margin(0.01));
  }
}

TEST_CASE("letters end where they end on every screen", "[raster]") {
  for (const double gamma : {0.0, 1.0, 1.8, 3.0, 1e9, std::numeric_limits<double>::quiet_NaN()}) {
    const ScreenGamma screen(gamma);
    for (unsigned luminance = 0; luminance <= 255; ++luminance) {
      const auto& table = screen.opacities(luminance);
      CHECK(table[0] == 0);
      CHECK(table[255] == 255);
      CHECK(std::is_sorted(table.begin(), table.end()));
      if (gamma == 1 || std::isnan(gamma)) CHECK(table[77] == 77);
    }
  }
}
