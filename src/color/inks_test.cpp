// SPDX-License-Identifier: Apache-2.0
// Screen colors taken apart into inks, and mixed as such.
#include "color/inks.h"

#include <algorithm>
#include <cmath>

#include "tests/support/catch.h"

using namespace lumvet;
using color::BlendMode;
using color::Inks;
using color::Rgb8;

namespace {

Rgb8 printed(const Inks& inks) {
  Rgb8 rgb;
  const std::array<float, 3> light = color::screen_color(inks);
  for (std::size_t k = 0; k < 3; ++k)
    rgb[k] = static_cast<std::uint8_t>(std::lround(light[k] * 255));
  return rgb;
}

int distance(const Rgb8& a, const Rgb8& b) {
  int most = 0;
  for (std::size_t k = 0; k < 3; ++k) most = std::max(most, std::abs(a[k] - b[k]));
  return most;
}

// Every mixture of up to two of cyan, magenta and yellow, and black, by steps.
std::vector<Inks> mixtures() {
  std::vector<Inks> all;
  constexpr int kSteps = 5;
  for (int i = 0; i < kSteps * kSteps * kSteps * kSteps; ++i) {
    Inks inks;
    int rest = i;
    for (float& ink : inks) {
      ink = static_cast<float>(rest % kSteps) / (kSteps - 1);
      rest /= kSteps;
    }
    if (std::min({inks[0], inks[1], inks[2]}) == 0) all.push_back(inks);
  }
  return all;
}

}  // namespace

TEST_CASE("the inks found for a printed color print that color", "[color]") {
  double sum = 0;
  for (const Inks& inks : mixtures()) {
    const Rgb8 seen = printed(inks);
    const int off = distance(printed(color::inks_like(seen)), seen);
    CAPTURE(inks[0], inks[1], inks[2], inks[3]);
    CHECK(off <= 3);
    sum += off;
  }
  CHECK(sum / static_cast<double>(mixtures().size()) < 1);
}

TEST_CASE("colors that a press cannot print are taken for printable ones close by", "[color]") {
  for (const Rgb8& vivid : {Rgb8{0, 0, 255}, Rgb8{0, 255, 0}, Rgb8{255, 0, 255}}) {
    const Inks inks = color::inks_like(vivid);
    for (const float ink : inks) CHECK((ink >= 0 && ink <= 1));
    // Nothing that is printed from these inks in steps comes closer by much.
    int nearest = 255;
    for (const Inks& other : mixtures())
      nearest = std::min(nearest, distance(printed(other), vivid));
    CHECK(distance(printed(inks), vivid) <= nearest + 60);
  }
}

TEST_CASE("mixing in inks takes the light that each ink leaves", "[color]") {
  // Worked out by 11.3.5 from the inks themselves, which the screen colors stand for. Not dodging
  // and burning, which jump where there is no light or all.
  const BlendMode mode =
      GENERATE(BlendMode::screen, BlendMode::overlay, BlendMode::lighten, BlendMode::hard_light,
               BlendMode::difference, BlendMode::exclusion, BlendMode::soft_light);
  const auto [below, above] = GENERATE(table<Inks, Inks>({
      {Inks{1, 0, 0, 0}, Inks{0, 0, 1, 0}},
      {Inks{0, 1, 0, 0}, Inks{0, 0, 1, 0}},
      {Inks{0, 0, 0, 0}, Inks{0, 1, 1, 0}},
      {Inks{1, 0, 1, 0}, Inks{0, 0, 0, 0}},
      {Inks{0, 0, 1, 0}, Inks{1, 0, 1, 0}},
  }));
  Inks expected;
  for (std::size_t ink = 0; ink < 4; ++ink) {
    const auto b = static_cast<std::uint8_t>(255 - below[ink] * 255);
    const auto s = static_cast<std::uint8_t>(255 - above[ink] * 255);
    expected[ink] = 1 - color::blend(mode, {b, b, b}, {s, s, s})[0] / 255.0F;
  }
  const Rgb8 seen = color::blend_in_inks(mode, printed(below), printed(above));
  CAPTURE(static_cast<int>(mode), below[0], below[1], below[2]);
  CAPTURE(int{seen[0]}, int{seen[1]}, int{seen[2]}, int{printed(expected)[0]});
  CHECK(distance(seen, printed(expected)) <= 5);
}

TEST_CASE("mixing that changes nothing leaves vivid colors alone", "[color]") {
  const Rgb8 blue{0, 0, 255};
  CHECK(distance(color::blend_in_inks(BlendMode::lighten, blue, blue), blue) <= 4);
  CHECK(distance(color::blend_in_inks(BlendMode::luminosity, blue, blue), blue) <= 4);
}

TEST_CASE("modes that lay inks over one another look the same on the screen", "[color]") {
  CHECK_FALSE(color::matters_in_inks(BlendMode::normal));
  CHECK_FALSE(color::matters_in_inks(BlendMode::multiply));
  CHECK(color::matters_in_inks(BlendMode::difference));
  CHECK(color::matters_in_inks(BlendMode::luminosity));
}
