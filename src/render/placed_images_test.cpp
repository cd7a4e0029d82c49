// SPDX-License-Identifier: Apache-2.0
#include "lumvet/render/placed_images.h"

#include <tiffio.h>

#include <cstring>

#include "lumvet/render/highlight.h"
#include "lumvet/text/page_words.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"
#include "tests/support/png.h"
#include "tests/support/temporary_folder.h"

using namespace lumvet;

namespace {

// A page of 100 by 100 points that shows object 5, 40 wide and 20 high, from 10 10.
Scene scene_of(test::PdfBuilder& pdf, const std::string& entries = "") {
  pdf.page("q 40 0 0 20 10 10 cm /I Do Q",
           "/MediaBox[0 0 100 100]/Resources<</XObject<</I 5 0 R>>>>" + entries);
  return Scene::record(test::open(pdf.finish())->page(0).value()).value();
}

PlacedImage only_image(test::PdfBuilder& pdf) {
  const auto images = placed_images(scene_of(pdf));
  REQUIRE(images.size() == 1);
  return images[0];
}

// All samples of a TIFF image, as libtiff gives them.
struct ReadTiff {
  std::uint16_t bits = 0;
  std::uint16_t samples = 0;
  std::uint16_t photometric = 0;
  std::string profile;
  std::vector<std::uint16_t> values;
};

ReadTiff read_tiff(const Bytes& bytes) {
  const test::TemporaryFolder folder;
  const auto path = folder.path() / "image.tif";
  test::write_file(path, std::string(bytes.begin(), bytes.end()));
  TIFF* tiff = TIFFOpen(path.c_str(), "r");
  REQUIRE(tiff != nullptr);
  ReadTiff read;
  std::uint32_t width = 0;
  std::uint32_t height = 0;
  std::uint32_t size = 0;
  void* profile = nullptr;
  TIFFGetField(tiff, TIFFTAG_IMAGEWIDTH, &width);
  TIFFGetField(tiff, TIFFTAG_IMAGELENGTH, &height);
  TIFFGetField(tiff, TIFFTAG_BITSPERSAMPLE, &read.bits);
  TIFFGetField(tiff, TIFFTAG_SAMPLESPERPIXEL, &read.samples);
  TIFFGetField(tiff, TIFFTAG_PHOTOMETRIC, &read.photometric);
  if (TIFFGetField(tiff, TIFFTAG_ICCPROFILE, &size, &profile) == 1)
    read.profile.assign(static_cast<const char*>(profile), size);
  std::vector<std::uint8_t> row(static_cast<std::size_t>(TIFFScanlineSize(tiff)));
  for (std::uint32_t y = 0; y < height; ++y) {
    REQUIRE(TIFFReadScanline(tiff, row.data(), y, 0) == 1);
    for (std::size_t i = 0; i < std::size_t{width} * read.samples; ++i) {
      std::uint16_t value = row[i];
      if (read.bits == 16) std::memcpy(&value, &row[2 * i], 2);
      read.values.push_back(value);
    }
  }
  TIFFClose(tiff);
  return read;
}

const std::string kGray = "/Subtype/Image/Width 2/Height 1/ColorSpace/DeviceGray";

}  // namespace

TEST_CASE("an image is where its corners are, on turned pages too", "[render]") {
  test::PdfBuilder pdf;
  pdf.stream(5, kGray + "/BitsPerComponent 8", "ab");
  const auto images = placed_images(scene_of(pdf, "/Rotate 90"));
  REQUIRE(images.size() == 1);
  // Turned clockwise, its top left corner (10, 30) is 30 from the left and 10 from the top.
  CHECK(images[0].quad() == Quad{{{30, 10}, {30, 50}, {10, 50}, {10, 10}}});
  CHECK(images[0].width() == 2);
  CHECK(images[0].height() == 1);
  CHECK_FALSE(images[0].has_mask());
}

TEST_CASE("JPEG and JPEG 2000 leave byte for byte, whatever is around them", "[render]") {
  const std::string jpeg = "\xFF\xD8 not looked at \xFF\xD9";
  test::PdfBuilder pdf;
  std::string hex;
  for (const char c : jpeg) {
    char digits[3];
    std::snprintf(digits, sizeof digits, "%02x", static_cast<unsigned char>(c));
    hex += digits;
  }
  pdf.stream(5, kGray + "/BitsPerComponent 8/Filter[/ASCIIHexDecode/DCTDecode]", hex + ">");
  const ImageBytes stored = only_image(pdf).stored().value();
  CHECK(stored.ending == "jpg");
  CHECK(std::string(stored.bytes.begin(), stored.bytes.end()) == jpeg);

  test::PdfBuilder other;
  other.stream(5, "/Subtype/Image/Width 4/Height 3/Filter/JPXDecode", "not looked at either");
  const ImageBytes kept = only_image(other).stored().value();
  CHECK(kept.ending == "jp2");
  CHECK(std::string(kept.bytes.begin(), kept.bytes.end()) == "not looked at either");
}

TEST_CASE("samples of 8 bits and less become PNG, with their mask as alpha", "[render]") {
  test::PdfBuilder pdf;
  pdf.stream(5, kGray + "/BitsPerComponent 4", "\x3C");
  const ImageBytes gray = only_image(pdf).stored().value();
  CHECK(gray.ending == "png");
  const auto read = test::read_png(gray.bytes, PNG_FORMAT_GRAY);
  CHECK(read.width == 2);
  CHECK(std::vector<std::uint8_t>(read.pixels.begin(), read.pixels.end()) ==
        std::vector<std::uint8_t>{0x33, 0xCC});

  test::PdfBuilder masked;
  masked.stream(
      5, "/Subtype/Image/Width 2/Height 1/ColorSpace/DeviceRGB/BitsPerComponent 8/SMask 6 0 R",
      "\x01\x02\x03\xFA\xFB\xFC");
  masked.stream(6, "/Subtype/Image/Width 4/Height 1/ColorSpace/DeviceGray/BitsPerComponent 8",
                std::string("\x00\x01\x80\xFF", 4));
  const PlacedImage image = only_image(masked);
  CHECK(image.has_mask());
  const auto colors = test::read_png(image.stored().value().bytes, PNG_FORMAT_RGBA);
  // As many as the mask has; colors of clear samples are kept.
  CHECK(colors.width == 4);
  CHECK(std::vector<std::uint8_t>(colors.pixels.begin(), colors.pixels.end()) ==
        std::vector<std::uint8_t>{1, 2, 3, 0, 1, 2, 3, 1, 0xFA, 0xFB, 0xFC, 0x80, 0xFA, 0xFB, 0xFC,
                                  0xFF});
}

TEST_CASE("a stencil is black where it paints and clear elsewhere", "[render]") {
  test::PdfBuilder pdf;
  pdf.stream(5, "/Subtype/Image/Width 2/Height 1/ImageMask true/BitsPerComponent 1", "\x40");
  const PlacedImage image = only_image(pdf);
  CHECK(image.is_stencil());
  const auto read = test::read_png(image.stored().value().bytes, PNG_FORMAT_RGBA);
  CHECK(std::vector<std::uint8_t>(read.pixels.begin(), read.pixels.end()) ==
        std::vector<std::uint8_t>{0, 0, 0, 255, 0, 0, 0, 0});
}

TEST_CASE("samples of 16 bits, of inks and of a profile's colors become TIFF without loss",
          "[render]") {
  test::PdfBuilder deep;
  deep.stream(5, kGray + "/BitsPerComponent 16", std::string("\x01\x02\xFE\xFD", 4));
  const ImageBytes sixteen = only_image(deep).stored().value();
  CHECK(sixteen.ending == "tif");
  const ReadTiff gray = read_tiff(sixteen.bytes);
  CHECK(gray.bits == 16);
  CHECK(gray.values == std::vector<std::uint16_t>{0x0102, 0xFEFD});

  test::PdfBuilder inks;
  inks.stream(
      5, "/Subtype/Image/Width 2/Height 1/ColorSpace/DeviceCMYK/BitsPerComponent 8/SMask 6 0 R",
      "\x01\x02\x03\x04\x05\x06\x07\x08");
  inks.stream(6, kGray + "/BitsPerComponent 8", "\x40\xC0");
  const ReadTiff cmyk = read_tiff(only_image(inks).stored().value().bytes);
  CHECK(cmyk.photometric == PHOTOMETRIC_SEPARATED);
  CHECK(cmyk.samples == 5);
  CHECK(cmyk.values == std::vector<std::uint16_t>{1, 2, 3, 4, 0x40, 5, 6, 7, 8, 0xC0});

  test::PdfBuilder profiled;
  profiled.stream(5,
                  "/Subtype/Image/Width 1/Height 1/ColorSpace[/ICCBased 6 0 R]/BitsPerComponent 8",
                  "\x10\x20\x30");
  profiled.stream(6, "/N 3", "a profile that is kept as it is");
  const ReadTiff colors = read_tiff(only_image(profiled).stored().value().bytes);
  CHECK(colors.profile == "a profile that is kept as it is");
  CHECK(colors.values == std::vector<std::uint16_t>{0x10, 0x20, 0x30});
}

TEST_CASE("as it is shown an image is PNG of the screen's colors, whatever it is stored as",
          "[render]") {
  test::PdfBuilder pdf;
  pdf.stream(5, "/Subtype/Image/Width 1/Height 1/ColorSpace/DeviceCMYK/BitsPerComponent 8",
             std::string("\x00\x00\x00\xFF", 4));
  const ImageBytes shown = only_image(pdf).shown().value();
  CHECK(shown.ending == "png");
  CHECK(data_uri(shown).starts_with("data:image/png;base64,iVBORw0KGgo"));
  const auto read = test::read_png(shown.bytes, PNG_FORMAT_RGB);
  CHECK(read.pixels.at(0) < 64);
  test::PdfBuilder damaged;
  damaged.stream(5, kGray + "/BitsPerComponent 8/Filter/DCTDecode", "nothing");
  CHECK_FALSE(only_image(damaged).shown().ok());
}

TEST_CASE("a highlight colors what lies within its quads, once, and nothing else", "[render]") {
  for (const PixelFormat format : {PixelFormat::rgba, PixelFormat::bgra, PixelFormat::rgb,
                                   PixelFormat::bgr, PixelFormat::gray}) {
    Raster sheet = Raster::make(20, 20, {}, format).value();
    std::fill_n(sheet.row(0), sheet.stride() * 20, std::uint8_t{255});
    const Quad box{{{1, 1}, {4, 1}, {4, 3}, {1, 3}}};
    const Quad back{{{1, 1}, {1, 3}, {4, 3}, {4, 1}}};  // the same, the other way round
    REQUIRE(highlight(sheet, {box, back}, {.scale = 2, .x = 3, .y = 4}, {128, 128, 128, 255}).ok());
    for (int y = 0; y < 20; ++y)
      for (int x = 0; x < 20; ++x) {
        const bool is_inside = x >= 5 && x < 11 && y >= 6 && y < 10;
        CHECK(int{sheet.at(x, y).green} == (is_inside ? 128 : 255));
      }
  }
  Raster bits = Raster::make(8, 8, {}, PixelFormat::bilevel).value();
  CHECK(highlight(bits, {}, {}).error().code() == ErrorCode::unsupported);
}

TEST_CASE("a selection's picture is as large as it and shows nothing beside it", "[render]") {
  test::PdfBuilder pdf;
  pdf.page("0 g 0 0 100 100 re f");
  const Scene scene = Scene::record(test::open(pdf.finish())->page(0).value()).value();
  const Raster picture = picture_of(scene, {{{{10, 10}, {50, 10}, {50, 20}, {10, 20}}},
                                            {{{10, 20}, {30, 20}, {30, 30}, {10, 30}}}})
                             .value();
  CHECK(picture.width() == 40);
  CHECK(picture.height() == 20);
  CHECK(picture.at(35, 5) == PixelColor{0, 0, 0, 255});
  CHECK(picture.at(10, 15) == PixelColor{0, 0, 0, 255});
  CHECK(picture.at(35, 15) == kWhite);
  CHECK(picture_of(scene, {}).error().code() == ErrorCode::invalid_argument);
}
