// SPDX-License-Identifier: Apache-2.0
#include "raster/passed_twice.h"

#include <algorithm>
#include <cmath>
#include <random>

#include "tests/support/catch.h"

using namespace lumvet;
using namespace lumvet::raster;

namespace {

constexpr PixelRect kArea{0, 0, 40, 40};

// The darkest value anywhere.
int most_covered(const std::vector<Polyline>& lines) {
  Coverage coverage(kArea);
  coverage.add(edges_of(lines, FillRule::even_odd));
  int most = 0;
  coverage.sweep(FillRule::even_odd, [&](const Coverage::Run& run) {
    for (int i = 0; i < run.count; ++i)
      most = std::max<int>(most, run.values == nullptr ? run.value : run.values[i]);
  });
  return most;
}

long covered(const std::vector<Polyline>& lines) {
  Coverage coverage(kArea);
  coverage.add(edges_of(lines, FillRule::even_odd));
  long sum = 0;
  coverage.sweep(FillRule::even_odd, [&](const Coverage::Run& run) {
    for (int i = 0; i < run.count; ++i) sum += run.values == nullptr ? run.value : run.values[i];
  });
  return sum;
}

Polyline rectangle(double left, double top, double right, double bottom) {
  return {{{left, top}, {right, top}, {right, bottom}, {left, bottom}}, true};
}

}  // namespace

TEST_CASE("what is drawn twice over vanishes under the even-odd rule, forward and backward",
          "[raster]") {
  Polyline star;
  star.closed = true;
  for (int i = 0; i < 5; ++i)
    star.points.push_back({20.3 + 15 * std::cos(i * 2.513274), 19.7 + 15 * std::sin(i * 2.513274)});
  Polyline backward = star;
  std::reverse(backward.points.begin(), backward.points.end());
  CHECK(most_covered({star}) == 255);
  CHECK(most_covered({star, star}) == 0);
  CHECK(most_covered({star, backward}) == 0);
  CHECK(covered({star, backward, star}) == covered({star}));
  const Polyline box = rectangle(3.5, 4.5, 20.25, 30.75);
  CHECK(most_covered({box, box}) == 0);
  CHECK(covered({box, box, box}) == covered({box}));
}

TEST_CASE("parts of upright edges that are passed twice leave nothing", "[raster]") {
  // Together they cover the lower part alone.
  const auto both = {rectangle(3.5, 4.5, 20.5, 30.5), rectangle(3.5, 4.5, 20.5, 17.5)};
  CHECK(covered(both) == covered({rectangle(3.5, 17.5, 20.5, 30.5)}));
  // Side by side they are one, but for what rounding makes of it.
  const auto beside = {rectangle(3.5, 4.5, 12.5, 30.5), rectangle(12.5, 2.5, 20.5, 35.5)};
  CHECK(std::abs(covered(beside) - covered({rectangle(3.5, 4.5, 12.5, 30.5)}) -
                 covered({rectangle(12.5, 2.5, 20.5, 35.5)})) < 300);
}

TEST_CASE("outlines of which no edge is passed twice stay as they are", "[raster]") {
  std::mt19937 random(3);
  std::uniform_real_distribution<double> place(1, 39);
  for (int trial = 0; trial < 50; ++trial) {
    std::vector<Edge> edges;
    for (int i = 0; i < 20; ++i)
      edges.push_back({in_steps(place(random)), in_steps(place(random)), in_steps(place(random)),
                       in_steps(place(random))});
    std::vector<Edge> left = edges;
    take_out_passed_twice(left);
    REQUIRE(left.size() == edges.size());
    for (std::size_t i = 0; i < edges.size(); ++i) {
      CHECK(left[i].x0 == edges[i].x0);
      CHECK(left[i].y1 == edges[i].y1);
    }
  }
}
