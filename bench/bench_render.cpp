// SPDX-License-Identifier: Apache-2.0
// Drawing 20 demo pages at 150 dpi from their scenes, with one thread and with two; beside filling
// as many bytes.
#include <benchmark/benchmark.h>

#include <algorithm>
#include <cstring>

#include "bench/inputs.h"
#include "lumvet/render/render.h"

namespace {

constexpr int kMostOfOne = 12;  // pages of one document

const std::vector<lumvet::Scene>& scenes() {
  static const std::vector<lumvet::Scene> kScenes = [] {
    std::vector<lumvet::Scene> all;
    for (const char* name : {"report.pdf", "annex.pdf", "scans/sheet 1.pdf", "scans/sheet 2.pdf",
                             "scans/sheet 3.pdf", "scans/sheet 4.pdf"}) {
      const auto document = lumvet::Document::open(bench::input(name)).value();
      const int pages = std::min(document.page_count(), kMostOfOne);
      for (int i = 0; i < pages; ++i)
        all.push_back(lumvet::Scene::record(document.page(i).value()).value());
    }
    return all;
  }();
  return kScenes;
}

void fill_bytes(benchmark::State& state) {
  std::size_t bytes = 0;
  for (const lumvet::Scene& scene : scenes())
    bytes += lumvet::render(scene, {.dpi = 150})->bytes().size();
  std::vector<std::uint8_t> pixels(bytes);
  for (auto _ : state) {
    std::memset(pixels.data(), static_cast<int>(state.iterations()), pixels.size());
    benchmark::DoNotOptimize(pixels.data());
  }
}
BENCHMARK(fill_bytes)->Name("draw/limit: fill as many bytes")->Unit(benchmark::kMillisecond);

void draw(benchmark::State& state) {
  if (scenes().size() != 20) state.SkipWithError("not 20 pages");
  for (auto _ : state)
    for (const lumvet::Scene& scene : scenes())
      benchmark::DoNotOptimize(
          lumvet::render(scene, {.dpi = 150, .threads = static_cast<int>(state.range(0))}).value());
}
BENCHMARK(draw)
    ->Name("draw/lumvet: 20 pages threads")
    ->Arg(1)
    ->Arg(2)
    ->Unit(benchmark::kMillisecond)
    ->UseRealTime();

lumvet::Page busy_page() {
  static const lumvet::Document kReport =
      lumvet::Document::open(bench::input("report.pdf")).value();
  return kReport.page(4).value();
}

void first_draw(benchmark::State& state) {
  for (auto _ : state) {
    const auto document = lumvet::Document::open(bench::input("report.pdf")).value();
    benchmark::DoNotOptimize(
        lumvet::render(document.page(4).value(), {.dpi = 100, .threads = 1}).value());
  }
}
BENCHMARK(first_draw)
    ->Name("redraw/limit: open and record and draw")
    ->Unit(benchmark::kMillisecond);

void redraw(benchmark::State& state) {
  const lumvet::Scene scene = lumvet::Scene::record(busy_page()).value();
  double dpi = 90;
  for (auto _ : state) {
    dpi = dpi > 110 ? 90 : dpi + 1.5;  // never the same zoom twice
    benchmark::DoNotOptimize(lumvet::render(scene, {.dpi = dpi, .threads = 1}).value());
  }
}
BENCHMARK(redraw)->Name("redraw/lumvet: its scene at another zoom")->Unit(benchmark::kMillisecond);

}  // namespace
