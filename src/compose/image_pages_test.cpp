// SPDX-License-Identifier: Apache-2.0
// Images as pages, held against the pixels that they were made of.
#include "lumvet/compose/image_pages.h"

#include "lumvet/render/placed_images.h"

#include <tiffio.h>

#include <random>

#include "lumvet/raster/image_file.h"
#include "lumvet/render/render.h"
#include "tests/support/catch.h"
#include "tests/support/temporary_folder.h"

using namespace lumvet;
using test::TemporaryFolder;

namespace {

constexpr int kWidth = 37;
constexpr int kHeight = 23;

// Stretches of color and some noise; premultiplied where there is an opacity.
Raster image(PixelFormat format, unsigned seed = 3, int width = kWidth, int height = kHeight) {
  Raster raster = Raster::make(width, height, {}, format).value();
  std::mt19937 random(seed);
  for (int y = 0; y < height; ++y) {
    std::uint8_t* row = raster.row(y);
    for (std::size_t i = 0; i < raster.stride(); ++i)
      row[i] = static_cast<std::uint8_t>(random() % 3 == 0 ? random()
                                                           : i * 5 + static_cast<unsigned>(y));
    if (format == PixelFormat::bilevel && width % 8 != 0)  // nothing beside the image
      row[raster.stride() - 1] &= static_cast<std::uint8_t>(0xFF00 >> width % 8);
    if (format == PixelFormat::rgba)
      for (int x = 0; x < width; ++x) {
        row[4 * x + 3] = x % 5 == 0 ? 0 : 255;
        if (x % 5 == 0) std::fill_n(row + 4 * x, 3, std::uint8_t{0});
      }
  }
  return raster;
}

// The first page as pixels, one for each of its image.
Raster shown(const Document& document, PixelFormat format, int page = 0, double dpi = 100) {
  CHECK(document.findings().empty());
  return render(document.page(page).value(),
                {.dpi = dpi, .background = {255, 255, 255, 0}, .format = format})
      .value();
}

ErrorCode refusal(const TemporaryFolder& folder, const Bytes& file,
                  const ImagePageOptions& options = {}) {
  test::write_file(folder / "p", std::string(file.begin(), file.end()));
  const auto pages = pages_of_images({folder / "p"}, options);
  REQUIRE_FALSE(pages.ok());
  CHECK_THAT(pages.error().to_string(), Catch::Contains("/p: "));
  return pages.error().code();
}

}  // namespace

TEST_CASE("PNG and TIFF images become pages without losing anything", "[compose]") {
  const TemporaryFolder folder;
  const PixelFormat format =
      GENERATE(PixelFormat::rgb, PixelFormat::rgba, PixelFormat::gray, PixelFormat::bilevel);
  const char* name = GENERATE("p.png", "p.tiff");
  CAPTURE(static_cast<int>(format), name);
  const Raster raster = image(format);
  REQUIRE(write_image(raster, folder / name, {.dpi = 100}).ok());
  CHECK(is_image_file(folder / name));
  const Document document = pages_of_images({folder / name}).value();
  REQUIRE(document.page_count() == 1);
  CHECK(document.page(0)->width() == Approx(kWidth * 0.72).epsilon(0.001));
  CHECK(document.page(0)->height() == Approx(kHeight * 0.72).epsilon(0.001));
  CHECK(shown(document, format) == raster);
}

TEST_CASE("every image of a TIFF file is a page, and files follow each other", "[compose]") {
  const TemporaryFolder folder;
  const Raster one = image(PixelFormat::gray, 1);
  const Raster two = image(PixelFormat::bilevel, 2, 50, 20);
  BufferSink sink;
  ImageWriter writer(sink, {.format = ImageFormat::tiff, .dpi = 100});
  for (const Raster* raster : {&one, &two}) {
    REQUIRE(writer.begin(raster->width(), raster->height(), raster->format()).ok());
    REQUIRE(writer
                .write_rows(raster->row(0), raster->height(),
                            static_cast<std::ptrdiff_t>(raster->stride()))
                .ok());
  }
  REQUIRE(writer.finish().ok());
  test::write_file(folder / "two", std::string(as_text(sink.bytes())));
  const Raster three = image(PixelFormat::rgb, 4);
  REQUIRE(write_image(three, folder / "three.png", {.dpi = 100}).ok());
  const Document document = pages_of_images({folder / "two", folder / "three.png"}).value();
  REQUIRE(document.page_count() == 3);
  CHECK(shown(document, PixelFormat::gray, 0) == one);
  CHECK(shown(document, PixelFormat::bilevel, 1) == two);
  CHECK(shown(document, PixelFormat::rgb, 2) == three);
}

TEST_CASE("JPEG images go in byte for byte, and stand upright", "[compose]") {
  const TemporaryFolder folder;
  // Dark at the upper left corner, light elsewhere.
  Raster raster = Raster::make(64, 32, {}, PixelFormat::rgb).value();
  for (int y = 0; y < 32; ++y)
    for (int x = 0; x < 64; ++x)
      std::fill_n(raster.row(y) + 3 * x, 3, std::uint8_t(x < 16 && y < 16 ? 20 : 230));
  const Bytes plain = encode_image(raster, {.format = ImageFormat::jpeg, .dpi = 100}).value();
  const auto [orientation, left, top] =
      GENERATE(std::tuple(1, true, true), std::tuple(3, false, false), std::tuple(6, false, true),
               std::tuple(8, true, false));
  CAPTURE(orientation);
  Bytes turned(plain.begin(), plain.begin() + 2);
  const std::string exif = std::string(
                               "\xFF\xE1\0\x22"
                               "Exif\0\0MM\0*\0\0\0\x08\0\x01\x01\x12\0\x03\0\0\0\x01\0",
                               29) +
                           static_cast<char>(orientation) + std::string(6, '\0');
  turned.insert(turned.end(), exif.begin(), exif.end());
  turned.resize(2 + 2 + 0x22);
  turned.insert(turned.end(), plain.begin() + 2, plain.end());
  test::write_file(folder / "p.jpg", std::string(turned.begin(), turned.end()));
  const Document document = pages_of_images({folder / "p.jpg"}).value();
  const Page page = document.page(0).value();
  const bool lies = orientation == 1 || orientation == 3;
  CHECK(page.width() == Approx(lies ? 46.08 : 23.04).epsilon(0.001));
  const Object image = document
                           .resolve(document.resolve(page.dict()["Resources"])
                                        .value()
                                        .as_dict()["XObject"]
                                        .as_dict()["I0"])
                           .value();
  REQUIRE(image.is_stream());
  CHECK(as_text(image.as_stream()->encoded()->view()) == as_text(turned));
  const Raster sheet = shown(document, PixelFormat::rgb);
  for (const bool at_left : {true, false})
    for (const bool at_top : {true, false}) {
      const PixelColor color =
          sheet.at(at_left ? 3 : sheet.width() - 4, at_top ? 3 : sheet.height() - 4);
      CHECK((color.red < 100) == (at_left == left && at_top == top));
    }
}

TEST_CASE("images are fitted into paper, upright or not as they are", "[compose]") {
  const TemporaryFolder folder;
  REQUIRE(write_image(image(PixelFormat::gray, 1, 40, 20), folder / "wide.png").ok());
  REQUIRE(write_image(image(PixelFormat::gray, 1, 20, 40), folder / "high.png").ok());
  const Document document = pages_of_images({folder / "wide.png", folder / "high.png"},
                                            {.paper = PaperSize{200, 300}, .margin = 10})
                                .value();
  CHECK(document.page(0)->width() == 300);
  CHECK(document.page(0)->height() == 200);
  CHECK(document.page(1)->width() == 200);
  const auto images = placed_images(Scene::record(document.page(1).value()).value());
  REQUIRE(images.size() == 1);
  Rect place = Rect::nothing();
  for (const Point corner : images[0].quad()) place.include(corner);
  CHECK(place == Rect{30, 10, 170, 290});
  const Document plain = pages_of_images({folder / "wide.png"}, {.dots_per_inch = 72}).value();
  CHECK(plain.page(0)->width() == 40);
}

TEST_CASE("files that are no images, cut off or too large are refused", "[compose]") {
  const TemporaryFolder folder;
  CHECK(refusal(folder, {1, 2, 3}) == ErrorCode::unsupported);
  const Raster raster = image(PixelFormat::rgb);
  for (const ImageFormat format : {ImageFormat::png, ImageFormat::tiff, ImageFormat::jpeg}) {
    const Bytes whole = encode_image(raster, {.format = format}).value();
    CHECK(refusal(folder, whole, {.limits = {.pixels = 100}}) == ErrorCode::limit);
    // However it is cut off, it is a page or refused.
    for (std::size_t size = 8; size < whole.size(); size += whole.size() / 40 + 1) {
      const Bytes cut(whole.begin(), whole.begin() + static_cast<std::ptrdiff_t>(size));
      test::write_file(folder / "cut", std::string(cut.begin(), cut.end()));
      const auto pages = pages_of_images({folder / "cut"});
      if (!pages.ok()) CHECK(pages.error().code() == ErrorCode::malformed);
    }
  }
  CHECK(pages_of_images({}).error().code() == ErrorCode::invalid_argument);
  CHECK(pages_of_images({folder / "none.png"}).error().code() == ErrorCode::io);
  CHECK(pages_of_images({folder / "cut"}, {.paper = PaperSize{20, 20}, .margin = 10})
            .error()
            .code() == ErrorCode::invalid_argument);
}
