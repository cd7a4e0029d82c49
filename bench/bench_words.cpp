// SPDX-License-Identifier: Apache-2.0
// The manual of 3,200 pages read and searched, beside recording its scenes alone; and its text
// searched once it is there, beside going through the same bytes by memchr.
#include <benchmark/benchmark.h>

#include <cstring>
#include <numeric>

#include "bench/inputs.h"
#include "lumvet/text/text_index.h"

namespace {

// A part of it when it is only to be seen that this runs.
std::vector<int> pages_of(const lumvet::Document& document) {
  constexpr int kFew = 20;
  std::vector<int> pages(
      static_cast<std::size_t>(bench::is_short() ? kFew : document.page_count()));
  std::iota(pages.begin(), pages.end(), 0);
  return pages;
}

lumvet::Document manual() { return lumvet::Document::open(bench::input("manual.pdf")).value(); }

void record_alone(benchmark::State& state) {
  for (auto _ : state) {
    const lumvet::Document document = manual();
    for (const int page : pages_of(document))
      benchmark::DoNotOptimize(lumvet::Scene::record(document.page(page).value()).value());
  }
}
BENCHMARK(record_alone)
    ->Name("words/limit: record the scenes of the manual")
    ->Unit(benchmark::kMillisecond)
    ->UseRealTime();

void read_all(benchmark::State& state) {
  for (auto _ : state) {
    const lumvet::Document document = manual();
    std::size_t bytes = 0;
    const auto status = lumvet::read_pages(
        document, pages_of(document), {.threads = static_cast<int>(state.range(0))},
        [&](int, const lumvet::PageWords& words) -> lumvet::Status {
          bytes += words.text().size();
          return lumvet::Done{};
        });
    if (!status.ok() || bytes == 0) state.SkipWithError("nothing was read");
  }
}
BENCHMARK(read_all)
    ->Name("words/lumvet: read the manual threads")
    ->Arg(1)
    ->Arg(2)
    ->Unit(benchmark::kMillisecond)
    ->UseRealTime();

void find_first(benchmark::State& state) {
  const auto search = lumvet::TextSearch::of("bridge").value();
  for (auto _ : state) {
    const lumvet::Document document = manual();
    const auto status = lumvet::find_in(
        document, pages_of(document), search, {}, [](const lumvet::PageHits&) -> lumvet::Status {
          return lumvet::Error(lumvet::ErrorCode::cancelled, "found");
        });
    if (status.ok()) state.SkipWithError("nothing was found");
  }
}
BENCHMARK(find_first)
    ->Name("words/lumvet: open the manual, first hit")
    ->Unit(benchmark::kMillisecond)
    ->UseRealTime();

const std::vector<lumvet::Scene>& scenes() {
  static const std::vector<lumvet::Scene> kScenes = [] {
    std::vector<lumvet::Scene> all;
    const lumvet::Document document = manual();
    constexpr int kPages = 200;
    for (int i = 0; i < kPages; ++i)
      all.push_back(lumvet::Scene::record(document.page(i).value()).value());
    return all;
  }();
  return kScenes;
}

void record_some(benchmark::State& state) {
  const lumvet::Document document = manual();
  for (auto _ : state)
    for (int i = 0; i < static_cast<int>(scenes().size()); ++i)
      benchmark::DoNotOptimize(lumvet::Scene::record(document.page(i).value()).value());
}
BENCHMARK(record_some)->Name("kept words/limit: record 200 scenes")->Unit(benchmark::kMillisecond);

void read_scenes(benchmark::State& state) {
  std::size_t bytes = 0;
  std::size_t characters = 0;
  for (auto _ : state)
    for (const lumvet::Scene& scene : scenes()) {
      const auto words = lumvet::PageWords::of(scene);
      bytes += words.memory();
      characters += words.text().size();
    }
  char label[64];
  std::snprintf(label, sizeof label, "%.1f bytes kept a character",
                static_cast<double>(bytes) / static_cast<double>(characters));
  state.SetLabel(label);
}
BENCHMARK(read_scenes)->Name("kept words/lumvet: read 200 scenes")->Unit(benchmark::kMillisecond);

const std::string& manual_text() {
  static const std::string kText = [] {
    std::string all;
    for (const lumvet::Scene& scene : scenes()) all += lumvet::text_of(scene);
    return all;
  }();
  return kText;
}

void pass_over(benchmark::State& state) {
  for (auto _ : state)
    benchmark::DoNotOptimize(std::memchr(manual_text().data(), '\x01', manual_text().size()));
}
BENCHMARK(pass_over)->Name("search/limit: one pass of memchr")->Unit(benchmark::kMicrosecond);

void search_text(benchmark::State& state) {
  const auto search = lumvet::TextSearch::of("bridge").value();
  for (auto _ : state) benchmark::DoNotOptimize(search.in(manual_text()).value());
  state.SetBytesProcessed(static_cast<std::int64_t>(state.iterations()) *
                          static_cast<std::int64_t>(manual_text().size()));
}
BENCHMARK(search_text)->Name("search/lumvet: the text of 200 pages")->Unit(benchmark::kMicrosecond);

const lumvet::TextIndex& manual_index() {
  static const lumvet::TextIndex kIndex = lumvet::TextIndex::of(manual()).value();
  return kIndex;
}

void find_again(benchmark::State& state) {
  lumvet::BufferSink kept;
  if (!manual_index().save(kept).ok()) state.SkipWithError("not saved");
  const auto search = lumvet::TextSearch::of("hollin mill").value();
  const bool with_load = state.range(0) != 0;
  std::size_t pages = 0;
  for (auto _ : state) {
    const lumvet::TextIndex index =
        with_load ? lumvet::TextIndex::load(kept.bytes()).value() : manual_index();
    const auto status = index.find(search, [&](const lumvet::IndexHits&) -> lumvet::Status {
      ++pages;
      return lumvet::Done{};
    });
    if (!status.ok()) state.SkipWithError("not looked through");
  }
  benchmark::DoNotOptimize(pages);
}
BENCHMARK(find_again)
    ->Name("search/lumvet: the manual again, from its index loaded")
    ->Arg(0)
    ->Arg(1)
    ->Unit(benchmark::kMicrosecond);

}  // namespace
