// SPDX-License-Identifier: Apache-2.0
// How long it takes until work on a page of a million operators stops once it is cancelled, while
// it is recorded and while it is drawn; beside the 20 milliseconds that nobody notices.
#include <benchmark/benchmark.h>

#include <chrono>
#include <string>
#include <thread>

#include "lumvet/render/render.h"
#include "tests/support/pdf_builder.h"

namespace {

using Clock = std::chrono::steady_clock;

const lumvet::Document& heavy() {
  static const lumvet::Document kHeavy = [] {
    constexpr int kLines = 333'334;  // of three operators
    std::string content;
    for (int i = 0; i < kLines; ++i)
      content += std::to_string(i % 600) + " " + std::to_string(i % 797) + " m " +
                 std::to_string(i * 7 % 600) + " " + std::to_string(i * 3 % 800) + " l S\n";
    const std::string text = test::PdfBuilder().page(content, "/MediaBox[0 0 600 800]").finish();
    return lumvet::Document::open(lumvet::Bytes(text.begin(), text.end())).value();
  }();
  return kHeavy;
}

// Cancels `work` after `milliseconds`, and takes the time from there to its end.
template <typename Work>
void cancel_after(benchmark::State& state, int milliseconds, Work work) {
  for (auto _ : state) {
    const lumvet::CancelToken cancel;
    Clock::time_point cancelled;
    std::thread other([&] {
      std::this_thread::sleep_for(std::chrono::milliseconds(milliseconds));
      cancelled = Clock::now();
      cancel.cancel();
    });
    const bool was_cancelled = work(cancel);
    const auto end = Clock::now();
    other.join();
    if (!was_cancelled) state.SkipWithError("it was done before it could be cancelled");
    state.SetIterationTime(std::chrono::duration<double>(end - cancelled).count());
  }
}

void nobody_notices(benchmark::State& state) {
  for (auto _ : state) std::this_thread::sleep_for(std::chrono::milliseconds(20));
}

void recording(benchmark::State& state) {
  const lumvet::Page page = heavy().page(0).value();
  cancel_after(state, static_cast<int>(state.range(0)), [&](const lumvet::CancelToken& cancel) {
    return !lumvet::Scene::record(page, {.cancel = cancel}).ok();
  });
}

void drawing(benchmark::State& state) {
  static const lumvet::Scene kScene = lumvet::Scene::record(heavy().page(0).value()).value();
  cancel_after(state, static_cast<int>(state.range(0)), [&](const lumvet::CancelToken& cancel) {
    return !lumvet::render(kScene, {.dpi = 300, .cancel = cancel}).ok();
  });
}

BENCHMARK(nobody_notices)
    ->Name("cancel/limit: 20 ms")
    ->UseRealTime()
    ->Unit(benchmark::kMillisecond);
BENCHMARK(recording)
    ->Name("cancel/lumvet: recording for ms")
    ->Arg(50)
    ->Arg(300)
    ->UseManualTime()
    ->Iterations(5)
    ->Unit(benchmark::kMillisecond);
BENCHMARK(drawing)
    ->Name("cancel/lumvet: drawing for ms")
    ->Arg(50)
    ->Arg(200)
    ->Arg(500)
    ->UseManualTime()
    ->Iterations(5)
    ->Unit(benchmark::kMillisecond);

}  // namespace
