// SPDX-License-Identifier: Apache-2.0
// Every scene of the oracle at 150 dots to the inch, drawn by us from its recording with one thread
// and by cairo from its calls, both into memory and each in its own order of bytes: the ratio of
// their times, scene by scene.
#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <cstring>

#include "tests/scenes/compare.h"

namespace {

using test::OracleScene;

// How long a piece of work takes at its quickest, in milliseconds.
template <typename Work>
void time(double& least, int milliseconds, Work work) {
  using Clock = std::chrono::steady_clock;
  const auto until = Clock::now() + std::chrono::milliseconds(milliseconds);
  do {
    const auto start = Clock::now();
    work();
    least =
        std::min(least, std::chrono::duration<double, std::milli>(Clock::now() - start).count());
  } while (Clock::now() < until);
}

}  // namespace

// Of all scenes, or of those whose name has `argv[1]` in it, for `argv[2]` milliseconds each.
int main(int argc, char** argv) {
  const int milliseconds = argc > 2 ? std::atoi(argv[2]) : 60;
  constexpr double kScale = 150.0 / 72;
  const int size = test::pixels_at(kScale);
  std::vector<std::uint8_t> pixels(static_cast<std::size_t>(size) * static_cast<std::size_t>(size) *
                                   4);
  const lumvet::PixelBuffer buffer{pixels.data(), size, size, std::ptrdiff_t{size} * 4,
                                   lumvet::PixelFormat::rgba};
  cairo_surface_t* surface = cairo_image_surface_create(CAIRO_FORMAT_ARGB32, size, size);
  std::vector<std::pair<double, std::string>> ratios;
  for (const OracleScene& scene : test::oracle_scenes()) {
    if (argc > 1 && scene.name.find(argv[1]) == std::string::npos) continue;
    const auto document = lumvet::Document::open(test::as_document(scene.draw)).value();
    const auto recorded = lumvet::Scene::record(document.page(0).value()).value();
    double ours = 1e9;
    double theirs = 1e9;
    // In turns, so that a machine that is busy for a while is so for both.
    constexpr int kTurns = 6;
    for (int turn = 0; turn < kTurns; ++turn) {
      time(ours, milliseconds / kTurns, [&] {
        lumvet::render_into(recorded, buffer, {.scale = kScale}, {.threads = 1}).value();
      });
      time(theirs, milliseconds / kTurns,
           [&] { test::draw_on(surface, scene.draw, kScale, CAIRO_ANTIALIAS_DEFAULT); });
    }
    ratios.emplace_back(ours / theirs, scene.name);
    std::printf("%-32s %8.3f ms %8.3f ms  %5.2f x cairo\n", scene.name.c_str(), ours, theirs,
                ours / theirs);
  }
  cairo_surface_destroy(surface);
  if (ratios.empty()) return 1;
  std::sort(ratios.begin(), ratios.end());
  const auto above = std::count_if(ratios.begin(), ratios.end(),
                                   [](const auto& ratio) { return ratio.first > 1.5; });
  std::printf("%zu scenes: median %.2f x, most %.2f x (%s), %ld above 1.5 x\n", ratios.size(),
              ratios[ratios.size() / 2].first, ratios.back().first, ratios.back().second.c_str(),
              static_cast<long>(above));
}
