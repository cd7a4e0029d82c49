// SPDX-License-Identifier: Apache-2.0
// A manual of 3,200 pages cut into its chapters, beside copying its bytes.
#include <benchmark/benchmark.h>

#include <fstream>

#include "bench/inputs.h"
#include "lumvet/assemble/split.h"

namespace {

void copy(benchmark::State& state) {
  const auto input = bench::input("manual.pdf");
  for (auto _ : state)
    std::filesystem::copy_file(input, "/tmp/lumvet-bench.bin",
                               std::filesystem::copy_options::overwrite_existing);
}
BENCHMARK(copy)->Name("split/limit: copy the file")->Unit(benchmark::kMillisecond)->UseRealTime();

void chapters(benchmark::State& state) {
  const auto document = lumvet::Document::open(bench::input("manual.pdf")).value();
  const auto folder = std::filesystem::temp_directory_path() / "lumvet-bench-chapters";
  for (auto _ : state) {
    const auto parts = lumvet::split(document, lumvet::SplitRule::at_outline(1),
                                     {.folder = folder, .save = {.replace = true}});
    if (!parts.ok()) state.SkipWithError("it cannot be cut");
  }
  std::filesystem::remove_all(folder);
}
BENCHMARK(chapters)
    ->Name("split/lumvet: 3200 pages into chapters")
    ->Unit(benchmark::kMillisecond)
    ->UseRealTime();

}  // namespace
