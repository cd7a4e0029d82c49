// SPDX-License-Identifier: Apache-2.0
// Binding 300 one-page files, beside concatenating the same bytes.
#include <benchmark/benchmark.h>

#include <fstream>

#include "bench/inputs.h"
#include "lumvet/assemble/assembly.h"

namespace {

std::vector<std::filesystem::path> files() {
  std::vector<std::filesystem::path> all;
  for (const auto& entry : std::filesystem::directory_iterator(bench::input("single")))
    all.push_back(entry.path());
  return all;
}

void concatenate(benchmark::State& state) {
  const auto inputs = files();
  for (auto _ : state) {
    std::string all;
    for (const auto& path : inputs) {
      const std::size_t before = all.size();
      all.resize(before + std::filesystem::file_size(path));
      std::ifstream(path, std::ios::binary)
          .read(&all[before], static_cast<std::streamsize>(all.size() - before));
    }
    auto out =
        lumvet::AtomicFile::create("/tmp/lumvet-bench.bin", lumvet::IfExists::replace).value();
    if (!out.write(lumvet::as_bytes(all)).ok() || !out.commit().ok())
      state.SkipWithError("cannot write");
  }
}
BENCHMARK(concatenate)
    ->Name("bind/limit: concatenate 300 files")
    ->Unit(benchmark::kMillisecond)
    ->UseRealTime();

void bind(benchmark::State& state) {
  const auto inputs = files();
  for (auto _ : state) {
    lumvet::Assembly book;
    for (const auto& path : inputs)
      if (!book.add(lumvet::Document::open(path).value()).ok()) state.SkipWithError("cannot add");
    const auto saved = book.save("/tmp/lumvet-bench.pdf", {.replace = true});
    if (!saved.ok() || saved->pages != 300) state.SkipWithError("wrong page count");
  }
}
BENCHMARK(bind)->Name("bind/lumvet: bind 300 files")->Unit(benchmark::kMillisecond)->UseRealTime();

}  // namespace
