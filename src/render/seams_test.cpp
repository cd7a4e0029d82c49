// SPDX-License-Identifier: Apache-2.0
// Shapes that share an edge leave no line of what is below them, whatever they are and however they
// lie.
#include <cmath>
#include <numbers>
#include <random>

#include "lumvet/lumvet.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;
using test::PdfBuilder;

namespace {

constexpr int kMostLevels = 4;  // by which a pixel may differ at an edge

Scene scene_of(const std::string& content, const std::string& entries = "",
               const std::string& strip = "") {
  PdfBuilder pdf;
  pdf.page(content, "/MediaBox[0 0 100 100]" + entries);
  if (!strip.empty())
    pdf.stream(5, "/Subtype/Image/Width 1/Height 1/BitsPerComponent 8/ColorSpace/DeviceRGB", strip);
  return Scene::record(test::open(pdf.finish())->page(0).value()).value();
}

std::string number(double value) { return std::to_string(value) + " "; }

std::string turned(double degrees) {
  const double angle = degrees * std::numbers::pi / 180;
  const double c = std::cos(angle);
  const double s = std::sin(angle);
  // About the middle of the page.
  return number(c) + number(s) + number(-s) + number(c) + number(50 - 50 * c + 50 * s) +
         number(50 - 50 * s - 50 * c) + "cm ";
}

// By how much the pixels of the page's middle differ from a color.
int most_levels_from(const Raster& raster, PixelColor color, double margin = 0.3) {
  const int from = static_cast<int>(raster.width() * margin);
  const int to = raster.width() - from;
  int most = 0;
  for (int y = from; y < to; ++y)
    for (int x = from; x < to; ++x) {
      const PixelColor there = raster.at(x, y);
      most = std::max({most, std::abs(there.red - color.red), std::abs(there.green - color.green),
                       std::abs(there.blue - color.blue)});
    }
  return most;
}

constexpr PixelColor kRed{204, 0, 51, 255};
const std::string kRedFill = "0.8 0 0.2 rg ";

// All of these cover the page's middle.
std::string cells(double size) {
  std::string content;
  const int count = static_cast<int>(80 / size) + 1;
  for (int y = 0; y < count; ++y)
    for (int x = 0; x < count; ++x)
      content +=
          number(10 + x * size) + number(10 + y * size) + number(size) + number(size) + "re f ";
  return content;
}

std::string fan(int slices) {
  std::string content;
  for (int i = 0; i < slices; ++i) {
    content += "50.3 49.6 m ";
    for (const int k : {i, i + 1}) {
      const double angle = 2 * std::numbers::pi * (k % slices) / slices;
      content += number(50 + 45 * std::cos(angle)) + number(50 + 45 * std::sin(angle)) + "l ";
    }
    content += "h f ";
  }
  return content;
}

// Cut in two again and again, so that corners lie on the edges of others.
std::string cut_up(double left, double bottom, double right, double top, int times,
                   std::mt19937& random) {
  if (times == 0)
    return number(left) + number(bottom) + number(right - left) + number(top - bottom) + "re f ";
  const double part = std::uniform_real_distribution<double>(0.3, 0.7)(random);
  if (times % 2 == 0) {
    const double x = std::round((left + part * (right - left)) * 1000) / 1000;
    return cut_up(left, bottom, x, top, times - 1, random) +
           cut_up(x, bottom, right, top, times - 1, random);
  }
  const double y = std::round((bottom + part * (top - bottom)) * 1000) / 1000;
  return cut_up(left, bottom, right, y, times - 1, random) +
         cut_up(left, y, right, top, times - 1, random);
}

std::string waves(int count) {
  std::string content;
  const double step = 90.0 / count;
  for (int i = 0; i < count; ++i) {
    const std::string low = number(5 + i * step);
    const std::string high = number(5 + (i + 1) * step);
    const auto lifted = [](const std::string& x, double by) { return number(std::stod(x) + by); };
    content += low + "5 m " + lifted(low, 20) + "35 " + lifted(low, -20) + "65 " + low + "95 l " +
               high + "95 l " + high + "5 l h f ";
    // Its right side is the next one's left, drawn the other way.
    content += high + "5 m " + lifted(high, 20) + "35 " + lifted(high, -20) + "65 " + high +
               "95 c " + low + "95 l " + lifted(low, -20) + "65 " + lifted(low, 20) + "35 " + low +
               "5 c h f ";
  }
  return content;
}

std::string thick_lines(double width) {
  std::string content = number(width) + "w ";
  for (int i = 0; i * width < 90; ++i)
    content +=
        "5 " + number(5 + (i + 0.5) * width) + "m 95 " + number(5 + (i + 0.5) * width) + "l S ";
  return content;
}

std::string strips(double height) {
  std::string content;
  for (int i = 0; i * height < 90; ++i)
    content += "q 90 0 0 " + number(height) + "5 " + number(5 + i * height) + "cm /P Do Q ";
  return content;
}

std::string clipped(double width) {
  std::string content;
  for (int i = 0; i * width < 90; ++i)
    content +=
        "q " + number(5 + i * width) + "5 " + number(width) + "90 re W n 0 0 100 100 re f Q ";
  return content;
}

std::string shaded(double width) {
  std::string content;
  for (int i = 0; i * width < 90; ++i)
    content += "q " + number(5 + i * width) + "5 " + number(width) + "90 re W n /S sh Q ";
  return content;
}

const std::string kResources =
    "/Resources<</XObject<</P 5 0 R>>/ExtGState<</Half<</ca 0.5>>>>/Shading<</S<</ShadingType 2"
    "/ColorSpace/DeviceRGB/Coords[0 0 100 0]/Function<</FunctionType 2/N 1/Domain[0 1]"
    "/C0[0.8 0 0.2]/C1[0.8 0 0.2]>>/Extend[true true]>>>>>>";

}  // namespace

TEST_CASE("shapes side by side cover their common edges together", "[render]") {
  std::mt19937 random(11);
  const auto [name, shapes] = GENERATE_REF(
      table<std::string, std::string>({{"cells", cells(7.37)},
                                       {"small cells", cells(1.31)},
                                       {"cells within a pixel", cells(0.43)},
                                       {"a fan", fan(17)},
                                       {"cells cut in two", cut_up(5, 5, 95, 95, 7, random)},
                                       {"waves", waves(9)},
                                       {"thick lines", thick_lines(2.7)},
                                       {"strips of images", strips(3.3)},
                                       {"clips", clipped(4.1)},
                                       {"clipped gradients", shaded(5.7)}}));
  const double degrees = GENERATE(0.0, 13.0, 45.0, 90.0, 123.4);
  const double dpi = GENERATE(72.0, 100.0, 288.0);
  if (name == "cells within a pixel" && dpi > 100) return;  // they are as the others then
  CAPTURE(name, degrees, dpi);
  const Scene scene =
      scene_of(kRedFill + "0.8 0 0.2 RG " + turned(degrees) + shapes, kResources, "\xCC\x01\x33");
  const Raster raster = render(scene, {.dpi = dpi}).value();
  CHECK(most_levels_from(raster, kRed) <= kMostLevels);
  // On any number of threads, and whatever part is asked for.
  if (dpi != 100) return;
  const Raster alone = render(scene, {.dpi = dpi, .threads = 1}).value();
  const Raster part = render(scene, {.dpi = 72, .area = PageArea{30, 30, 40, 40}}).value();
  const Raster whole = render(scene, {.dpi = 72}).value();
  int wrong = 0;
  for (int y = 0; y < raster.height(); ++y)
    for (int x = 0; x < raster.width(); ++x) wrong += raster.at(x, y) == alone.at(x, y) ? 0 : 1;
  for (int y = 0; y < 40; ++y)
    for (int x = 0; x < 40; ++x) wrong += part.at(x, y) == whole.at(x + 30, y + 30) ? 0 : 1;
  CHECK(wrong == 0);
}

TEST_CASE("translucent shapes side by side show what is below evenly", "[render]") {
  const double degrees = GENERATE(0.0, 13.0);
  const Scene scene =
      scene_of("/Half gs " + kRedFill + turned(degrees) + cells(7.37), kResources, "\xCC\x01\x33");
  CHECK(most_levels_from(render(scene, {.dpi = 100}).value(), {230, 128, 153, 255}) <= kMostLevels);
}

TEST_CASE("neighbors of several colors share a pixel by what each covers", "[render]") {
  // Black and white halves of a pixel: gray, with nothing of the green below.
  const Scene scene =
      scene_of("0 1 0 rg 0 0 100 100 re f 0 g 10 10 40.5 80 re f 1 g 50.5 10 39.5 80 re f");
  const PixelColor between = render(scene, {}).value().at(50, 50);
  CHECK(std::abs(between.red - 128) <= 1);
  CHECK(std::abs(between.green - 128) <= 1);
  CHECK(std::abs(between.blue - 128) <= 1);
}

TEST_CASE("what is painted twice has the same edges as what is painted once", "[render]") {
  const std::string star = "50 95 m 20.3 10 l 95 65.2 l 5 65 l 80.7 10 l h f ";
  const std::string box = "10.5 10.5 40.3 40.3 re f ";
  for (const std::string& shape : {star, box}) {
    const Raster once = render(scene_of(shape), {.dpi = 100}).value();
    const Raster twice = render(scene_of(shape + shape), {.dpi = 100}).value();
    int most = 0;
    for (int y = 0; y < once.height(); ++y)
      for (int x = 0; x < once.width(); ++x)
        most = std::max(most, std::abs(once.at(x, y).red - twice.at(x, y).red));
    // Where less is covered than lies between two places of a mask, that is painted twice.
    constexpr int kOfSlivers = 8;
    CHECK(most <= kOfSlivers);
  }
  // What is hidden wholly leaves no rim.
  const Raster hidden =
      render(scene_of(kRedFill + "10.5 10.5 40.3 40.3 re f 1 g 10.5 10.5 40.3 40.3 re f"), {})
          .value();
  CHECK(most_levels_from(hidden, kWhite, 0) <= 1);
}

TEST_CASE("shapes that touch others in a corner alone are drawn as by themselves", "[render]") {
  const std::string shape = "20.3 20.4 m 60.7 33.3 l 40.1 70.9 l h f ";
  const std::string other = "60.7 33.3 m 90.2 40 l 90 20 l h f ";
  const Raster alone = render(scene_of(shape), {.dpi = 100}).value();
  const Raster both = render(scene_of(shape + other), {.dpi = 100}).value();
  int most = 0;
  for (int y = 0; y < alone.height(); ++y)
    for (int x = 0; x < 80; ++x)
      most = std::max(most, std::abs(alone.at(x, y).red - both.at(x, y).red));
  CHECK(most <= 1);
}
