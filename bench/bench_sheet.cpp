// SPDX-License-Identifier: Apache-2.0
// A drawing of size A0 at 600 dpi, 558 million pixels, written in bands; the memory it takes at
// most, beside 200 MiB. In a short run it has a tenth of the resolution.
#include <benchmark/benchmark.h>

#include "bench/inputs.h"
#include "bench/own_memory.h"
#include "lumvet/raster/image_file.h"
#include "lumvet/render/render.h"
#include "tests/support/pdf_builder.h"

namespace {

// Lines all over the sheet, and a legend.
lumvet::Scene drawing() {
  constexpr int kLines = 2000;
  std::string content = "0.5 w ";
  for (int i = 0; i < kLines; ++i)
    content +=
        std::to_string(i * 37 % 2384) + " 0 m " + std::to_string(i * 91 % 2384) + " 3370 l S\n";
  content += "1 0 0 rg 1800 100 500 300 re f";
  const std::string text =
      test::PdfBuilder().page(content, "/MediaBox[0 0 2383.94 3370.39]").finish();
  const auto document = lumvet::Document::open(lumvet::Bytes(text.begin(), text.end())).value();
  return lumvet::Scene::record(document.page(0).value()).value();
}

// Takes what is written and forgets it.
class Nowhere : public lumvet::ByteSink {
 public:
  lumvet::Status write(lumvet::ByteView) override { return lumvet::Done{}; }
};

constexpr double kComparedDpi = 200;

// The rows of the sheet, drawn before, as a file; and drawn and written as one.
void encode_alone(benchmark::State& state) {
  const lumvet::Raster sheet =
      lumvet::render(drawing(), {.dpi = bench::is_short() ? 20 : kComparedDpi,
                                 .format = lumvet::PixelFormat::rgb})
          .value();
  for (auto _ : state) {
    Nowhere sink;
    lumvet::ImageWriter file(sink, {.format = lumvet::ImageFormat::png});
    if (!file.begin(sheet.width(), sheet.height(), sheet.format()).ok() ||
        !file.write_rows(sheet.row(0), sheet.height(), static_cast<std::ptrdiff_t>(sheet.stride()))
             .ok() ||
        !file.finish().ok())
      state.SkipWithError("the sheet could not be written");
  }
}
BENCHMARK(encode_alone)
    ->Name("sheet/limit: rows to PNG alone")
    ->Unit(benchmark::kMillisecond)
    ->UseRealTime();

void draw_and_encode(benchmark::State& state) {
  const lumvet::Scene scene = drawing();
  for (auto _ : state) {
    Nowhere sink;
    lumvet::ImageWriter file(sink, {.format = lumvet::ImageFormat::png});
    if (!lumvet::render_to(file, scene, {.dpi = bench::is_short() ? 20 : kComparedDpi}).ok() ||
        !file.finish().ok())
      state.SkipWithError("the sheet could not be written");
  }
}
BENCHMARK(draw_and_encode)
    ->Name("sheet/lumvet: drawn and written")
    ->Unit(benchmark::kMillisecond)
    ->UseRealTime();

void large_sheet(benchmark::State& state) {
  const lumvet::Scene scene = drawing();
  constexpr double kMostMiB = 200;
  const double dpi = bench::is_short() ? 60 : 600;
  for (auto _ : state) {
    const double most = bench::peak_of([&] {
      Nowhere sink;
      lumvet::ImageWriter file(sink, {.format = lumvet::ImageFormat::png, .dpi = dpi});
      if (!lumvet::render_to(file, scene, {.dpi = dpi}).ok() || !file.finish().ok())
        state.SkipWithError("the sheet could not be written");
    });
    bench::tell_peak(state, most, kMostMiB);
  }
}
BENCHMARK(large_sheet)
    ->Name("memory/lumvet: A0 at 600 dpi in bands")
    ->Unit(benchmark::kSecond)
    ->Iterations(1);

}  // namespace
