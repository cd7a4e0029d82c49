// SPDX-License-Identifier: Apache-2.0
// Opening the 3,200-page manual and counting its pages, beside reading the same file into memory.
#include <benchmark/benchmark.h>

#include <fstream>

#include "bench/inputs.h"
#include "lumvet/document/document.h"

namespace {

void read_whole(benchmark::State& state) {
  const auto path = bench::input("manual.pdf");
  const auto size = std::filesystem::file_size(path);
  for (auto _ : state) {
    std::string bytes(size, '\0');
    std::ifstream(path, std::ios::binary).read(bytes.data(), static_cast<std::streamsize>(size));
    benchmark::DoNotOptimize(bytes);
  }
  state.SetBytesProcessed(static_cast<std::int64_t>(state.iterations() * size));
}
BENCHMARK(read_whole)->Name("open/limit: read the file")->Unit(benchmark::kMicrosecond);

void open_and_count(benchmark::State& state) {
  const auto path = bench::input("manual.pdf");
  for (auto _ : state) {
    const int pages = lumvet::Document::open(path)->page_count();
    if (pages != 3200) state.SkipWithError("wrong page count");
    benchmark::DoNotOptimize(pages);
  }
}
BENCHMARK(open_and_count)->Name("open/lumvet: open and count")->Unit(benchmark::kMicrosecond);

void last_page(benchmark::State& state) {
  const auto path = bench::input("manual.pdf");
  for (auto _ : state) {
    const auto document = lumvet::Document::open(path);
    benchmark::DoNotOptimize(document->page(3199)->content().value());
  }
}
BENCHMARK(last_page)->Name("open/lumvet: last page content")->Unit(benchmark::kMicrosecond);

}  // namespace
