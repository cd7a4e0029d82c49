// SPDX-License-Identifier: Apache-2.0
// Rows of pixels against the one pixel that they are made of.
#include "raster/blend.h"

#include <cstring>
#include <random>
#include <vector>

#include "raster/row_averages.h"
#include "tests/support/catch.h"

using namespace lumvet;
using Bytes8 = std::vector<std::uint8_t>;

namespace {

std::mt19937& random_numbers() {
  static std::mt19937 numbers(11);
  return numbers;
}

// Stretches of nothing and of everything, as coverage has them, and all between.
Bytes8 some_alphas(std::size_t count) {
  Bytes8 alphas(count);
  for (std::size_t i = 0; i < count; ++i) {
    const auto kind = (i / 20 + random_numbers()() % 2) % 4;
    alphas[i] = static_cast<std::uint8_t>(kind == 0 ? 0 : kind == 1 ? 255 : random_numbers()());
  }
  return alphas;
}

// Premultiplied: no channel is above its opacity.
Bytes8 some_pixels(std::size_t count) {
  Bytes8 pixels(count * 4);
  for (std::size_t i = 0; i < count; ++i) {
    const unsigned alpha = i % 3 == 0 ? 255 : i % 7 == 0 ? 0 : random_numbers()() % 256;
    for (std::size_t k = 0; k < 3; ++k)
      pixels[4 * i + k] = static_cast<std::uint8_t>(random_numbers()() % (alpha + 1));
    pixels[4 * i + 3] = static_cast<std::uint8_t>(alpha);
  }
  return pixels;
}

// Channel by channel, as blend.h says it.
void lay_over(std::uint8_t* pixel, const std::uint8_t* color, unsigned alpha) {
  for (int k = 0; k < 4; ++k)
    pixel[k] = static_cast<std::uint8_t>(raster::div255((k == 3 ? 255u : color[k]) * alpha) +
                                         raster::div255(pixel[k] * (255 - alpha)));
}

}  // namespace

TEST_CASE("a row of one color is the pixel many times", "[raster]") {
  const raster::Rgb color{static_cast<std::uint8_t>(random_numbers()()), 255, 3};
  for (int count = 0; count < 100; ++count) {
    CAPTURE(count);
    const Bytes8 before = some_pixels(static_cast<std::size_t>(count));
    const Bytes8 alphas = some_alphas(static_cast<std::size_t>(count));
    for (const int one : {-1, 0, 1, 128, 254, 255}) {  // -1: each its own
      Bytes8 expected = before;
      Bytes8 pixels = before;
      for (std::size_t i = 0; i < alphas.size(); ++i) {
        const unsigned alpha = one < 0 ? alphas[i] : static_cast<unsigned>(one);
        lay_over(&expected[4 * i], color.data(), alpha);
        raster::blend_pixel(&pixels[4 * i], color[0], color[1], color[2], alpha);
      }
      CHECK((pixels == expected));
      Bytes8 row = before;
      if (one < 0)
        raster::blend_row(row.data(), color, alphas.data(), count);
      else
        raster::blend_row(row.data(), color, static_cast<unsigned>(one), count);
      CHECK((row == expected));
    }
  }
}

TEST_CASE("a row of many colors is the pixel for each", "[raster]") {
  for (int count = 0; count < 70; ++count) {
    CAPTURE(count);
    const Bytes8 before = some_pixels(static_cast<std::size_t>(count));
    const Bytes8 colors = some_pixels(static_cast<std::size_t>(count));
    const Bytes8 alphas = some_alphas(static_cast<std::size_t>(count));
    Bytes8 expected = before;
    for (std::size_t i = 0; i < alphas.size(); ++i)
      lay_over(&expected[4 * i], &colors[4 * i], alphas[i]);
    Bytes8 row = before;
    raster::blend_row(row.data(), colors.data(), alphas.data(), count);
    CHECK((row == expected));
  }
}

TEST_CASE("what is multiplied by its opacity already is put over the rest", "[raster]") {
  for (int count = 0; count < 70; ++count) {
    CAPTURE(count);
    const Bytes8 before = some_pixels(static_cast<std::size_t>(count));
    const Bytes8 source = some_pixels(static_cast<std::size_t>(count));
    const Bytes8 alphas = some_alphas(static_cast<std::size_t>(count));
    Bytes8 expected = before;
    for (std::size_t i = 0; i < expected.size(); ++i) {
      const auto faint = [&](std::size_t at) { return raster::div255(source[at] * alphas[i / 4]); };
      expected[i] = static_cast<std::uint8_t>(
          faint(i) + raster::div255(before[i] * (255 - faint(i / 4 * 4 + 3))));
    }
    Bytes8 row = before;
    raster::blend_premultiplied_row(row.data(), source.data(), alphas.data(), count);
    CHECK((row == expected));
  }
}

TEST_CASE("eight places are mixed in 1/256 of the way, and none behind them is touched",
          "[raster]") {
  const auto mixed = [](int from, int to, int part) {
    return (from * (256 - part) + to * part + 128) >> 8;
  };
  const Bytes8 corners = some_pixels(32);
  const Bytes8 parts = some_alphas(16);
  raster::EightPlaces places;
  std::memcpy(places.upper_left, &corners[0], 32);
  std::memcpy(places.upper_right, &corners[32], 32);
  std::memcpy(places.lower_left, &corners[64], 32);
  std::memcpy(places.lower_right, &corners[96], 32);
  std::copy_n(&parts[0], 8, places.across);
  std::copy_n(&parts[8], 8, places.down);
  for (const int count : {1, 5, 8}) {
    Bytes8 across(33, 77);
    Bytes8 both = across;
    raster::mix_across(places, across.data(), count);
    raster::mix_both_ways(places, both.data(), count);
    for (std::size_t i = 0; i < across.size(); ++i) {
      const bool is_behind = i >= static_cast<std::size_t>(count) * 4;
      const int upper = is_behind ? 77 : mixed(corners[i], corners[32 + i], parts[i / 4]);
      const int lower = is_behind ? 77 : mixed(corners[64 + i], corners[96 + i], parts[i / 4]);
      CHECK(across[i] == upper);
      CHECK(both[i] == (is_behind ? 77 : mixed(upper, lower, parts[8 + i / 4])));
    }
  }
}

TEST_CASE("means of weighted rows are in 1/256 and rounded", "[raster]") {
  const Bytes8 rows[] = {some_alphas(77), some_alphas(77), some_alphas(77)};
  const unsigned weights[] = {100, 256, 31};
  std::vector<std::uint32_t> sums(77);
  raster::set_weighted(sums.data(), rows[0].data(), weights[0], 77);
  raster::add_weighted(sums.data(), rows[1].data(), weights[1], 77);
  raster::add_weighted(sums.data(), rows[2].data(), weights[2], 77);
  std::vector<std::uint16_t> means(77);
  raster::divide(sums.data(), 387, means.data(), 77);
  for (std::size_t i = 0; i < 77; ++i) {
    const double mean = (100.0 * rows[0][i] + 256.0 * rows[1][i] + 31.0 * rows[2][i]) / 387;
    CHECK(std::abs(means[i] - mean * 256) <= 0.51);
  }
}

TEST_CASE("few rows become means like many do, and a pixel takes its columns in proportion",
          "[raster]") {
  const Bytes8 rows[] = {some_alphas(90), some_alphas(90), some_alphas(90), some_alphas(90)};
  for (std::size_t count = 1; count <= 4; ++count) {
    const std::uint16_t parts[4] = {
        static_cast<std::uint16_t>(raster::kAllRows - 3000 * (count - 1)), 3000, 3000, 3000};
    const std::uint8_t* pointers[4] = {rows[0].data(), rows[1].data(), rows[2].data(),
                                       rows[3].data()};
    std::vector<std::uint16_t> means(90);
    raster::average_of_rows({pointers, count}, parts, means.data(), 90);
    for (std::size_t i = 0; i < 90; ++i) {
      double mean = 0;
      for (std::size_t r = 0; r < count; ++r) mean += rows[r][i] * (parts[r] / 65535.0);
      CHECK(std::abs(means[i] - mean * 256) <= 4);
    }
  }
  // Three columns of one and of three channels, and the number behind them.
  const std::uint16_t means[] = {0,       100 << 8, 200 << 8, 50 << 8, 60 << 8,
                                 70 << 8, 255 << 8, 0,        9,       7};
  const std::uint32_t weights[] = {1 << 15, 1 << 15, 1 << 14, 3 << 14};
  const int columns[] = {10, 11};
  std::uint8_t values[2];
  raster::mean_values(means, 10, columns, weights, 2, values);
  CHECK(values[0] == 50);
  CHECK(values[1] == 175);
  std::uint8_t colors[8];
  raster::mean_colors(means, 10, columns, weights, 2, colors);
  CHECK((Bytes8(colors, colors + 8) == Bytes8{25, 80, 135, 255, 204, 15, 18, 255}));
}
