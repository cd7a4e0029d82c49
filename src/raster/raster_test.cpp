// SPDX-License-Identifier: Apache-2.0
#include "lumvet/raster/raster.h"

#include "lumvet/raster/image_file.h"
#include "raster/blend.h"
#include "tests/support/catch.h"
#include "tests/support/png.h"
#include "tests/support/temporary_folder.h"

using namespace lumvet;

TEST_CASE("a PNG reads back as the colors that were in the raster", "[raster]") {
  Raster raster = Raster::make(3, 2).value();
  const std::uint8_t pixels[] = {255, 0, 0, 255, 0, 64, 0, 128, 0, 0, 0, 0};
  std::copy(std::begin(pixels), std::end(pixels), raster.row(1));
  const test::ReadPng read = test::read_png(raster.png().value());
  CHECK(read.width == 3);
  CHECK(read.height == 2);
  const Bytes& back = read.pixels;
  CHECK(Bytes(back.begin() + 12, back.begin() + 20) == Bytes{255, 0, 0, 255, 0, 128, 0, 128});
  CHECK(raster.at(1, 1) == PixelColor{0, 128, 0, 128});
  CHECK(raster.at(5, 1) == kTransparent);
}

TEST_CASE("impossible sizes are refused", "[raster]") {
  CHECK(Raster::make(0, 5).error().code() == ErrorCode::invalid_argument);
  CHECK(Raster::make(100'000, 100'000).error().code() == ErrorCode::limit);
  CHECK(Raster().png().error().code() == ErrorCode::invalid_argument);
}

TEST_CASE("an image file is not replaced unasked", "[raster]") {
  const test::TemporaryFolder folder;
  const Raster raster = Raster::make(2, 2).value();
  for (const char* name : {"a.png", "a.jpg", "a.tiff", "a.webp", "a.ppm"}) {
    REQUIRE(write_image(raster, folder / name).ok());
    CHECK(write_image(raster, folder / name).error().code() == ErrorCode::exists);
    CHECK(write_image(raster, folder / name, {}, IfExists::replace).ok());
  }
  CHECK(raster.write_png(folder / "a.png").error().code() == ErrorCode::exists);
  CHECK(folder.file_count() == 5);
}

TEST_CASE("blending rounds to nearest and keeps colors within alpha", "[raster]") {
  for (unsigned x = 0; x <= 255 * 255; ++x) REQUIRE(raster::div255(x) == (x + 127) / 255);
  for (unsigned alpha = 0; alpha <= 255; alpha += 5)
    for (unsigned below = 0; below <= 255; below += 15) {
      std::uint8_t pixel[4] = {static_cast<std::uint8_t>(below), 0,
                               static_cast<std::uint8_t>(below / 2),
                               static_cast<std::uint8_t>(below)};
      raster::blend_pixel(pixel, 255, 128, 0, alpha);
      for (int i = 0; i < 3; ++i) REQUIRE(pixel[i] <= pixel[3]);
      if (alpha == 255) REQUIRE(pixel[3] == 255);
    }
}
