// SPDX-License-Identifier: Apache-2.0
#include "raster/coverage.h"

#include <cmath>
#include <map>
#include <numbers>
#include <random>

#include "lumvet/base/bytes.h"
#include "raster/stroker.h"
#include "tests/support/catch.h"

using namespace lumvet;
using raster::Coverage;
using raster::PixelRect;
using raster::Polyline;

namespace {

// Coverage by value of every pixel of an area.
Bytes covered(const std::vector<Polyline>& lines, const PixelRect& area,
              FillRule rule = FillRule::nonzero) {
  Coverage coverage(area);
  Bytes values(static_cast<std::size_t>(area.width()) * static_cast<std::size_t>(area.height()));
  coverage.add(raster::edges_of(lines));
  coverage.sweep(rule, [&](const Coverage::Run& run) {
    std::uint8_t* out = &values[static_cast<std::size_t>(run.y - area.top) *
                                    static_cast<std::size_t>(area.width()) +
                                static_cast<std::size_t>(run.x - area.left)];
    if (run.values != nullptr)
      std::copy_n(run.values, run.count, out);
    else
      std::fill_n(out, run.count, run.value);
  });
  return values;
}

// From a point to the nearest place of a line.
double distance(const Polyline& line, Point p) {
  double nearest = 1e9;
  for (std::size_t i = line.closed ? 0 : 1; i < line.points.size(); ++i) {
    const Point a = line.points[i == 0 ? line.points.size() - 1 : i - 1];
    const Point along = line.points[i] - a;
    const double length = along.x * along.x + along.y * along.y;
    const double part = ((p.x - a.x) * along.x + (p.y - a.y) * along.y) / length;
    const Point there = a + along * std::clamp(part, 0.0, 1.0);
    nearest = std::min(nearest, std::hypot(p.x - there.x, p.y - there.y));
  }
  return nearest;
}

double area_of(const Bytes& values) {
  double sum = 0;
  for (const std::uint8_t value : values) sum += value / 255.0;
  return sum;
}

std::vector<Polyline> random_polygon(std::mt19937& random, double size) {
  std::uniform_real_distribution<double> place(-0.3 * size, 1.3 * size);
  Polyline line{{}, true};
  for (int i = 0; i < 7; ++i) line.points.push_back({place(random), place(random)});
  return {line};
}

// Lines of short pieces up and down, which leave few pixels alone.
Polyline thicket(std::mt19937& random, int size) {
  std::uniform_real_distribution<double> step(-0.9, 0.9);
  Polyline line{{}, true};
  for (int column = -3; 1.5 * column < size + 4; ++column)
    for (int row = -6; 0.7 * row < size + 4; ++row)
      line.points.push_back(
          {1.5 * column + step(random), column % 2 == 0 ? 0.7 * row : size - 0.7 * row});
  return line;
}

// Whether a point is inside, by counting crossings: the plain way.
bool is_inside(const std::vector<Polyline>& lines, Point p, FillRule rule) {
  int winding = 0;
  for (const Polyline& line : lines)
    for (std::size_t i = 0; i < line.points.size(); ++i) {
      const Point a = line.points[i];
      const Point b = line.points[(i + 1) % line.points.size()];
      if ((a.y <= p.y) == (b.y <= p.y)) continue;
      const double x = a.x + (p.y - a.y) / (b.y - a.y) * (b.x - a.x);
      if (x > p.x) winding += a.y < b.y ? 1 : -1;
    }
  return rule == FillRule::even_odd ? winding % 2 != 0 : winding != 0;
}

}  // namespace

TEST_CASE("a rectangle between pixels covers exactly its area", "[raster]") {
  Path path;
  path.add_rect({1.25, 1.5, 3.5, 2.75});
  const Bytes values = covered(raster::flatten(path, {}, 0.1), {0, 0, 5, 4});
  const auto expect = [](double part) {
    return static_cast<std::uint8_t>(std::lround(part * 255));
  };
  CHECK(values[1 * 5 + 1] == expect(0.75 * 0.5));
  CHECK(values[1 * 5 + 2] == expect(0.5));
  CHECK(values[1 * 5 + 3] == expect(0.5 * 0.5));
  CHECK(values[2 * 5 + 2] == expect(0.75));
  CHECK(values[0] == 0);
  CHECK(values[3 * 5 + 2] == 0);
}

TEST_CASE("coverage agrees with counting points inside, by either rule", "[raster]") {
  std::mt19937 random(17);
  constexpr int kSize = 12;
  constexpr int kSub = 24;  // sample points each way in a pixel
  int far_off = 0;
  for (int round = 0; round < 12; ++round)
    for (const FillRule rule : {FillRule::nonzero, FillRule::even_odd}) {
      // Two triangles, so that no more than a few pixels hold several overlapping edges.
      auto lines = random_polygon(random, kSize);
      lines[0].points.resize(3);
      const Bytes values = covered(lines, {0, 0, kSize, kSize}, rule);
      for (int y = 0; y < kSize; ++y)
        for (int x = 0; x < kSize; ++x) {
          int inside = 0;
          for (int k = 0; k < kSub * kSub; ++k)
            inside +=
                is_inside(lines, {x + (k % kSub + 0.5) / kSub, y + (k / kSub + 0.5) / kSub}, rule);
          const double expected = 255.0 * inside / (kSub * kSub);
          far_off += std::abs(values[static_cast<std::size_t>(y * kSize + x)] - expected) > 8;
        }
    }
  CHECK(far_off == 0);
}

TEST_CASE("any division into areas gives the same values", "[raster]") {
  std::mt19937 random(23);
  constexpr int kSize = 64;
  for (int round = 0; round < 60; ++round) {
    auto lines = random_polygon(random, kSize);
    if (round % 5 == 0) lines[0].points[2] = {5e7, -3e6};  // far away
    if (round % 5 == 1) lines = {thicket(random, kSize)};
    const FillRule rule = round % 2 == 0 ? FillRule::nonzero : FillRule::even_odd;
    const Bytes whole = covered(lines, {0, 0, kSize, kSize}, rule);
    for (const int tile : {7, 16, 33})
      for (int top = 0; top < kSize; top += tile)
        for (int left = 0; left < kSize; left += tile) {
          const PixelRect area =
              PixelRect{left, top, left + tile, top + tile}.intersected({0, 0, kSize, kSize});
          const Bytes part = covered(lines, area, rule);
          for (int y = area.top; y < area.bottom; ++y)
            for (int x = area.left; x < area.right; ++x)
              REQUIRE(
                  part[static_cast<std::size_t>((y - area.top) * area.width() + x - area.left)] ==
                  whole[static_cast<std::size_t>(y * kSize + x)]);
        }
  }
}

TEST_CASE("a sweep forgets, and what is not covered is not reported twice", "[raster]") {
  Coverage coverage({0, 0, 8, 8});
  Path path;
  path.add_rect({2, 2, 6, 6});
  coverage.add(raster::edges_of(raster::flatten(path, {}, 0.1)));
  int spans = 0;
  coverage.sweep(FillRule::nonzero, [&](const Coverage::Run&) { ++spans; });
  CHECK(spans == 4);
  coverage.sweep(FillRule::nonzero, [&](const Coverage::Run&) { ++spans; });
  CHECK(spans == 4);
}

TEST_CASE("huge and meaningless coordinates do no harm", "[raster]") {
  const double inf = std::numeric_limits<double>::infinity();
  Path path;
  path.move_to({-1e18, -1e18});
  path.line_to({1e18, -1e18});
  path.line_to({1e18, 1e18});
  path.line_to({-1e18, 1e18});
  path.close();
  CHECK(area_of(covered(raster::flatten(path, {}, 0.1), {0, 0, 10, 10})) == Approx(100));
  Path curve;  // so far that the number of pieces it wants is no int
  curve.move_to({0, 0});
  curve.curve_to({1e32, 3}, {-1e32, 5}, {9, 9});
  CHECK(raster::flatten(curve, {}, 0.1).front().points.size() > 2);
  Path broken;
  broken.move_to({0, 0});
  broken.line_to({inf, 5});
  broken.line_to({std::nan(""), 5});
  CHECK(raster::flatten(broken, {}, 0.1).empty());
}

TEST_CASE("a circle of curves has the area of a circle", "[raster]") {
  constexpr double k = 0.5522847498;
  Path circle;
  circle.move_to({90, 50});
  circle.curve_to({90, 50 + 40 * k}, {50 + 40 * k, 90}, {50, 90});
  circle.curve_to({50 - 40 * k, 90}, {10, 50 + 40 * k}, {10, 50});
  circle.curve_to({10, 50 - 40 * k}, {50 - 40 * k, 10}, {50, 10});
  circle.curve_to({50 + 40 * k, 10}, {90, 50 - 40 * k}, {90, 50});
  CHECK(area_of(covered(raster::flatten(circle, {}, 0.01), {0, 0, 100, 100})) ==
        Approx(std::numbers::pi * 1600).epsilon(0.001));
}

TEST_CASE("round strokes are all that lies within half a width of their line", "[raster]") {
  // Lines of short pieces in wide strokes, which turn back and cross themselves.
  std::mt19937 random(23);
  std::uniform_real_distribution<double> place(15, 85);
  std::uniform_real_distribution<double> step(-1, 1);
  constexpr PixelRect kArea{0, 0, 100, 100};
  for (int round = 0; round < 60; ++round) {
    CAPTURE(round);
    StrokeStyle style{
        .width = 1 + round % 12 * 2.0, .cap = LineCap::round, .join = LineJoin::round};
    Polyline line{{}, round % 3 == 0};
    Point at{place(random), place(random)};
    const double longest = 0.5 + round % 7 * 3;
    double angle = 3 * step(random);
    for (int i = 0; i < 25; ++i) {
      line.points.push_back(at);
      angle += (round % 5 + 1) * 0.5 * step(random);
      at = at + Point{std::cos(angle), std::sin(angle)} * (longest * (1.1 + step(random)));
    }
    const Bytes values = covered(raster::stroke({line}, style, 0.02), kArea);
    int wrong = 0;
    for (int y = 0; y < 100; ++y)
      for (int x = 0; x < 100; ++x) {
        const double away = distance(line, {x + 0.5, y + 0.5});
        constexpr double kHalfDiagonal = 0.75;  // of a pixel, and some more
        const int value = values[static_cast<std::size_t>(y * 100 + x)];
        if (away + kHalfDiagonal < style.width / 2) wrong += value == 255 ? 0 : 1;
        if (away - kHalfDiagonal > style.width / 2) wrong += value == 0 ? 0 : 1;
      }
    CHECK(wrong == 0);
  }
}

TEST_CASE("strokes have the area that their caps and joins give them", "[raster]") {
  const double pi = std::numbers::pi;
  const Polyline line{{{20, 30}, {60, 30}}, false};
  const Polyline corner{{{20, 20}, {60, 20}, {60, 60}}, false};
  const Polyline square{{{20, 20}, {60, 20}, {60, 60}, {20, 60}}, true};
  const Polyline dot{{{40, 40}, {40, 40}}, false};
  const auto stroked = [](const Polyline& polyline, StrokeStyle style) {
    return area_of(covered(raster::stroke({polyline}, style, 0.02), {0, 0, 100, 100}));
  };
  StrokeStyle style;
  style.width = 10;
  CHECK(stroked(line, style) == Approx(400));
  CHECK(stroked(corner, style) == Approx(775 + 25));  // the miter's outer square
  CHECK(stroked(square, style) == Approx(50 * 50 - 30 * 30));
  CHECK(stroked(dot, style) == 0);
  style.cap = LineCap::square;
  CHECK(stroked(line, style) == Approx(500));
  style.cap = LineCap::round;
  CHECK(stroked(line, style) == Approx(400 + pi * 25).epsilon(0.002));
  CHECK(stroked(dot, style) == Approx(pi * 25).epsilon(0.01));
  style.cap = LineCap::butt;
  style.join = LineJoin::bevel;
  CHECK(stroked(corner, style) == Approx(775 + 12.5).epsilon(0.0001));
  style.join = LineJoin::round;
  CHECK(stroked(corner, style) == Approx(775 + pi * 25 / 4).epsilon(0.002));
  style.join = LineJoin::miter;
  style.miter_limit = 1.2;  // below the square root of two that a right angle needs
  CHECK(stroked(corner, style) == Approx(775 + 12.5).epsilon(0.0001));
}

TEST_CASE("dashes cover the parts switched on, from the phase, around a closed path", "[raster]") {
  const auto stroked = [](const Polyline& line, std::vector<double> dashes, double phase) {
    StrokeStyle style;
    style.width = 2;
    style.dashes = std::move(dashes);
    style.dash_phase = phase;
    return area_of(covered(raster::stroke({line}, style, 0.05), {0, 0, 200, 200}));
  };
  const Polyline line{{{10, 50}, {110, 50}}, false};
  CHECK(stroked(line, {10, 10}, 0) == Approx(100));
  CHECK(stroked(line, {10, 10}, 10) == Approx(100));
  CHECK(stroked(line, {30}, 0) == Approx(2 * (30 + 30)));  // 30 on, 30 off, 30 on, 10 off
  CHECK(stroked(line, {70, 100}, 20) == Approx(2 * 50));
  CHECK(stroked(line, {10, 10}, -5) == Approx(2 * (5 + 10 * 4 + 5)).margin(11));
  CHECK(stroked(line, {0, 0}, 0) == Approx(200));        // no pattern at all: solid
  CHECK(stroked(line, {1e-9, 1e-9}, 0) == Approx(200));  // too fine to see
  const Polyline square{{{20, 20}, {60, 20}, {60, 60}, {20, 60}}, true};
  // On across the starting corner, so it is joined there and not capped.
  CHECK(stroked(square, {20, 20}, 10) == Approx(160).margin(6));
}

TEST_CASE("an upright rectangle is covered as any polygon is", "[raster]") {
  std::mt19937 random(5);
  std::uniform_real_distribution<double> place(-8, 40);
  for (int go = 0; go < 300; ++go) {
    const PixelRect area{3, 2, 36, 30};
    const double x = place(random);
    const double y = place(random);
    const Rect box{x, y, x + std::abs(place(random)), y + std::abs(place(random)) * (go % 3) / 2.0};
    Path path;
    path.add_rect(box);
    Bytes direct(static_cast<std::size_t>(area.width()) * static_cast<std::size_t>(area.height()));
    Coverage coverage(area);
    coverage.sweep_rectangle(box, [&](const Coverage::Run& run) {
      REQUIRE(run.values == nullptr);
      std::fill_n(&direct[static_cast<std::size_t>(run.y - area.top) *
                              static_cast<std::size_t>(area.width()) +
                          static_cast<std::size_t>(run.x - area.left)],
                  run.count, run.value);
    });
    REQUIRE((direct == covered(raster::flatten(path, {}, 0.1), area)));
  }
}
