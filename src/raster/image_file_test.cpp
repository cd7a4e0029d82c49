// SPDX-License-Identifier: Apache-2.0
// What is written is read back by the libraries that know each format.
#include "lumvet/raster/image_file.h"

#include <jpeglib.h>
#include <tiffio.h>
#include <webp/decode.h>
#include <webp/demux.h>

#include "raster/encoder.h"
#include "raster/pixel_formats.h"
#include "tests/support/catch.h"
#include "tests/support/png.h"
#include "tests/support/temporary_folder.h"

using namespace lumvet;
using test::TemporaryFolder;

namespace {

constexpr int kWidth = 83;
constexpr int kHeight = 40;

// Slopes of color, and of opacity unless it is opaque.
Raster sample(PixelFormat format, bool opaque = true) {
  Raster raster = Raster::make(kWidth, kHeight, {}, format).value();
  Bytes row(kWidth * 4);
  for (int y = 0; y < kHeight; ++y) {
    for (int x = 0; x < kWidth; ++x) {
      const int alpha = opaque ? 255 : 255 - 6 * y;
      std::uint8_t* p = &row[static_cast<std::size_t>(x) * 4];
      p[0] = static_cast<std::uint8_t>(3 * x * alpha / 255);
      p[1] = static_cast<std::uint8_t>(6 * y * alpha / 255);
      p[2] = static_cast<std::uint8_t>((250 - 3 * x) * alpha / 255);
      p[3] = static_cast<std::uint8_t>(alpha);
    }
    raster::from_rgba(row.data(), kWidth, format, Halftone::threshold, 0, y, raster.row(y));
  }
  return raster;
}

struct Decoded {
  int width = 0;
  int height = 0;
  double dpi = 0;
  bool has_profile = false;
  Bytes rgba{};  // straight

  PixelColor at(int x, int y) const {
    const std::uint8_t* p = &rgba[static_cast<std::size_t>(y * width + x) * 4];
    return {p[0], p[1], p[2], p[3]};
  }
};

Decoded decode_png(const Bytes& bytes) {
  test::ReadPng read = test::read_png(bytes);
  Decoded decoded{.width = read.width, .height = read.height};
  decoded.rgba = std::move(read.pixels);
  const std::string text(bytes.begin(), bytes.end());
  decoded.has_profile = text.find("sRGB") != std::string::npos;
  if (const auto at = text.find("pHYs"); at != std::string::npos) {
    const auto* p = &bytes[at + 4];
    decoded.dpi = (p[0] << 24 | p[1] << 16 | p[2] << 8 | p[3]) * 0.0254;
  }
  return decoded;
}

Decoded decode_jpeg(const Bytes& bytes) {
  jpeg_decompress_struct info{};
  jpeg_error_mgr errors{};
  info.err = jpeg_std_error(&errors);
  jpeg_create_decompress(&info);
  jpeg_mem_src(&info, bytes.data(), bytes.size());
  jpeg_save_markers(&info, JPEG_APP0 + 2, 0xFFFF);
  jpeg_read_header(&info, TRUE);
  info.out_color_space = JCS_EXT_RGBA;
  jpeg_start_decompress(&info);
  Decoded decoded{static_cast<int>(info.output_width), static_cast<int>(info.output_height)};
  decoded.dpi = info.density_unit == 1 ? info.X_density : 0;
  decoded.has_profile = info.marker_list != nullptr;
  decoded.rgba.resize(static_cast<std::size_t>(decoded.width) *
                      static_cast<std::size_t>(decoded.height) * 4);
  while (info.output_scanline < info.output_height) {
    JSAMPROW row = &decoded.rgba[info.output_scanline * info.output_width * 4];
    jpeg_read_scanlines(&info, &row, 1);
  }
  jpeg_finish_decompress(&info);
  jpeg_destroy_decompress(&info);
  return decoded;
}

std::vector<Decoded> decode_tiff(const Bytes& bytes) {
  const TemporaryFolder folder;
  test::write_file(folder / "a.tiff", std::string(bytes.begin(), bytes.end()));
  TIFF* tiff = TIFFOpen((folder / "a.tiff").c_str(), "r");
  REQUIRE(tiff != nullptr);
  std::vector<Decoded> images;
  do {
    Decoded decoded;
    float dpi = 0;
    std::uint32_t size = 0;
    void* profile = nullptr;
    TIFFGetField(tiff, TIFFTAG_IMAGEWIDTH, &decoded.width);
    TIFFGetField(tiff, TIFFTAG_IMAGELENGTH, &decoded.height);
    TIFFGetField(tiff, TIFFTAG_XRESOLUTION, &dpi);
    decoded.dpi = dpi;
    decoded.has_profile = TIFFGetField(tiff, TIFFTAG_ICCPROFILE, &size, &profile) == 1;
    decoded.rgba.resize(static_cast<std::size_t>(decoded.width) *
                        static_cast<std::size_t>(decoded.height) * 4);
    REQUIRE(TIFFReadRGBAImageOriented(tiff, static_cast<unsigned>(decoded.width),
                                      static_cast<unsigned>(decoded.height),
                                      reinterpret_cast<std::uint32_t*>(decoded.rgba.data()),
                                      ORIENTATION_TOPLEFT, 1) == 1);
    images.push_back(std::move(decoded));
  } while (TIFFReadDirectory(tiff) == 1);
  TIFFClose(tiff);
  return images;
}

Decoded decode_webp(const Bytes& bytes) {
  Decoded decoded;
  std::uint8_t* pixels =
      WebPDecodeRGBA(bytes.data(), bytes.size(), &decoded.width, &decoded.height);
  REQUIRE(pixels != nullptr);
  decoded.rgba.assign(pixels, pixels + decoded.width * decoded.height * 4);
  WebPFree(pixels);
  const std::string text(bytes.begin(), bytes.end());
  decoded.has_profile = text.find("ICCP") != std::string::npos;
  if (const auto at = text.find("EXIF"); at != std::string::npos)  // the first value after the tags
    decoded.dpi =
        (bytes[at + 8 + 50] | bytes[at + 8 + 51] << 8 | bytes[at + 8 + 52] << 16) / 1000.0;
  return decoded;
}

Decoded decode_pnm(const Bytes& bytes) {
  std::istringstream in(std::string(bytes.begin(), bytes.end()));
  std::string kind;
  Decoded decoded;
  int most = 1;
  in >> kind >> decoded.width >> decoded.height;
  if (kind != "P4") in >> most;
  in.get();
  for (int y = 0; y < decoded.height; ++y)
    for (int x = 0, byte = 0; x < decoded.width; ++x) {
      std::uint8_t p[4] = {0, 0, 0, 255};
      if (kind == "P4" && x % 8 == 0) byte = in.get();
      if (kind == "P4") p[0] = p[1] = p[2] = (byte & 0x80 >> x % 8) != 0 ? 0 : 255;
      if (kind == "P5") p[0] = p[1] = p[2] = static_cast<std::uint8_t>(in.get());
      for (int k = 0; k < 3 && kind == "P6"; ++k) p[k] = static_cast<std::uint8_t>(in.get());
      decoded.rgba.insert(decoded.rgba.end(), p, p + 4);
    }
  REQUIRE(in);
  return decoded;
}

Decoded decode(const Bytes& bytes, ImageFormat format) {
  switch (format) {
    case ImageFormat::jpeg: return decode_jpeg(bytes);
    case ImageFormat::tiff: return decode_tiff(bytes).at(0);
    case ImageFormat::webp: return decode_webp(bytes);
    case ImageFormat::pnm: return decode_pnm(bytes);
    default: return decode_png(bytes);
  }
}

// The greatest difference of a channel, where the raster shows over white what has no alpha.
int difference(const Raster& raster, const Decoded& decoded, bool keeps_alpha) {
  int most = 0;
  for (int y = 0; y < kHeight; ++y)
    for (int x = 0; x < kWidth; ++x) {
      PixelColor wanted = raster.at(x, y);
      const PixelColor got = decoded.at(x, y);
      if (!keeps_alpha) {
        const auto over = [&](unsigned c) {
          return static_cast<std::uint8_t>((c * wanted.alpha + 255u * (255u - wanted.alpha)) / 255);
        };
        wanted = {over(wanted.red), over(wanted.green), over(wanted.blue), 255};
      }
      most = std::max({most, std::abs(wanted.red - got.red), std::abs(wanted.green - got.green),
                       std::abs(wanted.blue - got.blue), std::abs(wanted.alpha - got.alpha)});
    }
  return most;
}

}  // namespace

TEST_CASE("every format of image keeps pixels, resolution and profile", "[raster]") {
  const auto format = GENERATE(ImageFormat::png, ImageFormat::jpeg, ImageFormat::tiff,
                               ImageFormat::webp, ImageFormat::pnm);
  const auto pixels = GENERATE(PixelFormat::rgba, PixelFormat::bgra, PixelFormat::rgb,
                               PixelFormat::bgr, PixelFormat::gray, PixelFormat::bilevel);
  const bool opaque = GENERATE(true, false);
  CAPTURE(static_cast<int>(format), static_cast<int>(pixels), opaque);
  const Raster raster = sample(pixels, opaque);
  const ImageOptions options{.format = format, .dpi = 300, .quality = 98};
  const Result<Bytes> bytes = encode_image(raster, options);
  if (pixels == PixelFormat::bilevel &&
      (format == ImageFormat::jpeg || format == ImageFormat::webp)) {
    CHECK(bytes.error().code() == ErrorCode::invalid_argument);
    return;
  }
  REQUIRE(bytes.ok());
  const Decoded decoded = decode(*bytes, format);
  CHECK(decoded.width == kWidth);
  CHECK(decoded.height == kHeight);
  const bool keeps_alpha = format != ImageFormat::jpeg && format != ImageFormat::pnm;
  // JPEG loses a little; libtiff's reader of opacity multiplies and so rounds.
  if (format != ImageFormat::tiff || opaque || raster.at(0, 9).alpha == 255)
    CHECK(difference(raster, decoded, keeps_alpha) <= (format == ImageFormat::jpeg ? 24 : 1));
  if (format == ImageFormat::pnm) return;
  CHECK(decoded.dpi == Approx(300).margin(0.01));
  if (format != ImageFormat::tiff || pixels != PixelFormat::bilevel) CHECK(decoded.has_profile);
  CHECK((encode_image(raster, options).value() == *bytes));
}

TEST_CASE("a TIFF file holds several images, in memory and on disk alike", "[raster]") {
  const TemporaryFolder folder;
  struct Refusing final : ByteSink {  // no PatchableSink
    Bytes bytes;
    Status write(ByteView more) override {
      bytes.insert(bytes.end(), more.begin(), more.end());
      return Done{};
    }
  } stream;
  AtomicFile file = AtomicFile::create(folder / "a.tiff", IfExists::refuse).value();
  for (ByteSink* sink : std::initializer_list<ByteSink*>{&stream, &file}) {
    ImageWriter writer(*sink, {.format = ImageFormat::tiff, .dpi = 200});
    for (const PixelFormat pixels : {PixelFormat::bilevel, PixelFormat::rgb, PixelFormat::gray}) {
      const Raster raster = sample(pixels);
      REQUIRE(writer.begin(kWidth, kHeight, pixels).ok());
      REQUIRE(writer.write_rows(raster.row(0), 7, std::ptrdiff_t(raster.stride())).ok());
      REQUIRE(writer.write_rows(raster.row(7), kHeight - 7, std::ptrdiff_t(raster.stride())).ok());
    }
    REQUIRE(writer.finish().ok());
  }
  REQUIRE(file.commit().ok());
  const std::string on_disk = test::read_file(folder / "a.tiff");
  CHECK((on_disk == std::string(stream.bytes.begin(), stream.bytes.end())));
  const std::vector<Decoded> images = decode_tiff(stream.bytes);
  REQUIRE(images.size() == 3);
  CHECK(difference(sample(PixelFormat::bilevel), images[0], true) == 0);
  CHECK(difference(sample(PixelFormat::rgb), images[1], true) == 0);
  CHECK(difference(sample(PixelFormat::gray), images[2], true) == 0);
}

TEST_CASE("wrong use of an image writer is told, and a full disk too", "[raster]") {
  BufferSink sink;
  ImageWriter writer(sink, {});
  CHECK(writer.finish().error().code() == ErrorCode::invalid_argument);
  const Raster raster = sample(PixelFormat::rgb);
  REQUIRE(writer.begin(kWidth, kHeight, PixelFormat::rgb).ok());
  CHECK(writer.finish().error().code() == ErrorCode::invalid_argument);
  CHECK(writer.write_rows(raster.row(0), kHeight + 1, 0).error().code() ==
        ErrorCode::invalid_argument);
  REQUIRE(writer.write_rows(raster.row(0), kHeight, std::ptrdiff_t(raster.stride())).ok());
  CHECK(writer.begin(1, 1, PixelFormat::rgb).error().code() == ErrorCode::invalid_argument);
  CHECK(ImageWriter(sink, {.format = ImageFormat::webp})
            .begin(20'000, 10, PixelFormat::rgb)
            .error()
            .code() == ErrorCode::invalid_argument);
  CHECK(image_format_of("a/b.JPG").value() == ImageFormat::jpeg);
  CHECK(image_format_of("a.gif").error().code() == ErrorCode::invalid_argument);

  struct Full final : ByteSink {
    Status write(ByteView) override { return Error(ErrorCode::io, "no space left"); }
  } full;
  const auto format = GENERATE(ImageFormat::png, ImageFormat::jpeg, ImageFormat::tiff,
                               ImageFormat::webp, ImageFormat::pnm);
  ImageWriter unlucky(full, {.format = format});
  Status status = unlucky.begin(kWidth, kHeight, PixelFormat::rgb);
  if (status.ok())
    status = unlucky.write_rows(raster.row(0), kHeight, std::ptrdiff_t(raster.stride()));
  if (status.ok()) status = unlucky.finish();
  REQUIRE_FALSE(status.ok());
  CHECK(status.error().message() == "no space left");
}

TEST_CASE("pixels change format, tone and shade as they should", "[raster]") {
  const std::uint8_t red_half[] = {100, 0, 0, 128};
  std::uint8_t out[4] = {};
  raster::from_rgba(red_half, 1, PixelFormat::bgr, Halftone::threshold, 0, 0, out);
  CHECK((out[0] == 127 && out[1] == 127 && out[2] == 227));
  raster::from_rgba(red_half, 1, PixelFormat::gray, Halftone::threshold, 0, 0, out);
  CHECK(int(out[0]) == 127 + 30);

  // At night white is black, black is white, and red stays red.
  std::uint8_t night[] = {255, 255, 255, 255, 0, 0, 0, 255, 200, 50, 50, 255, 0, 0, 0, 0};
  raster::turn_for_night(night, 4);
  const std::uint8_t wanted[] = {0, 0, 0, 255, 255, 255, 255, 255, 205, 55, 55, 255, 0, 0, 0, 0};
  CHECK(std::equal(std::begin(night), std::end(night), std::begin(wanted)));

  // Dots let as much white through as the gray has.
  for (const int gray : {0, 40, 128, 200, 255}) {
    Bytes row(64 * 4, static_cast<std::uint8_t>(gray));
    for (std::size_t i = 3; i < row.size(); i += 4) row[i] = 255;
    int white = 0;
    for (int y = 0; y < 64; ++y) {
      std::uint8_t bits[8];
      raster::from_rgba(row.data(), 64, PixelFormat::bilevel, Halftone::ordered, 0, y, bits);
      for (const std::uint8_t byte : bits) white += std::popcount(byte);
    }
    CHECK(white / (64.0 * 64) == Approx(gray / 255.0).margin(0.01));
  }
}
