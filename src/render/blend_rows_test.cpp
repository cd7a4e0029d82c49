// SPDX-License-Identifier: Apache-2.0
// Blend modes in blocks against their definition, pixel by pixel.
#include "render/blend_rows.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <random>
#include <vector>

#include "tests/support/catch.h"

using namespace lumvet;
using color::BlendMode;

namespace {

// ISO 32000-2, 11.3.6: what a channel comes to, from backdrop, source and their opacities, 0 to 1,
// multiplied by the opacity of both together.
double result_of(BlendMode mode, double backdrop, double backdrop_alpha, int source, double alpha) {
  const auto byte = [](double unit) { return static_cast<std::uint8_t>(std::lround(unit * 255)); };
  const std::uint8_t b = byte(backdrop);
  const auto s = static_cast<std::uint8_t>(source);
  const double mixed = color::blend(mode, {b, b, b}, {s, s, s})[0] / 255.0;
  return (1 - alpha) * backdrop_alpha * backdrop +
         alpha * ((1 - backdrop_alpha) * source / 255.0 + backdrop_alpha * mixed);
}

}  // namespace

TEST_CASE("blend modes in blocks are those of single pixels", "[render]") {
  const auto mode = static_cast<BlendMode>(GENERATE(range(1, 16)));
  if (!rendering::blends_in_rows(mode)) return;
  CAPTURE(static_cast<int>(mode));
  double furthest = 0;
  for (int backdrop = 0; backdrop <= 255; backdrop += 15)
    for (const int opacity : {0, 90, 255})
      for (int alpha = 0; alpha <= 255; alpha += 51) {
        std::vector<std::uint8_t> pixels;
        std::vector<std::uint8_t> sources;
        const int premultiplied = (backdrop * opacity + 127) / 255;
        for (int i = 0; i < rendering::kBlendBlock; ++i) {
          for (int k = 0; k < 3; ++k) pixels.push_back(static_cast<std::uint8_t>(premultiplied));
          pixels.push_back(static_cast<std::uint8_t>(opacity));
          for (int k = 0; k < 4; ++k) sources.push_back(static_cast<std::uint8_t>(i * 17));
        }
        const std::vector<std::uint8_t> alphas(rendering::kBlendBlock,
                                               static_cast<std::uint8_t>(alpha));
        rendering::blend_block(mode, pixels.data(), sources.data(), alphas.data());
        for (int i = 0; i < rendering::kBlendBlock; ++i) {
          const auto at = static_cast<std::size_t>(i) * 4;
          const double expected =
              result_of(mode, backdrop / 255.0, opacity / 255.0, i * 17, alpha / 255.0) * 255;
          furthest = std::max(furthest, std::abs(pixels[at] - expected));
          const double together = alpha + opacity - alpha * opacity / 255.0;
          furthest = std::max(furthest, std::abs(pixels[at + 3] - together));
        }
      }
  CHECK(furthest <= 2.5);
}

namespace {

using Color = std::array<double, 3>;

double lum(const Color& c) { return 0.3 * c[0] + 0.59 * c[1] + 0.11 * c[2]; }
double sat(const Color& c) {
  return *std::max_element(c.begin(), c.end()) - *std::min_element(c.begin(), c.end());
}

// SetLum and SetSat of ISO 32000-2, 11.3.5.3.
Color with_lum(Color c, double l) {
  const double d = l - lum(c);
  for (double& v : c) v += d;
  const double mean = lum(c);
  const double low = *std::min_element(c.begin(), c.end());
  const double high = *std::max_element(c.begin(), c.end());
  for (double& v : c) {
    if (low < 0) v = mean + (v - mean) * mean / (mean - low);
    if (high > 1) v = mean + (v - mean) * (1 - mean) / (high - mean);
  }
  return c;
}

Color with_sat(Color c, double s) {
  const double low = *std::min_element(c.begin(), c.end());
  const double range = sat(c);
  for (double& v : c) v = range > 0 ? (v - low) * s / range : 0;
  return c;
}

Color together(BlendMode mode, const Color& b, const Color& s) {
  if (mode == BlendMode::hue) return with_lum(with_sat(s, sat(b)), lum(b));
  if (mode == BlendMode::saturation) return with_lum(with_sat(b, sat(s)), lum(b));
  return mode == BlendMode::color ? with_lum(s, lum(b)) : with_lum(b, lum(s));
}

}  // namespace

TEST_CASE("rows of opaque pixels are blended as each by itself, and as the standard says",
          "[render]") {
  const auto mode = static_cast<BlendMode>(GENERATE(range(1, 16)));
  CAPTURE(static_cast<int>(mode));
  const color::Blender blender(mode);
  std::mt19937 random(5);
  for (int count = 1; count < 40; ++count) {
    std::vector<std::uint8_t> below(static_cast<std::size_t>(count) * 4);
    std::vector<std::uint8_t> above = below;
    for (auto* bytes : {&below, &above})
      for (std::uint8_t& byte : *bytes) byte = static_cast<std::uint8_t>(random() % 5 * 63);
    std::vector<std::uint8_t> mixed(below.size());
    blender.blend(below.data(), above.data(), mixed.data(), count);
    for (std::size_t i = 0; i < mixed.size(); i += 4) {
      const color::Rgb8 one = color::blend(mode, {below[i], below[i + 1], below[i + 2]},
                                           {above[i], above[i + 1], above[i + 2]});
      CHECK((one == color::Rgb8{mixed[i], mixed[i + 1], mixed[i + 2]}));
      CHECK(mixed[i + 3] == 255);
      if (mode < BlendMode::hue) continue;
      const Color expected =
          together(mode, {below[i] / 255.0, below[i + 1] / 255.0, below[i + 2] / 255.0},
                   {above[i] / 255.0, above[i + 1] / 255.0, above[i + 2] / 255.0});
      for (std::size_t k = 0; k < 3; ++k) CHECK(std::abs(expected[k] * 255 - one[k]) <= 0.51);
    }
  }
}
