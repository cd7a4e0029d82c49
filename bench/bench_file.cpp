// SPDX-License-Identifier: Apache-2.0
// The file layer beside what the machine can do: every object and stream beside inflating the same
// streams alone, the search for objects beside a pass over the same bytes, opening for files of 300
// and 30,000 pages, and memory for a file of 300 MB.
#include <benchmark/benchmark.h>
#include <libdeflate.h>

#include <cstring>
#include <fstream>
#include <random>

#include "bench/inputs.h"
#include "bench/own_memory.h"
#include "file/scan.h"
#include "lumvet/lumvet.h"

namespace {

using namespace lumvet;

Bytes bytes_of(const std::filesystem::path& path) {
  std::ifstream file(path, std::ios::binary);
  return Bytes((std::istreambuf_iterator<char>(file)), std::istreambuf_iterator<char>());
}

std::uint32_t object_count(const Document& document) {
  return static_cast<std::uint32_t>(document.trailer()["Size"].as_integer());
}

bool is_flate(const Object& object) {
  return object.is_stream() && object.as_dict()["Filter"].is_name("FlateDecode");
}

void inflate_alone(benchmark::State& state) {
  const Document document = Document::open(bench::input("manual.pdf")).value();
  std::vector<ByteSlice> packed;
  std::size_t largest = 0;
  for (std::uint32_t i = 0; i < object_count(document); ++i) {
    const Object object = document.resolve(Object(ObjectId{i, 0})).value();
    if (!is_flate(object)) continue;
    packed.push_back(object.as_stream()->encoded().value());
    largest = std::max(largest, document.decoded(object)->size());
  }
  Bytes out(largest + 64);
  libdeflate_decompressor* inflater = libdeflate_alloc_decompressor();
  std::size_t total = 0;
  for (auto _ : state)
    for (const ByteSlice& slice : packed) {
      std::size_t read = 0;
      std::size_t written = 0;
      libdeflate_zlib_decompress_ex(inflater, slice.view().data(), slice.size(), out.data(),
                                    out.size(), &read, &written);
      total += written;
    }
  libdeflate_free_decompressor(inflater);
  benchmark::DoNotOptimize(total);
}
BENCHMARK(inflate_alone)->Name("walk/limit: inflate every stream")->Unit(benchmark::kMillisecond);

void walk(benchmark::State& state) {
  std::size_t total = 0;
  for (auto _ : state) {
    const Document document = Document::open(bench::input("manual.pdf")).value();
    for (std::uint32_t i = 0; i < object_count(document); ++i) {
      const Object object = document.resolve(Object(ObjectId{i, 0})).value();
      if (is_flate(object)) total += document.decoded(object)->size();
    }
  }
  benchmark::DoNotOptimize(total);
}
BENCHMARK(walk)->Name("walk/lumvet: every object and stream")->Unit(benchmark::kMillisecond);

void pass_over(benchmark::State& state) {
  const Bytes bytes = bytes_of(bench::input("manual.pdf"));
  std::size_t found = 0;
  for (auto _ : state)
    for (const std::uint8_t* at = bytes.data(); at != nullptr; ++found) {
      const auto left = static_cast<std::size_t>(bytes.data() + bytes.size() - at);
      at = static_cast<const std::uint8_t*>(std::memchr(at, '\0', left));
      if (at != nullptr) ++at;
    }
  benchmark::DoNotOptimize(found);
}
BENCHMARK(pass_over)->Name("search/limit: memchr over the file")->Unit(benchmark::kMicrosecond);

void search(benchmark::State& state) {
  const auto source = open_file_source(bench::input("manual.pdf")).value();
  for (auto _ : state) {
    const auto scan = file::scan_file(*source, Limits().objects);
    if (scan->objects.size() < 3200) state.SkipWithError("objects are missing");
  }
}
BENCHMARK(search)->Name("search/lumvet: find every object")->Unit(benchmark::kMicrosecond);

void open_and_count(benchmark::State& state, const char* name, int pages) {
  const auto path = bench::input(name);
  for (auto _ : state)
    if (Document::open(path)->page_count() != pages) state.SkipWithError("wrong page count");
}
BENCHMARK_CAPTURE(open_and_count, few, "manual-300.pdf", 300)
    ->Name("length/limit: open 300 pages")
    ->Unit(benchmark::kMicrosecond);
BENCHMARK_CAPTURE(open_and_count, many, "manual-30000.pdf", 30'000)
    ->Name("length/lumvet: open 30000 pages")
    ->Unit(benchmark::kMicrosecond);

void large_file(benchmark::State& state) {
  const auto path = bench::input("large.pdf");
  constexpr double kMostMiB = 1;
  for (auto _ : state) {
    const double most = bench::peak_of([&] {
      const Document document = Document::open(path).value();
      for (int i = 0; i < 10; ++i)
        benchmark::DoNotOptimize(document.page(i * document.page_count() / 10)->content().value());
    });
    bench::tell_peak(state, most, kMostMiB);
  }
}
BENCHMARK(large_file)
    ->Name("memory/lumvet: 10 pages of 300 MB")
    ->Unit(benchmark::kMicrosecond)
    ->Iterations(1);

}  // namespace
