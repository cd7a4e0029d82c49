// SPDX-License-Identifier: Apache-2.0
// Pictures: what goes into documents as it is, and what is packed without loss.
#include "lumvet/draw/picture.h"

#include "document/inside.h"
#include "lumvet/draw/drawing.h"
#include "lumvet/raster/image_file.h"
#include "lumvet/render/render.h"
#include "tests/support/catch.h"
#include "tests/support/temporary_folder.h"

using namespace lumvet;

namespace {

// The one image that a page with the picture has.
Stream stored(const Document& document) {
  const auto& store = store_of(document);
  const Dict page = store.resolve(Object(document.page(0)->id())).as_dict();
  const Dict resources = store.resolve(page["Resources"]).as_dict();
  const Object image = store.resolve(store.resolve(resources["XObject"]).as_dict()["I0"]);
  REQUIRE(image.is_stream());
  return *image.as_stream();
}

Document page_of(const Picture& picture, double width, double height,
                 Drawing::Fit fit = Drawing::Fit::inside) {
  Drawing page(width, height);
  page.draw(picture, {0, 0, width, height}, fit);
  return page.as_document().value();
}

// A code stream of JPEG 2000 as far as its size.
Bytes code_stream(std::uint8_t width, std::uint8_t height) {
  Bytes bytes{0xFF, 0x4F, 0xFF, 0x51, 0, 41, 0, 0, 0, 0, 0, width, 0, 0, 0, height};
  bytes.resize(60);
  return bytes;
}

}  // namespace

TEST_CASE("rows of pixels come back as they were", "[draw]") {
  constexpr int kWidth = 7;
  constexpr int kHeight = 5;
  Bytes rows;
  for (int i = 0; i < kWidth * kHeight * 3; ++i) rows.push_back(static_cast<std::uint8_t>(i * 37));
  const auto rgb = Picture::of_rows(rows, kWidth, kHeight, Picture::Pixels::rgb).value();
  CHECK(rgb.width() == kWidth);
  CHECK(rgb.wide(72) == kWidth);
  const Raster raster = render(page_of(rgb, kWidth, kHeight).page(0).value(), {.dpi = 72}).value();
  for (int y = 0; y < kHeight; ++y)
    for (int x = 0; x < kWidth; ++x) {
      const auto at = static_cast<std::size_t>((y * kWidth + x) * 3);
      CHECK(raster.at(x, y) == PixelColor{rows[at], rows[at + 1], rows[at + 2], 255});
    }
  const Bytes clear{255, 0, 0, 255, 255, 0, 0, 0};
  const auto half = Picture::of_rows(clear, 2, 1, Picture::Pixels::rgba).value();
  const Raster shown = render(page_of(half, 2, 1).page(0).value(), {.dpi = 72}).value();
  CHECK(shown.at(0, 0) == PixelColor{255, 0, 0, 255});
  CHECK(shown.at(1, 0) == kWhite);
  CHECK_FALSE(Picture::of_rows(rows, kWidth + 1, kHeight, Picture::Pixels::rgb).ok());
  CHECK_FALSE(Picture::of_rows({}, 0, 0, Picture::Pixels::gray).ok());
}

TEST_CASE("what is black and white only is packed by group 4", "[draw]") {
  constexpr int kWidth = 203;
  constexpr int kHeight = 90;
  constexpr std::size_t kRow = (kWidth + 7) / 8;
  Bytes rows(kRow * kHeight);
  for (std::size_t y = 20; y < 60; ++y)
    for (std::size_t i = 4; i < 12; ++i) rows[y * kRow + i] = 0xFF;
  const auto sheet = Picture::of_rows(rows, kWidth, kHeight, Picture::Pixels::black_white).value();
  const Document document = page_of(sheet, kWidth, kHeight);
  CHECK(stored(document).dict["Filter"].is_name("CCITTFaxDecode"));
  const Raster raster = render(document.page(0).value(), {.dpi = 72}).value();
  for (int y = 0; y < kHeight; ++y)
    for (int x = 0; x < kWidth; ++x) {
      const std::uint8_t byte =
          rows[static_cast<std::size_t>(y) * kRow + static_cast<std::size_t>(x / 8)];
      const bool is_black = (byte >> (7 - x % 8) & 1) != 0;
      if (raster.at(x, y).red != (is_black ? 0 : 255)) FAIL("at " << x << ", " << y);
    }
}

TEST_CASE("JPEG 2000 goes in byte for byte", "[draw]") {
  const Bytes bare = code_stream(30, 20);
  const Picture picture = Picture::of(bare).value();
  CHECK(picture.width() == 30);
  CHECK(picture.height() == 20);
  const Document document = page_of(picture, 30, 20);
  CHECK(stored(document).dict["Filter"].is_name("JPXDecode"));
  CHECK_FALSE(stored(document).dict.contains("ColorSpace"));
  const ByteSlice data = stored(document).encoded().value();
  CHECK(Bytes(data.view().begin(), data.view().end()) == bare);
  CHECK(Picture::of(code_stream(0, 20)).error().code() == ErrorCode::malformed);
  CHECK(Picture::of(Bytes(bare.begin(), bare.begin() + 12)).error().code() == ErrorCode::malformed);
  CHECK(Picture::of(bare, {.pixels = 100}).error().code() == ErrorCode::limit);
  CHECK(Picture::of(Bytes(100)).error().code() == ErrorCode::unsupported);
}

TEST_CASE("pictures are fitted as asked for", "[draw]") {
  const auto wide = Picture::of_rows(Bytes(40 * 10, 0), 40, 10, Picture::Pixels::gray).value();
  const auto drawn = [&](Drawing::Fit fit) {
    return render(page_of(wide, 40, 40, fit).page(0).value(), {.dpi = 72}).value();
  };
  const Raster inside = drawn(Drawing::Fit::inside);
  CHECK(inside.at(20, 20).red == 0);
  CHECK(inside.at(20, 10) == kWhite);
  CHECK(drawn(Drawing::Fit::filling).at(1, 1).red == 0);
  CHECK(drawn(Drawing::Fit::stretched).at(39, 39).red == 0);
}

TEST_CASE("rows of 16 bits keep them", "[draw]") {
  const Bytes gray = {0x00, 0x00, 0x7F, 0xFF, 0xFF, 0xFF, 0x12, 0x34};
  const Bytes color = {0xFF, 0xFF, 0x00, 0x00, 0x80, 0x01};
  Drawing drawing(40, 20);
  drawing.draw(Picture::of_rows(gray, 2, 2, Picture::Pixels::gray_16).value(), {0, 0, 20, 20});
  drawing.draw(Picture::of_rows(color, 1, 1, Picture::Pixels::rgb_16).value(), {20, 0, 20, 20});
  const Document document = drawing.as_document().value();
  const Raster raster = render(document.page(0).value()).value();
  CHECK(raster.at(5, 5).red == 0);
  CHECK(raster.at(15, 5).red == 127);
  CHECK(raster.at(5, 15).red == 255);
  CHECK(raster.at(15, 15).red == 0x12);
  CHECK(raster.at(30, 10).red == 255);
  CHECK(raster.at(30, 10).blue == 128);
  CHECK_FALSE(Picture::of_rows(gray, 2, 2, Picture::Pixels::rgb_16).ok());
}

TEST_CASE("every image of a file is a picture", "[draw]") {
  const test::TemporaryFolder folder;
  BufferSink sink;
  ImageWriter writer(sink, {.format = ImageFormat::tiff, .dpi = 100});
  for (const int width : {30, 20}) {
    Drawing drawing(width, 10);
    const Document document = drawing.as_document().value();
    const Raster raster = render(document.page(0).value()).value();
    REQUIRE(writer.begin(raster.width(), raster.height(), raster.format()).ok());
    REQUIRE(writer
                .write_rows(raster.row(0), raster.height(),
                            static_cast<std::ptrdiff_t>(raster.stride()))
                .ok());
  }
  REQUIRE(writer.finish().ok());
  test::write_file(folder / "two.tiff", std::string(as_text(sink.bytes())));
  const auto pictures = Picture::load_all(folder / "two.tiff").value();
  REQUIRE(pictures.size() == 2);
  CHECK(pictures[0].width() == 30);
  CHECK(pictures[1].width() == 20);
  CHECK(Picture::load_all(folder / "none.tiff").error().code() == ErrorCode::io);
}
