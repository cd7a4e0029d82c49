// SPDX-License-Identifier: Apache-2.0
#include "raster/pixel_formats.h"

#include <random>

#include "lumvet/base/bytes.h"
#include "tests/support/catch.h"

using namespace lumvet;

TEST_CASE("pixels of a row become the same as each by itself, opaque or not", "[raster]") {
  constexpr int kCount = 203;
  const auto [format, size] =
      GENERATE(values<std::pair<PixelFormat, int>>({{PixelFormat::rgb, 3},
                                                    {PixelFormat::bgr, 3},
                                                    {PixelFormat::gray, 1},
                                                    {PixelFormat::bgra, 4}}));
  std::mt19937 random(3);
  Bytes rgba(4 * kCount);
  for (std::size_t i = 0; i < kCount; ++i) {
    const unsigned alpha = random() % 8 > 0 ? 255 : random() % 256;
    for (std::size_t k = 0; k < 3; ++k)
      rgba[4 * i + k] = static_cast<std::uint8_t>(random() % (alpha + 1));
    rgba[4 * i + 3] = static_cast<std::uint8_t>(alpha);
  }
  Bytes row(static_cast<std::size_t>(size * kCount));
  raster::from_rgba(rgba.data(), kCount, format, Halftone::threshold, 0, 0, row.data());
  Bytes each(row.size());
  for (int i = 0; i < kCount; ++i)
    raster::from_rgba(rgba.data() + 4 * i, 1, format, Halftone::threshold, i, 0,
                      each.data() + size * i);
  CHECK(row == each);
  if (format == PixelFormat::rgb) CHECK(row[0] == rgba[0] + 255 - rgba[3]);
}
