// SPDX-License-Identifier: Apache-2.0
// Shrunk images against the plain mean of what each pixel covers, sample by sample.
#include "render/box_downscaler.h"

#include <cmath>
#include <random>

#include "tests/support/catch.h"

using namespace lumvet;
using images::Image;
using rendering::BoxDownscaler;

namespace {

Image some_image(Image::Kind kind, bool is_packed, int width, int height, unsigned seed) {
  std::mt19937 random(seed);
  Image image{.width = width,
              .height = height,
              .across = static_cast<double>(width),
              .down = static_cast<double>(height),
              .kind = kind,
              .is_packed = is_packed,
              .zero = 240,
              .one = 15};
  const int row_bytes = is_packed ? (width + 7) / 8 : width * image.channels();
  image.samples.resize(static_cast<std::size_t>(row_bytes * height));
  // Of bits, most rows have long stretches alike, as sheets have.
  for (std::uint8_t& byte : image.samples)
    byte = static_cast<std::uint8_t>(is_packed && random() % 4 != 0 ? 0 : random());
  return image;
}

double sample_of(const Image& image, int x, int y, int channel) {
  Bytes room;
  return image.row(y, x, 1, room)[channel];
}

// What of [low, high] lies in the sample i.
double part_within(double low, double high, int i) {
  return std::max(0.0, std::min(high, i + 1.0) - std::max(low, static_cast<double>(i)));
}

double plain_mean(const Image& image, const Matrix& m, int x, int y, int channel) {
  const Point middle = m.apply({x + 0.5, y + 0.5});
  const auto ends = [](double center, double size, int samples) {
    const double most = samples;
    return std::pair(std::clamp(center - size / 2, 0.0, most),
                     std::clamp(center + size / 2, 0.0, most));
  };
  const auto [left, right] = ends(middle.x, std::max(std::abs(m.a), 1.0), image.width);
  const auto [top, bottom] = ends(middle.y, std::max(std::abs(m.d), 1.0), image.height);
  double sum = 0;
  for (int v = 0; v < image.height; ++v)
    for (int u = 0; u < image.width; ++u)
      sum += part_within(left, right, u) * part_within(top, bottom, v) *
             sample_of(image, u, v, channel);
  return sum / ((right - left) * (bottom - top));
}

// All pixels that cover something of the image.
void check_all(const Image& image, const Matrix& m, double most_off) {
  const int width = static_cast<int>(image.width / std::abs(m.a));
  const int height = static_cast<int>(image.height / std::abs(m.d));
  BoxDownscaler means(image, m);
  Bytes colors(static_cast<std::size_t>(width) * 4);
  double worst = 0;
  for (int y = 0; y < height; ++y) {
    const bool is_colored = image.kind == Image::Kind::rgb;
    if (is_colored) means.put_colors(0, y, width, colors.data());
    const std::uint8_t* values = is_colored ? colors.data() : means.values(0, y, width);
    for (int x = 0; x < width; ++x)
      for (int k = 0; k < image.channels(); ++k)
        worst = std::max(
            worst, std::abs(values[x * (is_colored ? 4 : 1) + k] - plain_mean(image, m, x, y, k)));
  }
  INFO("across " << m.a << ", down " << m.d);
  CHECK(worst <= most_off);
}

}  // namespace

TEST_CASE("shrunk upright images are the means of what pixels cover", "[render]") {
  const auto [kind, is_packed] =
      GENERATE(std::pair(Image::Kind::gray, false), std::pair(Image::Kind::rgb, false),
               std::pair(Image::Kind::coverage, true), std::pair(Image::Kind::gray, true));
  const Image image = some_image(kind, is_packed, 71, 37, 5);
  // Steps of whole 1/256 are exact; others are rounded to them.
  check_all(image, {2, 0, 0, 2, 0, 0}, 1);
  check_all(image, {1.5, 0, 0, 3.25, 0.25, 0.5}, 1.5);
  check_all(image, {1.94, 0, 0, 1.94, 0, 0}, 2);
  check_all(image, {2.6, 0, 0, 1.03, -1.1, 0.3}, 2.5);
  check_all(image, {6.8, 0, 0, 5.4, 0.1, 0}, 1);
  check_all(image, {-1.7, 0, 0, 1.2, 70.9, 0}, 2);
  check_all(image, {1.3, 0, 0, -2.2, 0, 36.8}, 2);
}

TEST_CASE("part of a row is what it is in the whole row", "[render]") {
  for (const bool is_packed : {false, true}) {
    const Image image = some_image(Image::Kind::gray, is_packed, 301, 9, 6);
    const Matrix m{2.17, 0, 0, 2.17, -0.4, 0.2};
    BoxDownscaler whole(image, m);
    BoxDownscaler parts(image, m);
    for (int y = 0; y < 4; ++y) {
      const Bytes all(whole.values(0, y, 130), whole.values(0, y, 130) + 130);
      for (int x = 0; x < 130; x += 26) {
        const std::uint8_t* part = parts.values(x, y, 26);
        CHECK(std::equal(part, part + 26, all.begin() + x));
      }
    }
  }
}
