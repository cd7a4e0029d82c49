// SPDX-License-Identifier: Apache-2.0
// The borders of meshes, against paths of the same outline.
#include <algorithm>
#include <cmath>
#include <random>

#include "lumvet/lumvet.h"
#include "tests/support/catch.h"
#include "tests/support/drawn_page.h"

using namespace lumvet;
using test::PdfBuilder;

namespace {

constexpr double kOdd = 0.997137;

// A triangle of a mesh of type 4 with corners in points.
std::string triangle(int ax, int ay, int bx, int by, int cx, int cy) {
  std::string data;
  for (const auto& [x, y] : {std::pair{ax, ay}, {bx, by}, {cx, cy}})
    data += std::string(1, '\0') + static_cast<char>(x) + static_cast<char>(y) +
            std::string("\xFF\x00\x00", 3);
  return data;
}

// A patch of a mesh of type 6 with straight sides.
std::string patch(int left, int bottom, int right, int top) {
  std::string data(1, '\0');
  const auto side = [&](int ax, int ay, int bx, int by) {
    for (int third = 0; third < 3; ++third) {
      data += static_cast<char>(ax + (bx - ax) * third / 3);
      data += static_cast<char>(ay + (by - ay) * third / 3);
    }
  };
  side(left, bottom, left, top);
  side(left, top, right, top);
  side(right, top, right, bottom);
  side(right, bottom, left, bottom);
  // Colors that make it more than two triangles.
  for (const char red : {'\xFF', '\x20', '\xC0', '\x00'}) data += red + std::string("\x00\x00", 2);
  return data;
}

Raster drawn(const std::string& content, const std::vector<std::string>& meshes,
             const RenderOptions& options = {}, int type = 4) {
  PdfBuilder pdf;
  std::string names;
  for (std::size_t i = 0; i < meshes.size(); ++i)
    names += "/S" + std::to_string(i) + " " + std::to_string(10 + i) + " 0 R ";
  pdf.page(content, "/MediaBox[0 0 100 100]/Resources<</Shading<<" + names + ">>>>");
  // Corners of patches are not where whole numbers are.
  const std::string reach = type == 4 ? "255" : std::to_string(255 * kOdd);
  for (std::size_t i = 0; i < meshes.size(); ++i)
    pdf.stream(static_cast<int>(10 + i),
               "/ShadingType " + std::to_string(type) +
                   "/ColorSpace/DeviceRGB/BitsPerCoordinate 8/BitsPerComponent 8"
                   "/BitsPerFlag 8/Decode[0 " +
                   reach + " 0 " + reach + " 0 1 0 1 0 1]",
               meshes[i]);
  return render(test::page_of(pdf.finish()), options).value();
}

}  // namespace

TEST_CASE("the rim of a mesh is as smooth as that of a path", "[color]") {
  const std::string mesh = triangle(7, 9, 90, 31, 35, 88);
  const double dpi = GENERATE(72.0, 100.0);
  const Raster shaded = drawn("/S0 sh", {mesh}, {.dpi = dpi});
  const Raster filled = drawn("1 0 0 rg 7 9 m 90 31 l 35 88 l f", {}, {.dpi = dpi});
  int most = 0;
  int between = 0;
  for (int y = 0; y < shaded.height(); ++y)
    for (int x = 0; x < shaded.width(); ++x) {
      const PixelColor a = shaded.at(x, y);
      CHECK(a.red == 255);
      most = std::max(most, std::abs(a.green - filled.at(x, y).green));
      between += a.green > 20 && a.green < 235 ? 1 : 0;
    }
  CHECK(most <= 255 / 8);  // 16 places tell no more
  CHECK(between > 100);
  // In parts as in the whole.
  if (dpi != 72) return;
  const Raster part = drawn("/S0 sh", {mesh}, {.dpi = 72, .area = PageArea{20, 20, 41, 33}});
  int wrong = 0;
  for (int y = 0; y < 33; ++y)
    for (int x = 0; x < 41; ++x) wrong += part.at(x, y) == shaded.at(20 + x, 20 + y) ? 0 : 1;
  CHECK(wrong == 0);
}

TEST_CASE("neither the triangles of a mesh nor meshes one after the other leave seams", "[color]") {
  const std::string one = triangle(5, 5, 95, 5, 37, 95);
  const std::string other = triangle(95, 5, 95, 95, 37, 95);
  for (const Raster& raster :
       {drawn("/S0 sh", {one + other}), drawn("/S0 sh /S1 sh", {one, other})}) {
    int most = 0;
    for (int y = 10; y < 90; ++y)
      for (int x = 45; x < 90; ++x) most = std::max<int>(most, raster.at(x, y).green);
    CHECK(most == 0);
  }
}

TEST_CASE("triangles however thin cover what paths of the same corners do", "[color]") {
  std::mt19937 random(7);
  const auto place = [&] { return static_cast<int>(random() % 100); };
  for (int i = 0; i < 60; ++i) {
    const int ax = place(), ay = place(), bx = place(), by = place();
    // The third corner near the line of the others, or anywhere.
    const bool is_thin = i % 3 != 0;
    const int cx = is_thin ? std::clamp((ax + bx) / 2 + i % 5 - 2, 0, 99) : place();
    const int cy = is_thin ? std::clamp((ay + by) / 2 + i % 4 - 1, 0, 99) : place();
    // Paths without area show a line, meshes nothing.
    if ((bx - ax) * (cy - ay) == (by - ay) * (cx - ax)) continue;
    const std::string path = "1 0 0 rg " + std::to_string(ax) + ' ' + std::to_string(ay) + " m " +
                             std::to_string(bx) + ' ' + std::to_string(by) + " l " +
                             std::to_string(cx) + ' ' + std::to_string(cy) + " l f";
    CAPTURE(path);
    const Raster shaded = drawn("/S0 sh", {triangle(ax, ay, bx, by, cx, cy)}, {.dpi = 144});
    const Raster filled = drawn(path, {}, {.dpi = 144});
    double ink = 0;
    double expected = 0;
    double apart = 0;
    for (int y = 0; y < shaded.height(); ++y)
      for (int x = 0; x < shaded.width(); ++x) {
        const int green = shaded.at(x, y).green;
        const int of_path = filled.at(x, y).green;
        ink += 255 - green;
        expected += 255 - of_path;
        apart += std::abs(green - of_path);
      }
    CHECK(std::abs(ink - expected) <= 0.03 * expected + 255 * 8);
    CHECK(apart <= 0.12 * expected + 255 * 16);
  }
}

TEST_CASE("patches whose sides are level but for what is rounded cover their rectangles",
          "[color]") {
  for (const double scale : {1.0, 0.37, 0.91, 1.13}) {
    CAPTURE(scale);
    const auto placed = [](double by) {
      return std::to_string(by) + " 0 0 " + std::to_string(by) + " 3 2 cm ";
    };
    const Raster shaded = drawn(placed(scale) + "/S0 sh", {patch(10, 20, 85, 80)}, {.dpi = 100}, 6);
    const Raster filled =
        drawn(placed(scale * kOdd) + "1 0 0 rg 10 20 75 60 re f", {}, {.dpi = 100});
    int most = 0;
    for (int y = 0; y < shaded.height(); ++y)
      for (int x = 0; x < shaded.width(); ++x)
        most = std::max(most, std::abs(shaded.at(x, y).green - filled.at(x, y).green));
    CHECK(most <= 255 / 4);  // 4 places each way
  }
}
