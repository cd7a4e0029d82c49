// SPDX-License-Identifier: Apache-2.0
// PNG images read by libpng's simple interface.
#pragma once

#include <png.h>

#include "lumvet/base/bytes.h"
#include "tests/support/catch.h"

namespace test {

struct ReadPng {
  int width = 0;
  int height = 0;
  lumvet::Bytes pixels = {};  // in the format asked for; straight RGBA otherwise
};

inline ReadPng read_png(const lumvet::Bytes& file, png_uint_32 format = PNG_FORMAT_RGBA) {
  png_image image{};
  image.version = PNG_IMAGE_VERSION;
  REQUIRE(png_image_begin_read_from_memory(&image, file.data(), file.size()) != 0);
  image.format = format;
  ReadPng read{static_cast<int>(image.width), static_cast<int>(image.height),
               lumvet::Bytes(PNG_IMAGE_SIZE(image))};
  REQUIRE(png_image_finish_read(&image, nullptr, read.pixels.data(), 0, nullptr) != 0);
  CHECK(image.warning_or_error == 0);
  return read;
}

}  // namespace test
