// SPDX-License-Identifier: Apache-2.0
// Binding: 300 one-page files, and eight that come to 375 pages, beside concatenating the same
// bytes; an outline of 20,000 entries with 50,000 named places, beside a quarter of it four times;
// and the memory that it takes at most.
#include <benchmark/benchmark.h>

#include <fstream>

#include "bench/inputs.h"
#include "bench/own_memory.h"
#include "lumvet/assemble/split.h"
#include "tests/support/pdf_builder.h"

namespace {

namespace fs = std::filesystem;
using Paths = std::vector<fs::path>;

const Paths& single_pages() {
  static const Paths files = [] {
    Paths all;
    for (const auto& entry : fs::directory_iterator(bench::input("single")))
      all.push_back(entry.path());
    return all;
  }();
  return files;
}

// Eight chapters, by three pages of different lengths, of 375 pages together.
const Paths& chapters() {
  static const Paths files = [] {
    const fs::path folder = fs::temp_directory_path() / "lumvet-bench-book";
    const auto manual = lumvet::Document::open(bench::input("manual.pdf")).value();
    std::vector<lumvet::SplitPart> parts(8);
    int page = 0;
    for (std::size_t i = 0; i < parts.size(); ++i)
      for (const int end = page + (i < 7 ? 47 : 46); page < end; ++page)
        parts[i].pages.push_back(page);
    lumvet::split(manual, parts, {.folder = folder, .save = {.replace = true}}).value();
    Paths all;
    for (const auto& entry : fs::directory_iterator(folder)) all.push_back(entry.path());
    return all;
  }();
  return files;
}

void concatenate(benchmark::State& state, const Paths& inputs) {
  for (auto _ : state) {
    std::string all;
    for (const auto& path : inputs) {
      const std::size_t before = all.size();
      all.resize(before + fs::file_size(path));
      std::ifstream(path, std::ios::binary)
          .read(&all[before], static_cast<std::streamsize>(all.size() - before));
    }
    auto out =
        lumvet::AtomicFile::create("/tmp/lumvet-bench.bin", lumvet::IfExists::replace).value();
    if (!out.write(lumvet::as_bytes(all)).ok() || !out.commit().ok())
      state.SkipWithError("cannot write");
  }
}

void bind(benchmark::State& state, const Paths& inputs, int pages) {
  for (auto _ : state) {
    lumvet::Assembly book;
    for (const auto& path : inputs)
      if (!book.add(lumvet::Document::open(path).value()).ok()) state.SkipWithError("cannot add");
    const auto saved = book.save("/tmp/lumvet-bench.pdf", {.replace = true});
    if (!saved.ok() || saved->pages != pages) state.SkipWithError("wrong page count");
  }
}

// So many entries, and two and a half times as many places that have a name.
lumvet::Document with_outline(int entries) {
  test::PdfBuilder pdf;
  constexpr int kPages = 100;
  std::string kids;
  for (int i = 0; i < kPages; ++i) {
    kids += std::to_string(10 + i) + " 0 R ";
    pdf.object(10 + i, "<</Type/Page/Parent 2 0 R/MediaBox[0 0 9 9]>>");
  }
  const auto place = [&](int i) { return "[" + std::to_string(10 + i % kPages) + " 0 R/Fit]"; };
  constexpr int kFirst = 1000;
  for (int i = 0; i < entries; ++i)
    pdf.object(kFirst + i,
               "<</Title(Entry " + std::to_string(i) + ")/Dest" + place(i) +
                   (i + 1 < entries ? "/Next " + std::to_string(kFirst + i + 1) + " 0 R>>" : ">>"));
  std::string names;
  for (int i = 0; i < entries * 5 / 2; ++i) {
    const std::string number = std::to_string(1'000'000 + i);
    names += "(" + number + ")" + place(i);
  }
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R/Outlines<</First 1000 0 R>>/Names<</Dests<</Names[" +
                    names + "]>>>>>>");
  pdf.object(2, "<</Type/Pages/Kids[" + kids + "]/Count 100>>");
  return test::open(pdf.finish()).value();
}

void carry_outline(benchmark::State& state, int entries, int times) {
  const lumvet::Document document = with_outline(entries);
  for (auto _ : state)
    for (int i = 0; i < times; ++i) {
      lumvet::Assembly book;
      lumvet::BufferSink sink;
      if (!book.add(document).ok() || !book.save(sink).ok()) state.SkipWithError("cannot bind");
    }
}

void memory(benchmark::State& state, const Paths& inputs) {
  double largest = 0;
  for (const auto& path : inputs)
    largest = std::max(largest, static_cast<double>(fs::file_size(path)));
  constexpr double kMiB = 1 << 20;
  const double bound = 32 + 1.2 * largest / kMiB;
  for (auto _ : state) {
    const double most = bench::peak_of([&] {
      lumvet::Assembly book;
      for (const auto& path : inputs)
        if (!book.add(lumvet::Document::open(path).value()).ok()) state.SkipWithError("cannot add");
      if (!book.save("/tmp/lumvet-bench.pdf", {.replace = true}).ok())
        state.SkipWithError("cannot save");
    });
    bench::tell_peak(state, most, bound);
  }
}

const auto registered = [] {
  const auto add = [](const char* name, auto run) {
    return benchmark::RegisterBenchmark(name, run)->Unit(benchmark::kMillisecond)->UseRealTime();
  };
  add("bind/limit: concatenate 300 files",
      [](benchmark::State& state) { concatenate(state, single_pages()); });
  add("bind/lumvet: bind 300 files",
      [](benchmark::State& state) { bind(state, single_pages(), 300); });
  add("book/limit: concatenate 8 files",
      [](benchmark::State& state) { concatenate(state, chapters()); });
  add("book/lumvet: bind 8 files to 375 pages",
      [](benchmark::State& state) { bind(state, chapters(), 375); });
  add("outline/limit: 4 x 5000 entries",
      [](benchmark::State& state) { carry_outline(state, 5'000, 4); });
  add("outline/lumvet: 20000 entries",
      [](benchmark::State& state) { carry_outline(state, 20'000, 1); });
  add("memory/lumvet: bind 300 files", [](benchmark::State& state) {
    memory(state, single_pages());
  })->Iterations(1);
  add("memory/lumvet: bind 300 MB with a report", [](benchmark::State& state) {
    memory(state, {bench::input("large.pdf"), bench::input("report.pdf")});
  })->Iterations(1);
  return true;
}();

}  // namespace
