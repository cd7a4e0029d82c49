// SPDX-License-Identifier: Apache-2.0
// A scanned sheet, A4 at 300 dpi, drawn 1280 pixels wide from the file on; beside the time that
// libtiff takes for the samples of a facsimile and libjpeg for those of a photograph.
#include <benchmark/benchmark.h>
#include <tiffio.h>

#include <cstdio>

#include <filesystem>
#include <random>
#include <string>

#include <jpeglib.h>

#include "bench/inputs.h"
#include "images/codec.h"
#include "lumvet/raster/image_file.h"
#include "lumvet/render/render.h"
#include "tests/support/pdf_builder.h"

namespace {

struct Scan {
  std::string filter;  // with its parameters
  lumvet::Dict parameters;
  lumvet::Bytes encoded;
  int width = 0;
  int height = 0;
  int bits = 8;
};

// A page full of text, with specks of dust as scanners see them.
lumvet::Raster sheet(lumvet::PixelFormat format) {
  constexpr int kSpecks = 4000;
  const auto manual = lumvet::Document::open(bench::input("manual.pdf")).value();
  lumvet::Raster raster =
      lumvet::render(manual.page(9).value(), {.dpi = 300, .format = format}).value();
  std::mt19937 random(7);
  const auto row_bytes = lumvet::bytes_per_row(format, raster.width());
  for (int i = 0; i < kSpecks; ++i)
    raster.row(static_cast<int>(
        random() % static_cast<unsigned>(raster.height())))[random() % row_bytes] ^= 0x18;
  return raster;
}

// The sheet as libtiff packed it, until the end.
std::filesystem::path tiff_file() {
  struct Temporary {
    std::filesystem::path path = std::filesystem::temp_directory_path() / "lumvet-bench-scan.tiff";
    ~Temporary() { std::filesystem::remove(path); }
  };
  static const Temporary kFile;
  return kFile.path;
}

const Scan& facsimile() {
  static const Scan kScan = [] {
    const lumvet::Raster raster = sheet(lumvet::PixelFormat::bilevel);
    const auto file = tiff_file();
    TIFF* tiff = TIFFOpen(file.c_str(), "w");
    TIFFSetField(tiff, TIFFTAG_IMAGEWIDTH, raster.width());
    TIFFSetField(tiff, TIFFTAG_IMAGELENGTH, raster.height());
    TIFFSetField(tiff, TIFFTAG_COMPRESSION, COMPRESSION_CCITTFAX4);
    TIFFSetField(tiff, TIFFTAG_ROWSPERSTRIP, raster.height());
    lumvet::Bytes bits(raster.bytes().begin(), raster.bytes().end());
    for (std::uint8_t& eight : bits) eight = static_cast<std::uint8_t>(~eight);  // 1 is black
    TIFFWriteEncodedStrip(tiff, 0, bits.data(), static_cast<tmsize_t>(bits.size()));
    TIFFClose(tiff);
    tiff = TIFFOpen(file.c_str(), "r");
    lumvet::Bytes encoded(static_cast<std::size_t>(TIFFRawStripSize64(tiff, 0)));
    TIFFReadRawStrip(tiff, 0, encoded.data(), static_cast<tmsize_t>(encoded.size()));
    TIFFClose(tiff);
    return Scan{"CCITTFaxDecode/DecodeParms<</K -1/Columns " + std::to_string(raster.width()) +
                    "/Rows " + std::to_string(raster.height()) + ">>",
                {{"K", -1}, {"Columns", raster.width()}, {"Rows", raster.height()}},
                std::move(encoded),
                raster.width(),
                raster.height(),
                1};
  }();
  return kScan;
}

const Scan& photograph() {
  static const Scan kScan = [] {
    const lumvet::Raster raster = sheet(lumvet::PixelFormat::rgb);
    return Scan{"DCTDecode",
                {},
                lumvet::encode_image(raster, {.format = lumvet::ImageFormat::jpeg}).value(),
                raster.width(),
                raster.height(),
                8};
  }();
  return kScan;
}

void decode(benchmark::State& state, const Scan& scan, lumvet::images::Codec codec) {
  for (auto _ : state)
    benchmark::DoNotOptimize(codec({.input = scan.encoded,
                                    .parameters = scan.parameters,
                                    .width = scan.width,
                                    .height = scan.height,
                                    .most_pixels = 100'000'000})
                                 .value());
}

void draw(benchmark::State& state, const Scan& scan) {
  test::PdfBuilder pdf;
  pdf.page("595 0 0 842 0 0 cm /I Do", "/MediaBox[0 0 595 842]/Resources<</XObject<</I 5 0 R>>>>");
  pdf.stream(5,
             "/Subtype/Image/ColorSpace/Device" + std::string(scan.bits == 1 ? "Gray" : "RGB") +
                 "/BitsPerComponent " + std::to_string(scan.bits) + "/Width " +
                 std::to_string(scan.width) + "/Height " + std::to_string(scan.height) +
                 "/Filter/" + scan.filter,
             std::string(scan.encoded.begin(), scan.encoded.end()));
  const std::string text = pdf.finish();
  const lumvet::Bytes bytes(text.begin(), text.end());
  for (auto _ : state) {
    const auto document = lumvet::Document::open(bytes).value();
    benchmark::DoNotOptimize(lumvet::render(document.page(0).value(), {.width = 1280}).value());
    if (!document.findings().empty()) state.SkipWithError("the sheet is not drawn as it should be");
  }
}

void decode_facsimile_elsewhere(benchmark::State& state) {
  lumvet::Bytes rows(static_cast<std::size_t>((facsimile().width + 7) / 8 * facsimile().height));
  TIFF* tiff = TIFFOpen(tiff_file().c_str(), "r");
  for (auto _ : state) {
    const auto size = static_cast<tmsize_t>(rows.size());
    if (TIFFReadEncodedStrip(tiff, 0, rows.data(), size) != size)
      state.SkipWithError("the sheet cannot be decoded");
    benchmark::DoNotOptimize(rows.data());
  }
  TIFFClose(tiff);
}
void decode_facsimile(benchmark::State& state) {
  decode(state, facsimile(), lumvet::images::decode_ccitt);
}
void draw_facsimile(benchmark::State& state) { draw(state, facsimile()); }
void decode_photograph_elsewhere(benchmark::State& state) {
  const Scan& scan = photograph();
  lumvet::Bytes row(static_cast<std::size_t>(scan.width) * 3);
  for (auto _ : state) {
    jpeg_decompress_struct jpeg{};
    jpeg_error_mgr errors{};
    jpeg.err = jpeg_std_error(&errors);
    jpeg_create_decompress(&jpeg);
    jpeg_mem_src(&jpeg, scan.encoded.data(), static_cast<unsigned long>(scan.encoded.size()));
    jpeg_read_header(&jpeg, TRUE);
    jpeg_start_decompress(&jpeg);
    JSAMPROW rows = row.data();
    while (jpeg.output_scanline < jpeg.output_height) jpeg_read_scanlines(&jpeg, &rows, 1);
    jpeg_finish_decompress(&jpeg);
    jpeg_destroy_decompress(&jpeg);
    benchmark::DoNotOptimize(row.data());
  }
}
void decode_photograph(benchmark::State& state) {
  decode(state, photograph(), lumvet::images::decode_dct);
}
void draw_photograph(benchmark::State& state) { draw(state, photograph()); }

BENCHMARK(decode_facsimile_elsewhere)
    ->Name("scan group 4/limit: libtiff alone")
    ->Unit(benchmark::kMillisecond)
    ->Iterations(100);
BENCHMARK(decode_facsimile)
    ->Name("scan group 4/lumvet: bare decoder")
    ->Unit(benchmark::kMillisecond);
BENCHMARK(draw_facsimile)
    ->Name("scan group 4/lumvet: 1280 pixels wide")
    ->Unit(benchmark::kMillisecond);
BENCHMARK(decode_photograph_elsewhere)
    ->Name("scan JPEG/limit: libjpeg alone")
    ->Unit(benchmark::kMillisecond);
BENCHMARK(decode_photograph)->Name("scan JPEG/lumvet: bare decoder")->Unit(benchmark::kMillisecond);
BENCHMARK(draw_photograph)
    ->Name("scan JPEG/lumvet: 1280 pixels wide")
    ->Unit(benchmark::kMillisecond);

}  // namespace
