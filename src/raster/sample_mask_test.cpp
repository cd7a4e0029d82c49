// SPDX-License-Identifier: Apache-2.0
#include "raster/sample_mask.h"

#include <bit>
#include <cmath>
#include <random>

#include "tests/support/catch.h"

using namespace lumvet;
using namespace lumvet::raster;

namespace {

constexpr PixelRect kArea{0, 0, 30, 20};

Edges edges(std::vector<Point> points, FillRule rule = FillRule::nonzero) {
  return edges_of({{std::move(points), true}}, rule);
}

template <typename Take>
void for_pixels(const Take& take) {
  for (int y = kArea.top; y < kArea.bottom; ++y)
    for (int x = kArea.left; x < kArea.right; ++x) take(x, y);
}

}  // namespace

TEST_CASE("shapes that a line parts have no place in common and leave none out", "[raster]") {
  std::mt19937 random(5);
  std::uniform_real_distribution<double> place(1, 19);
  for (int trial = 0; trial < 100; ++trial) {
    const Point a{place(random), place(random)};
    const Point b{place(random), place(random)};
    const Point c{place(random), place(random)};
    const Point d{place(random), place(random)};
    // The same four corners: two triangles that share the side from a to c, whichever way they lie.
    SampledOutline one;
    SampledOutline other;
    SampledOutline both;
    const Edges of_one = edges({a, b, c});
    const Edges of_other = edges({a, c, d});
    const Edges of_both = edges({a, b, c, d}, FillRule::even_odd);
    one.set(of_one, FillRule::even_odd, kArea);
    other.set(of_other, FillRule::even_odd, kArea);
    both.set(of_both, FillRule::even_odd, kArea);
    int wrong = 0;
    for_pixels(
        [&](int x, int y) { wrong += (one.at(x, y) ^ other.at(x, y)) == both.at(x, y) ? 0 : 1; });
    CHECK(wrong == 0);
  }
}

TEST_CASE("masks hold as many places as is covered", "[raster]") {
  const std::vector<Point> star{{15, 1}, {7, 19}, {28, 8}, {2, 8}, {23, 19}};
  for (const FillRule rule : {FillRule::nonzero, FillRule::even_odd}) {
    const Edges outline = edges(star, rule);
    SampledOutline sampled;
    sampled.set(outline, rule, kArea);
    Coverage coverage(kArea);
    coverage.add(outline);
    std::vector<int> covered(static_cast<std::size_t>(kArea.width() * kArea.height()), 0);
    coverage.sweep(rule, [&](const Coverage::Run& run) {
      for (int i = 0; i < run.count; ++i)
        covered[static_cast<std::size_t>(run.y * kArea.width() + run.x + i)] =
            run.values == nullptr ? run.value : run.values[i];
    });
    int far = 0;
    for_pixels([&](int x, int y) {
      const double by_mask = std::popcount(sampled.at(x, y)) * 255 / 64.0;
      const int exact = covered[static_cast<std::size_t>(y * kArea.width() + x)];
      far += std::abs(by_mask - exact) > 40 ? 1 : 0;
    });
    // But for pixels in which the star crosses itself, whose coverage is a sum.
    CHECK(far <= 10);
  }
}

TEST_CASE("a rectangle has the mask of its outline, and no area changes one", "[raster]") {
  std::mt19937 random(6);
  std::uniform_real_distribution<double> place(0, 20);
  for (int trial = 0; trial < 100; ++trial) {
    const double left = place(random);
    const double top = place(random);
    const Rect rect{left, top, left + place(random) / 2, top + place(random) / 2};
    const Edges outline = edges({{rect.left, rect.bottom},
                                 {rect.right, rect.bottom},
                                 {rect.right, rect.top},
                                 {rect.left, rect.top}});
    SampledOutline upright;
    SampledOutline sampled;
    SampledOutline of_a_part;
    upright.set(rect);
    sampled.set(outline, FillRule::nonzero, kArea);
    const PixelRect part{3, 5, 20, 9};
    of_a_part.set(outline, FillRule::nonzero, part);
    int wrong = 0;
    for_pixels([&](int x, int y) {
      wrong += upright.at(x, y) == sampled.at(x, y) ? 0 : 1;
      const bool within = y >= part.top && y < part.bottom && x >= part.left && x < part.right;
      if (within) wrong += of_a_part.at(x, y) == sampled.at(x, y) ? 0 : 1;
    });
    CHECK(wrong == 0);
  }
}
