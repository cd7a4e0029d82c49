// SPDX-License-Identifier: Apache-2.0
#include "raster/png_rows.h"

#include <random>

#include "lumvet/raster/image_file.h"
#include "tests/support/catch.h"
#include "tests/support/png.h"

using namespace lumvet;

namespace {

// Areas of one color, slopes, noise and rows that are alike, so that every filter has its rows.
Bytes picture(std::size_t row_bytes, std::size_t rows) {
  std::mt19937 random(5);
  Bytes bytes(row_bytes * rows);
  for (std::size_t y = 0; y < rows; ++y)
    for (std::size_t x = 0; x < row_bytes; ++x) {
      const std::size_t kind = y / 7 % 4;
      bytes[y * row_bytes + x] = static_cast<std::uint8_t>(kind == 0   ? 200
                                                           : kind == 1 ? x + 3 * y
                                                           : kind == 2 ? x * y / 9
                                                                       : random() & 0xFF);
    }
  return bytes;
}

Bytes encoded(const Bytes& rows, int width, int height, PixelFormat format, int threads) {
  BufferSink sink;
  ImageWriter writer(sink, {.threads = threads});
  REQUIRE(writer.begin(width, height, format).ok());
  const auto stride = static_cast<std::ptrdiff_t>(bytes_per_row(format, width));
  REQUIRE(writer.write_rows(rows.data(), height, stride).ok());
  REQUIRE(writer.finish().ok());
  return sink.take();
}

}  // namespace

TEST_CASE("rows filtered and deflated on any number of threads are read back as they were",
          "[raster]") {
  struct Kind {
    PixelFormat format;
    png_uint_32 read_as;
  };
  const auto [format, read_as] = GENERATE(
      values<Kind>({{PixelFormat::rgb, PNG_FORMAT_RGB}, {PixelFormat::gray, PNG_FORMAT_GRAY}}));
  // One row, less than a slice, a few slices and a rest.
  const auto [width, height] =
      GENERATE(values<std::pair<int, int>>({{1, 1}, {700, 40}, {1900, 700}}));
  CAPTURE(width, height);
  const Bytes rows = picture(bytes_per_row(format, width), static_cast<std::size_t>(height));
  const Bytes alone = encoded(rows, width, height, format, 1);
  CHECK(test::read_png(alone, read_as).pixels == rows);
  for (const int threads : {2, 5}) CHECK(encoded(rows, width, height, format, threads) == alone);
}

TEST_CASE("a refusal of the sink ends the image", "[raster]") {
  raster::PngRows rows(10, 1, 2,
                       [](ByteView) -> Status { return Error(ErrorCode::io, "the disk is full"); });
  const Bytes row(10);
  CHECK(rows.add(row.data()).ok());  // kept until there is enough
  CHECK(rows.finish().error().message() == "the disk is full");
}
