// SPDX-License-Identifier: Apache-2.0
// Draws every page of every PDF file below a folder at 100 dots to the inch and tells how many
// pages a second each file takes, which pages were the slowest, what was found by kind, and what
// failed.
//   every-page FOLDER
// Exits 1 when a page cannot be drawn, or takes longer than half a minute.
#include <chrono>
#include <cstdio>
#include <map>
#include <mutex>
#include <regex>
#include <set>
#include <thread>

#include "lumvet/document/locked_document.h"
#include "lumvet/render/render.h"

namespace {

namespace fs = std::filesystem;
using Clock = std::chrono::steady_clock;

double seconds_since(Clock::time_point start) {
  return std::chrono::duration<double>(Clock::now() - start).count();
}

struct SlowPage {
  double seconds = 0;
  double recording = 0;
  std::size_t operations = 0;
  std::string file;
  int page = 0;
  bool operator<(const SlowPage& other) const { return seconds > other.seconds; }
};

struct Totals {
  std::mutex mutex;
  std::multiset<SlowPage> slowest;
  std::map<std::string, int> findings;  // by kind
  std::vector<std::string> failures;
  int pages = 0;
  double seconds = 0;
};

// A finding without its names and numbers.
std::string kind_of(const std::string& finding) {
  static const std::regex kNames("'[^']*'");
  static const std::regex kNumbers("[0-9]+");
  return std::regex_replace(std::regex_replace(finding, kNames, "'…'"), kNumbers, "#");
}

void draw_page(const lumvet::Document& document, int index, const std::string& name,
               Totals& totals) {
  const auto start = Clock::now();
  lumvet::Status status = lumvet::Done{};
  SlowPage slow{.file = name, .page = index + 1};
  auto page = document.page(index);
  if (!page.ok()) {
    status = page.error();
  } else if (auto scene = lumvet::Scene::record(*page); !scene.ok()) {
    status = scene.error();
  } else {
    slow.recording = seconds_since(start);
    slow.operations = scene->operation_count();
    const auto raster = lumvet::render(*scene, {.dpi = 100, .threads = 1});
    if (!raster.ok()) status = raster.error();
  }
  slow.seconds = seconds_since(start);
  const std::lock_guard lock(totals.mutex);
  ++totals.pages;
  totals.seconds += slow.seconds;
  constexpr double kTooLong = 30;
  if (!status.ok() || slow.seconds > kTooLong)
    totals.failures.push_back(name + " page " + std::to_string(index + 1) + ": " +
                              (status.ok() ? "took too long" : status.error().to_string()));
  totals.slowest.insert(std::move(slow));
  constexpr std::size_t kShown = 10;
  if (totals.slowest.size() > kShown) totals.slowest.erase(std::prev(totals.slowest.end()));
}

void draw_document(const fs::path& path, Totals& totals) {
  const std::string name = path.filename().string();
  const auto start = Clock::now();
  const auto document = lumvet::Document::open(path);
  if (!document.ok()) {
    const std::lock_guard lock(totals.mutex);
    totals.failures.push_back(name + ": " + document.error().to_string());
    return;
  }
  std::atomic<int> next = 0;
  const auto work = [&] {
    for (int i = next++; i < document->page_count(); i = next++)
      draw_page(*document, i, name, totals);
  };
  {
    std::vector<std::jthread> helpers;
    for (unsigned i = 1; i < std::thread::hardware_concurrency(); ++i) helpers.emplace_back(work);
    work();
  }
  const double took = seconds_since(start);
  std::printf("%-44s %5d pages %8.1f a second\n", name.c_str(), document->page_count(),
              document->page_count() / took);
  for (const lumvet::Finding& finding : document->findings())
    ++totals.findings[kind_of(finding.what)];
}

}  // namespace

int main(int argc, char** argv) {
  if (argc != 2) {
    std::fprintf(stderr, "usage: every-page FOLDER\n");
    return 2;
  }
  std::set<fs::path> files;
  for (const auto& entry : fs::recursive_directory_iterator(argv[1]))
    if (entry.is_regular_file() && entry.path().extension() == ".pdf") files.insert(entry.path());
  Totals totals;
  const auto start = Clock::now();
  for (const fs::path& path : files) draw_document(path, totals);
  std::printf("\nthe slowest pages\n");
  for (const SlowPage& slow : totals.slowest)
    std::printf("  %7.0f ms, %5.0f of them recording %zu operations: %s page %d\n",
                slow.seconds * 1000, slow.recording * 1000, slow.operations, slow.file.c_str(),
                slow.page);
  std::printf("\nfindings by kind\n");
  for (const auto& [kind, count] : totals.findings) std::printf("  %5d  %s\n", count, kind.c_str());
  for (const std::string& failure : totals.failures) std::printf("FAILED %s\n", failure.c_str());
  std::printf("\n%d pages of %zu files, %.1f a second (%.1f by one thread), %zu failed\n",
              totals.pages, files.size(), totals.pages / seconds_since(start),
              totals.pages / totals.seconds, totals.failures.size());
  return totals.failures.empty() ? 0 : 1;
}
