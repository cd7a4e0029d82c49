// SPDX-License-Identifier: Apache-2.0
#include "raster/convex.h"

#include <cmath>
#include <random>

#include "tests/support/catch.h"

using namespace lumvet;
using namespace lumvet::raster;

namespace {

std::vector<Polyline> outline(std::vector<Point> points) { return {{std::move(points), true}}; }

double area_of(const std::vector<Polyline>& lines) {
  double twice = 0;
  for (const Polyline& line : lines)
    for (std::size_t i = 0; i < line.points.size(); ++i) {
      const Point a = line.points[i];
      const Point b = line.points[(i + 1) % line.points.size()];
      twice += a.x * b.y - a.y * b.x;
    }
  return std::abs(twice) / 2;
}

bool is_inside(const std::vector<Polyline>& lines, Point p) {
  bool inside = false;
  for (const Polyline& line : lines)
    for (std::size_t i = 0; i < line.points.size(); ++i) {
      const Point a = line.points[i];
      const Point b = line.points[(i + 1) % line.points.size()];
      if ((a.y > p.y) != (b.y > p.y) && p.x < a.x + (p.y - a.y) / (b.y - a.y) * (b.x - a.x))
        inside = !inside;
    }
  return inside;
}

}  // namespace

TEST_CASE("outlines are told to be convex, whichever way they run", "[raster]") {
  CHECK(convex_corners(outline({{0, 0}, {4, 0}, {4, 3}, {0, 3}})).size() == 4);
  CHECK(convex_corners(outline({{0, 3}, {4, 3}, {4, 0}, {0, 0}, {0, 3}})).size() == 4);
  CHECK(convex_corners(outline({{0, 0}, {2, 0}, {4, 0}, {2, 5}})).size() == 4);
  CHECK(convex_corners(outline({{0, 0}, {4, 0}, {1, 1}, {0, 4}})).empty());
  CHECK(convex_corners(outline({{0, 0}, {4, 4}, {4, 0}, {0, 4}})).empty());
  CHECK(convex_corners(outline({{0, 0}, {4, 4}, {8, 8}})).empty());
  CHECK(convex_corners({}).empty());
  // A star of five points turns one way all the time, and goes around twice.
  std::vector<Point> star;
  for (int i = 0; i < 5; ++i) star.push_back({std::cos(i * 2.513274), std::sin(i * 2.513274)});
  CHECK(convex_corners(outline(star)).empty());
}

TEST_CASE("what is cut by a convex outline is what lies inside of both", "[raster]") {
  std::mt19937 random(7);
  std::uniform_real_distribution<double> place(0, 10);
  for (int trial = 0; trial < 200; ++trial) {
    std::vector<Point> any;
    for (int i = 0; i < 6; ++i) any.push_back({place(random), place(random)});
    std::vector<Point> corners;
    while (corners.empty())
      corners = convex_corners(outline({{place(random), place(random)},
                                        {place(random), place(random)},
                                        {place(random), place(random)}}));
    const auto cut = cut_by_convex(outline(any), corners);
    for (int i = 0; i < 100; ++i) {
      const Point p{place(random), place(random)};
      const bool both = is_inside(outline(any), p) && is_inside(outline(corners), p);
      CHECK(is_inside(cut, p) == both);
    }
  }
  const std::vector<Point> half = convex_corners(outline({{0, 0}, {4, 0}, {4, 1.5}, {0, 1.5}}));
  CHECK(area_of(cut_by_convex(outline({{0, 0}, {4, 0}, {4, 3}, {0, 3}}), half)) == Approx(6));
  CHECK(cut_by_convex(outline({{5, 5}, {9, 5}, {7, 9}}), half).empty());
}
