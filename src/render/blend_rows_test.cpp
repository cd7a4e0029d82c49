// SPDX-License-Identifier: Apache-2.0
// Blend modes in blocks against their definition, pixel by pixel.
#include "render/blend_rows.h"

#include <cmath>
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
