// SPDX-License-Identifier: Apache-2.0
// The image codecs against encoders of others: libjpeg, OpenJPEG, and libtiff for facsimile rows,
// which JBIG2 can carry as well.
#include <cstdio>

#include <jpeglib.h>
#include <tiffio.h>

#include <cmath>
#include <random>

#include "base/apart.h"
#include "images/ccitt.h"
#include "images/codec.h"
#include "images/image_reader.h"
#include "tests/support/catch.h"
#include "tests/support/jpx.h"
#include "tests/support/plain_resolver.h"
#include "tests/support/temporary_folder.h"

using namespace lumvet;
using namespace lumvet::images;

namespace {

// A made-up drawing: lines, a disc and some noise. 1 is black.
Bytes drawing(int width, int height, unsigned seed, double noise = 0.002) {
  std::mt19937 random(seed);
  std::bernoulli_distribution flip(noise);
  const std::size_t stride = (static_cast<std::size_t>(width) + 7) / 8;
  Bytes bits(stride * static_cast<std::size_t>(height));
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < width; ++x) {
      const bool disc = std::hypot(x - width / 2.0, y - height / 3.0) < width / 5.0;
      const bool line = (x + 2 * y) % 37 < 3 || y % 29 == 0;
      if ((disc != line) != flip(random))
        bits[static_cast<std::size_t>(y) * stride + static_cast<std::size_t>(x / 8)] |=
            static_cast<std::uint8_t>(0x80 >> x % 8);
    }
  return bits;
}

Bytes inverted(Bytes bytes) {
  for (std::uint8_t& byte : bytes) byte = static_cast<std::uint8_t>(~byte);
  return bytes;
}

// The bits beyond the last column say nothing.
Bytes without_padding(Bytes rows, int width, bool ones) {
  const std::size_t stride = (static_cast<std::size_t>(width) + 7) / 8;
  if (width % 8 == 0) return rows;
  const auto mask = static_cast<std::uint8_t>(0xFF >> width % 8);
  for (std::size_t at = stride - 1; at < rows.size(); at += stride)
    rows[at] = static_cast<std::uint8_t>(ones ? rows[at] | mask : rows[at] & ~mask);
  return rows;
}

// The rows as libtiff packs them.
Bytes packed_by_tiff(const Bytes& bits, int width, int height, int compression, int options) {
  const test::TemporaryFolder folder;
  const std::string path = (folder / "page.tif").string();
  TIFF* tiff = TIFFOpen(path.c_str(), "w");
  TIFFSetField(tiff, TIFFTAG_IMAGEWIDTH, width);
  TIFFSetField(tiff, TIFFTAG_IMAGELENGTH, height);
  TIFFSetField(tiff, TIFFTAG_BITSPERSAMPLE, 1);
  TIFFSetField(tiff, TIFFTAG_SAMPLESPERPIXEL, 1);
  TIFFSetField(tiff, TIFFTAG_ROWSPERSTRIP, height);
  TIFFSetField(tiff, TIFFTAG_PHOTOMETRIC, PHOTOMETRIC_MINISWHITE);
  TIFFSetField(tiff, TIFFTAG_COMPRESSION, compression);
  if (compression == COMPRESSION_CCITTFAX3) TIFFSetField(tiff, TIFFTAG_GROUP3OPTIONS, options);
  Bytes copy = bits;
  TIFFWriteEncodedStrip(tiff, 0, copy.data(), static_cast<tmsize_t>(copy.size()));
  TIFFClose(tiff);
  tiff = TIFFOpen(path.c_str(), "r");
  Bytes raw(static_cast<std::size_t>(TIFFRawStripSize64(tiff, 0)));
  TIFFReadRawStrip(tiff, 0, raw.data(), static_cast<tmsize_t>(raw.size()));
  TIFFClose(tiff);
  return raw;
}

Samples run(Codec codec, const Bytes& input, const Dict& parameters, int width, int height,
            const Bytes& globals = {}) {
  return codec({.input = input,
                .parameters = parameters,
                .globals = globals,
                .width = width,
                .height = height,
                .most_pixels = 10'000'000})
      .value();
}

struct JpegKind {
  J_COLOR_SPACE from = JCS_RGB;  // what the samples are
  J_COLOR_SPACE to = JCS_YCbCr;  // what is stored
  bool marker = false;
  bool progressive = false;
};

Bytes make_jpeg(int width, int height, int channels, const Bytes& samples, const JpegKind& kind) {
  jpeg_compress_struct jpeg{};
  jpeg_error_mgr errors{};
  jpeg.err = jpeg_std_error(&errors);
  jpeg_create_compress(&jpeg);
  unsigned char* buffer = nullptr;
  unsigned long size = 0;
  jpeg_mem_dest(&jpeg, &buffer, &size);
  jpeg.image_width = static_cast<JDIMENSION>(width);
  jpeg.image_height = static_cast<JDIMENSION>(height);
  jpeg.input_components = channels;
  jpeg.in_color_space = kind.from;
  jpeg_set_defaults(&jpeg);
  jpeg_set_colorspace(&jpeg, kind.to);
  jpeg.write_Adobe_marker = static_cast<boolean>(kind.marker);
  if (kind.marker || channels == 3) jpeg.write_JFIF_header = FALSE;
  jpeg_set_quality(&jpeg, 100, TRUE);
  if (kind.progressive) jpeg_simple_progression(&jpeg);
  jpeg_start_compress(&jpeg, TRUE);
  while (jpeg.next_scanline < jpeg.image_height) {
    JSAMPROW row = const_cast<JSAMPROW>(
        &samples[jpeg.next_scanline * static_cast<std::size_t>(width * channels)]);
    jpeg_write_scanlines(&jpeg, &row, 1);
  }
  jpeg_finish_compress(&jpeg);
  Bytes bytes(buffer, buffer + size);
  jpeg_destroy_compress(&jpeg);
  std::free(buffer);
  return bytes;
}

int largest_difference(const Bytes& a, const Bytes& b) {
  int largest = a.size() == b.size() ? 0 : 999;
  for (std::size_t i = 0; i < std::min(a.size(), b.size()); ++i)
    largest = std::max(largest, std::abs(int{a[i]} - int{b[i]}));
  return largest;
}

Bytes one_color(const Bytes& color, int pixels) {
  Bytes samples;
  for (int i = 0; i < pixels; ++i) samples.insert(samples.end(), color.begin(), color.end());
  return samples;
}

std::string be(std::uint64_t value, int width) {
  std::string out;
  for (int i = width; i-- > 0;) out += static_cast<char>(value >> (8 * i));
  return out;
}

// A JBIG2 segment (T.88, 7.2) of page 1, or of all pages.
std::string segment(std::uint32_t number, int type, int page, const std::string& referred,
                    const std::string& data) {
  return be(number, 4) + be(static_cast<std::uint32_t>(type), 1) +
         be(static_cast<std::uint32_t>(referred.size()) << 5, 1) + referred +
         be(static_cast<std::uint32_t>(page), 1) + be(static_cast<std::uint32_t>(data.size()), 4) +
         data;
}

std::string region(int width, int height) {
  return be(static_cast<std::uint32_t>(width), 4) + be(static_cast<std::uint32_t>(height), 4) +
         be(0, 4) + be(0, 4) + be(0, 1);
}

std::string page_of(int width, int height) {
  return segment(1, 48, 1, "",
                 be(static_cast<std::uint32_t>(width), 4) +
                     be(static_cast<std::uint32_t>(height), 4) + be(0, 8) + be(0, 1) + be(0, 2));
}

std::string text_of(const Bytes& bytes) { return {bytes.begin(), bytes.end()}; }
Bytes bytes_of(const std::string& text) { return {text.begin(), text.end()}; }

}  // namespace

TEST_CASE("facsimile rows that libtiff packed come out as they went in", "[codecs]") {
  struct Kind {
    int compression;
    int options;
    Dict parameters;
  };
  const std::vector<Kind> kinds = {
      {COMPRESSION_CCITTFAX4, 0, {{"K", -1}}},
      {COMPRESSION_CCITTFAX3, 0, {{"K", 0}}},
      {COMPRESSION_CCITTFAX3, GROUP3OPT_2DENCODING, {{"K", 4}, {"EndOfLine", true}}},
      {COMPRESSION_CCITTFAX3, GROUP3OPT_FILLBITS, {{"K", 0}, {"EncodedByteAlign", true}}},
      {COMPRESSION_CCITTFAX3,
       GROUP3OPT_2DENCODING | GROUP3OPT_FILLBITS,
       {{"K", 4}, {"EncodedByteAlign", true}}},
      {COMPRESSION_CCITTRLE, 0, {{"K", 0}, {"EncodedByteAlign", true}, {"EndOfBlock", false}}},
  };
  for (const Kind& kind : kinds)
    for (const int width : {1, 7, 64, 200, 2600, 5300}) {
      CAPTURE(kind.compression, kind.options, width);
      const int height = 60;
      const Bytes bits = without_padding(drawing(width, height, 7), width, false);
      const Bytes packed = packed_by_tiff(bits, width, height, kind.compression, kind.options);
      Dict parameters = kind.parameters;
      parameters.set("Columns", width);
      const Samples white_is_1 = run(decode_ccitt, packed, parameters, width, height);
      CHECK((white_is_1.bytes == inverted(bits)));
      CHECK_FALSE(white_is_1.damage);
      parameters.set("BlackIs1", true);
      parameters.set("Rows", height);
      CHECK((run(decode_ccitt, packed, parameters, width, 0).bytes == bits));
    }
}

TEST_CASE("a facsimile row worked out by hand", "[codecs]") {
  // T.4: 4 white (1011), 3 black (10), 9 white (10100): 1011 10 10100 and padding.
  const Samples one =
      run(decode_ccitt, {0b10111010, 0b10000000},
          {{"K", 0}, {"Columns", 16}, {"EndOfBlock", false}, {"BlackIs1", true}}, 16, 1);
  CHECK(one.bytes == Bytes{0b00001110, 0});
  // T.6 below it: V0 V0 V0 repeats the row; then pass, and V0 to the end: all white.
  // horizontal 001 with 1011 10, V0 1 · 1 1 1 · 0001 1 · end of block.
  const std::string bits =
      "001"
      "1011"
      "10"
      "1"
      "111"
      "0001"
      "1"
      "000000000001"
      "000000000001";
  Bytes packed((bits.size() + 7) / 8);
  for (std::size_t i = 0; i < bits.size(); ++i)
    if (bits[i] == '1') packed[i / 8] |= static_cast<std::uint8_t>(0x80 >> i % 8);
  const Samples three =
      run(decode_ccitt, packed, {{"K", -1}, {"Columns", 16}, {"BlackIs1", true}}, 0, 0);
  CHECK(three.height == 3);
  CHECK(three.bytes == Bytes{0b00001110, 0, 0b00001110, 0, 0, 0});
}

TEST_CASE("a damaged facsimile row is stood in for by the one above, and reading goes on",
          "[codecs]") {
  const int width = 400;
  const int height = 80;
  const Bytes bits = drawing(width, height, 3);
  Bytes packed = packed_by_tiff(bits, width, height, COMPRESSION_CCITTFAX3, 0);
  packed[packed.size() / 2] ^= 0x5A;
  const Dict parameters{{"K", 0}, {"Columns", width}, {"BlackIs1", true}};
  const Samples samples = run(decode_ccitt, packed, parameters, width, height);
  REQUIRE(samples.damage);
  CHECK_THAT(*samples.damage, Catch::Contains("rows of a facsimile image are damaged"));
  CHECK(samples.damage_offset > packed.size() / 3);
  REQUIRE(samples.height >= height - 2);
  const auto row = [](const Bytes& rows, int y) {
    return as_text(ByteView(rows).subspan(static_cast<std::size_t>(y) * 50, 50));
  };
  for (int y = 0; y < height / 3; ++y) CHECK(row(samples.bytes, y) == row(bits, y));
  // A mark that is damaged itself makes one row of two, so what follows may have moved by one.
  int most_alike = 0;
  for (const int shift : {-1, 0, 1}) {
    int alike = 0;
    for (int y = height * 2 / 3; y < height - 3; ++y)
      alike += row(samples.bytes, y + shift) == row(bits, y);
    most_alike = std::max(most_alike, alike);
  }
  CHECK(most_alike == height - 3 - height * 2 / 3);
  // Group 4 has nothing to find the next row by: what came before is kept.
  Bytes four = packed_by_tiff(bits, width, height, COMPRESSION_CCITTFAX4, 0);
  const std::size_t half = four.size() / 2;
  four.resize(half);
  const Samples cut =
      run(decode_ccitt, four, {{"K", -1}, {"Columns", width}, {"BlackIs1", true}}, width, height);
  CHECK(cut.damage);
  CHECK(cut.height > height / 4);
  CHECK(std::equal(bits.begin(), bits.begin() + 50 * (cut.height - 1), cut.bytes.begin()));
}

TEST_CASE("JBIG2 images with patterns out of the globals", "[codecs]") {
  const int width = 96;
  const int height = 64;
  const Bytes bits = drawing(width, height, 11);
  // A generic region, coded like group 4 facsimile (T.88, 7.4.6, MMR).
  const std::string coded = text_of(packed_by_tiff(bits, width, height, COMPRESSION_CCITTFAX4, 0));
  const std::string generic =
      page_of(width, height) +
      segment(2, 38, 1, "", region(width, height) + std::string("\x01", 1) + coded);
  const Samples plain = run(decode_jbig2, bytes_of(generic), {}, width, height);
  CHECK((plain.bytes == inverted(bits)));
  CHECK_FALSE(plain.damage);
  // Two patterns of 8 × 8, white and black, in a dictionary that is global; a halftone of 12 × 8 of
  // them (T.88, 6.6 and 6.7).
  Bytes patterns;
  for (int y = 0; y < 8; ++y) patterns.insert(patterns.end(), {0x00, 0xFF});
  const std::string dictionary =
      segment(0, 16, 0, "",
              std::string("\x01\x08\x08", 3) + be(1, 4) +
                  text_of(packed_by_tiff(patterns, 16, 8, COMPRESSION_CCITTFAX4, 0)));
  const Bytes cells = drawing(12, 8, 5, 0.3);
  const std::string halftone =
      page_of(width, height) +
      segment(2, 23, 1, std::string("\x00", 1),
              region(width, height) + std::string("\x01", 1) + be(12, 4) + be(8, 4) + be(0, 4) +
                  be(0, 4) + be(8 * 256, 2) + be(0, 2) +
                  text_of(packed_by_tiff(cells, 12, 8, COMPRESSION_CCITTFAX4, 0)));
  const Samples screened =
      run(decode_jbig2, bytes_of(halftone), {}, width, height, bytes_of(dictionary));
  CHECK_FALSE(screened.damage);
  int wrong = 0;
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < width; ++x) {
      const bool cell =
          (cells[static_cast<std::size_t>(y / 8 * 2 + x / 64)] >> (7 - x / 8 % 8) & 1) != 0;
      const bool pixel =
          (screened.bytes[static_cast<std::size_t>(y * 12 + x / 8)] >> (7 - x % 8) & 1) != 0;
      wrong += cell == pixel;  // a set cell is black, which is 0 here
    }
  CHECK(wrong == 0);
  const auto lost = decode_jbig2({.input = bytes_of(halftone),
                                  .parameters = {},
                                  .globals = {},
                                  .width = width,
                                  .height = height,
                                  .most_pixels = 1'000'000});
  CHECK((!lost.ok() || lost->damage));
}

TEST_CASE("JPEG images of every kind keep their colors", "[codecs]") {
  const auto [channels, kind, transform, color] = GENERATE(table<int, JpegKind, int, Bytes>({
      {1, {JCS_GRAYSCALE, JCS_GRAYSCALE, false, false}, -1, {77}},
      {1, {JCS_GRAYSCALE, JCS_GRAYSCALE, false, true}, -1, {77}},
      {3, {JCS_RGB, JCS_YCbCr, false, false}, -1, {200, 30, 40}},
      {3, {JCS_RGB, JCS_YCbCr, false, true}, 1, {200, 30, 40}},
      {3, {JCS_RGB, JCS_YCbCr, true, false}, 0, {200, 30, 40}},  // the marker counts
      {3, {JCS_RGB, JCS_RGB, true, false}, 1, {200, 30, 40}},
      {3, {JCS_RGB, JCS_RGB, false, false}, 0, {200, 30, 40}},
      {4, {JCS_CMYK, JCS_CMYK, false, false}, -1, {10, 200, 90, 30}},
      {4, {JCS_CMYK, JCS_CMYK, true, true}, 1, {10, 200, 90, 30}},
      {4, {JCS_CMYK, JCS_YCCK, true, false}, -1, {10, 200, 90, 30}},
      {4, {JCS_CMYK, JCS_YCCK, false, false}, 1, {10, 200, 90, 30}},
  }));
  CAPTURE(channels, kind.to, kind.marker, kind.progressive, transform);
  const Bytes samples = one_color(color, 16 * 16);
  const Bytes jpeg = make_jpeg(16, 16, channels, samples, kind);
  Dict parameters;
  if (transform >= 0) parameters.set("ColorTransform", transform);
  const Samples decoded = run(decode_dct, jpeg, parameters, 16, 16);
  CHECK(decoded.components == channels);
  CHECK(largest_difference(decoded.bytes, samples) <= 3);
  CHECK_FALSE(decoded.damage);
}

TEST_CASE("a JPEG image that is cut off keeps its rows; garbage is an error", "[codecs]") {
  Bytes samples(128 * 128);
  for (std::size_t i = 0; i < samples.size(); ++i)
    samples[i] = static_cast<std::uint8_t>(i * 7 % 251);
  Bytes jpeg = make_jpeg(128, 128, 1, samples, {JCS_GRAYSCALE, JCS_GRAYSCALE, false, false});
  jpeg.resize(jpeg.size() / 2);
  const Samples cut = run(decode_dct, jpeg, {}, 128, 128);
  CHECK(cut.damage);
  CHECK(std::abs(int{cut.bytes[0]} - int{samples[0]}) <= 6);
}

TEST_CASE("a JPEG image comes in pieces of any size as it does whole", "[codecs]") {
  const auto [channels, kind] = GENERATE(table<int, JpegKind>({
      {1, {JCS_GRAYSCALE, JCS_GRAYSCALE, false, false}},
      {3, {JCS_RGB, JCS_YCbCr, false, true}},
      {4, {JCS_CMYK, JCS_YCCK, true, false}},
  }));
  Bytes samples(static_cast<std::size_t>(90 * 50 * channels));
  for (std::size_t i = 0; i < samples.size(); ++i)
    samples[i] = static_cast<std::uint8_t>(i / 3 % 251);
  const Bytes jpeg = make_jpeg(90, 50, channels, samples, kind);
  for (const std::size_t kept : {jpeg.size(), jpeg.size() * 2 / 3}) {
    const Bytes input(jpeg.begin(), jpeg.begin() + static_cast<std::ptrdiff_t>(kept));
    const Samples whole = run(decode_dct, input, {}, 90, 50);
    for (const std::size_t size : {1u, 7u, 90u, 4096u, 100'000u}) {
      CAPTURE(channels, kept, size);
      SampleRows rows = start_dct(ByteSlice(Bytes(input)), {}, 10'000).value();
      CHECK(rows.components == channels);
      Bytes joined;
      Bytes piece(size);
      std::size_t given = size;
      while (given == size) {
        given = rows.bytes->read(piece).value();
        joined.insert(joined.end(), piece.begin(),
                      piece.begin() + static_cast<std::ptrdiff_t>(given));
      }
      joined.resize(whole.bytes.size(), 255);
      CHECK((joined == whole.bytes));
      CHECK(rows.bytes->damage().has_value() == whole.damage.has_value());
    }
  }
}

TEST_CASE("JPEG 2000 images, boxed and bare, of any depth, with and without opacity", "[codecs]") {
  std::mt19937 random(5);
  for (const bool boxed : {true, false})
    for (const unsigned bits : {1u, 4u, 8u, 12u, 16u})
      for (const unsigned channels : {1u, 2u, 3u, 4u}) {
        if (channels == 2 && !boxed) continue;
        const bool alpha = channels == 2 || (channels == 4 && boxed);
        CAPTURE(boxed, bits, channels);
        const int width = 33;
        const int height = 21;
        std::vector<int> values(static_cast<std::size_t>(width * height) * channels);
        for (int& value : values) value = static_cast<int>(random() % (1u << bits));
        const Bytes jpx = test::make_jpx(width, height, channels, bits, alpha, boxed, values);
        const Samples samples = run(decode_jpx, jpx, {}, width, height);
        const unsigned colors = channels - (alpha ? 1 : 0);
        REQUIRE(samples.components == static_cast<int>(colors));
        CHECK(samples.alpha.empty() == !alpha);
        CHECK_FALSE(samples.damage);
        int wrong = 0;
        for (std::size_t i = 0; i < static_cast<std::size_t>(width * height); ++i)
          for (unsigned k = 0; k < channels; ++k) {
            const int value = values[i * channels + k];
            const int expected = bits > 8 ? value >> (bits - 8) : value * 255 / ((1 << bits) - 1);
            const int got = k < colors ? samples.bytes[i * colors + k] : samples.alpha[i];
            wrong += got != expected;
          }
        CHECK(wrong == 0);
      }
}

TEST_CASE("every codec survives every truncation and says what is wrong", "[codecs]") {
  const int width = 40;
  const int height = 30;
  const Bytes bits = drawing(width, height, 2);
  std::vector<int> values(static_cast<std::size_t>(width * height), 100);
  const std::string coded = text_of(packed_by_tiff(bits, width, height, COMPRESSION_CCITTFAX4, 0));
  struct Case {
    Codec codec;
    Bytes good;
    Dict parameters;
  };
  const std::vector<Case> cases = {
      {decode_ccitt, bytes_of(coded), {{"K", -1}, {"Columns", width}}},
      {decode_jbig2,
       bytes_of(page_of(width, height) +
                segment(2, 38, 1, "", region(width, height) + std::string("\x01", 1) + coded)),
       {}},
      {decode_dct,
       make_jpeg(width, height, 1, Bytes(static_cast<std::size_t>(width * height), 9),
                 {JCS_GRAYSCALE, JCS_GRAYSCALE, false, false}),
       {}},
      {decode_jpx, test::make_jpx(width, height, 1, 8, false, true, values), {}},
  };
  for (std::size_t c = 0; c < cases.size(); ++c)
    for (std::size_t size = 0; size < cases[c].good.size(); ++size) {
      CAPTURE(c, size);
      const Bytes cut(cases[c].good.begin(),
                      cases[c].good.begin() + static_cast<std::ptrdiff_t>(size));
      const auto samples = cases[c].codec({.input = cut,
                                           .parameters = cases[c].parameters,
                                           .globals = {},
                                           .width = width,
                                           .height = height,
                                           .most_pixels = 1'000'000});
      if (!samples.ok()) CHECK_FALSE(samples.error().message().empty());
    }
}

TEST_CASE("photographs that are shown small are decoded small, and look the same", "[codecs]") {
  // A slope, of which every mean is known; the last column and row are cut off.
  constexpr int kWidth = 93;
  constexpr int kHeight = 61;
  Bytes samples;
  std::vector<int> values;
  for (int y = 0; y < kHeight; ++y)
    for (int x = 0; x < kWidth; ++x) {
      values.push_back(x + 2 * y);
      samples.push_back(static_cast<std::uint8_t>(values.back()));
    }
  const auto is_mean = [](const Bytes& bytes, int width, int height, int by, double shift) {
    int furthest = 0;
    for (int y = 0; y < height - 1; ++y)
      for (int x = 0; x < width - 1; ++x) {
        const double mean = by * (x + 2.0 * y - 3 * shift) + (by - 1) * 1.5;
        const int found = bytes[static_cast<std::size_t>(y * width + x)];
        furthest = std::max(furthest, static_cast<int>(std::abs(found - mean)));
      }
    return furthest <= 3;
  };
  for (const int by : {2, 4, 8}) {
    CAPTURE(by);
    const int width = (kWidth - 1) / by + 1;
    const int height = (kHeight - 1) / by + 1;
    SampleRows rows = start_dct(ByteSlice(make_jpeg(kWidth, kHeight, 1, samples,
                                                    {JCS_GRAYSCALE, JCS_GRAYSCALE, false, false})),
                                {}, 10'000, by)
                          .value();
    CHECK(rows.width == width);
    CHECK(rows.height == height);
    CHECK(rows.whole_width == kWidth);
    Bytes bytes(static_cast<std::size_t>(width * height));
    CHECK(rows.bytes->read(bytes).value() == bytes.size());
    CHECK(is_mean(bytes, width, height, by, 0));

    const Bytes jpx = test::make_jpx(kWidth, kHeight, 1, 8, false, true, values);
    const Samples reduced = decode_jpx({.input = jpx,
                                        .parameters = {},
                                        .width = kWidth,
                                        .height = kHeight,
                                        .most_pixels = 10'000,
                                        .reduction = by})
                                .value();
    CHECK(reduced.reduction == (by == 8 ? 1 : by));  // it has three resolutions
    CHECK(reduced.width == (by == 8 ? kWidth : width));
    CHECK(is_mean(reduced.bytes, reduced.width, reduced.height, reduced.reduction, reduced.shift));
  }
}

TEST_CASE("an image larger than the limit is refused by every codec, work stops when cancelled",
          "[codecs]") {
  const Bytes bits = drawing(64, 64, 1);
  const std::string coded = text_of(packed_by_tiff(bits, 64, 64, COMPRESSION_CCITTFAX4, 0));
  const std::vector<int> values(64 * 64, 1);
  struct Way {
    std::uint64_t most_pixels;
    bool cancelled;
    ErrorCode code;
  };
  const auto [most_pixels, cancelled, expected] =
      GENERATE(Way{1000, false, ErrorCode::limit}, Way{1'000'000, true, ErrorCode::cancelled});
  CancelToken cancel;
  if (cancelled) cancel.cancel();
  const Allowance allowance({}, cancel);
  const auto code = [&, most = most_pixels](Codec codec, const Bytes& input,
                                            const Dict& parameters) {
    const auto samples = codec({.input = input,
                                .parameters = parameters,
                                .globals = {},
                                .width = 64,
                                .height = 64,
                                .most_pixels = most});
    REQUIRE_FALSE(samples.ok());
    return samples.error().code();
  };
  CHECK(code(decode_ccitt, bytes_of(coded), {{"K", -1}, {"Columns", 64}}) == expected);
  CHECK(code(decode_jbig2, bytes_of(page_of(64, 64)), {}) == expected);
  CHECK(code(decode_dct,
             make_jpeg(64, 64, 1, Bytes(64 * 64), {JCS_GRAYSCALE, JCS_GRAYSCALE, false, false}),
             {}) == expected);
  CHECK(code(decode_jpx, test::make_jpx(64, 64, 1, 8, false, true, values), {}) == expected);
}

TEST_CASE("a JBIG2 region that lasts is not waited for when the time is over", "[codecs]") {
  const int side = 8000;  // pixels, each decoded by itself
  const std::string lasting =
      page_of(side, side) +
      segment(2, 38, 1, "",
              region(side, side) + std::string(1, '\0') + "\x03\xFF\xFD\xFF\x02\xFE\xFE\xFE" +
                  std::string(64, '\x5A'));
  const Bytes input = bytes_of(lasting);
  const Dict none;
  const CodecRequest request{.input = input,
                             .parameters = none,
                             .width = side,
                             .height = side,
                             .most_pixels = 400'000'000};
  CHECK(decode_jbig2(request).value().height == side);
  int left_behind = 0;
  // Where the machine does something else for a second, the region is through before anybody looks.
  for (int i = 0; i < 20 && left_behind == 0; ++i) {
    const Attempt attempt;
    const Allowance allowance({.page_milliseconds = 1}, {});
    const auto samples = decode_jbig2(request);
    left_behind = threads_left_behind();
    if (left_behind > 0) CHECK(samples.error().code() == ErrorCode::limit);
  }
  CHECK(left_behind == 1);
  while (threads_left_behind() > 0) std::this_thread::yield();
}
