// SPDX-License-Identifier: Apache-2.0
// Lines and outlines that are thinner than a pixel, lie upon one another, or have no area.
#include <cmath>

#include "lumvet/lumvet.h"
#include "tests/support/catch.h"
#include "tests/support/drawn_page.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;
using test::page_of;
using test::PdfBuilder;
using test::pixel;

TEST_CASE("lines are as dark as they are wide, down to the thinnest that is asked for",
          "[render]") {
  const auto darkness = [](const char* width, double thinnest) {
    return 255 - pixel(std::string(width) + " w 0 50.5 m 100 50.5 l S", 50, 49, "",
                       {.thinnest_line = thinnest})
                     .red;
  };
  for (const double thinnest : {0.0, 0.2, 0.5, 1.0}) {
    CAPTURE(thinnest);
    CHECK(darkness("0", thinnest) == 255);  // the thinnest line of a device is one pixel wide
    for (const auto& [width, wide] :
         {std::pair{"0.01", 0.01}, {"0.3", 0.3}, {"0.75", 0.75}, {"1", 1}})
      CHECK(darkness(width, thinnest) == Approx(255 * std::max(wide, thinnest)).margin(1.5));
  }
  CHECK(darkness("0.01", RenderOptions().thinnest_line) > 40);
}

TEST_CASE("adjusted lines look alike wherever they are, and are as dark as others", "[render]") {
  const double width = GENERATE(0.25, 1.0, 1.25, 2.5);
  std::string content = "/Even gs " + std::to_string(width) + " w ";
  for (int i = 0; i < 8; ++i) {  // each further to the right within its pixel
    const std::string x = std::to_string(10 + 10 * i + i * 0.12);
    content += x + " 10 m " + x + " 90.3 l S ";
  }
  content += "12.4 40.37 60.5 30.21 re S";
  const std::string entries = "/Resources<</ExtGState<</Even<</SA true>>>>>>";
  PdfBuilder pdf;
  const Raster raster =
      render(page_of(pdf.page(content, "/MediaBox[0 0 100 100]" + entries).finish())).value();
  CAPTURE(width);
  // The profile of a line: darkness from pixel to pixel around it.
  const auto profile_of = [&](int i) {
    std::vector<int> profile;
    for (int x = 6 + 10 * i; x < 16 + 10 * i; ++x)
      if (const int value = raster.at(x, 80).red; value != 255) profile.push_back(255 - value);
    return profile;
  };
  const std::vector<int> first = profile_of(0);
  CHECK(static_cast<double>(first.size()) <= std::ceil(width) + 1);
  for (int i = 1; i < 8; ++i) CHECK(profile_of(i) == first);
  int darkness = 0;
  for (const int value : first) darkness += value;
  CHECK(darkness == Approx(255 * width).margin(2));
  int of_levels = 0;
  for (int y = 0; y < 100; ++y) of_levels += 255 - raster.at(16, y).red;
  CHECK(of_levels == Approx(2 * 255 * width).margin(4));
  // What is slanted stays as it is.
  CHECK(pixel("/Even gs 1 w 10 10 m 90 60 l S", 50, 65, entries) ==
        pixel("1 w 10 10 m 90 60 l S", 50, 65));
}

TEST_CASE("adjusted lines that are evenly spaced stay so", "[render]") {
  const double start = GENERATE(10.0, 10.5, 10.25);
  std::string content = "/Even gs 0.5 w 1 0 0 1 0.1 0 cm ";
  for (int i = 0; i < 25; ++i) {
    const std::string x = std::to_string(start - 0.1 + 3 * i);
    content += x + " 10 m " + x + " 90 l S ";
  }
  PdfBuilder pdf;
  const Raster raster =
      render(page_of(pdf.page(content,
                              "/MediaBox[0 0 100 100]/Resources<</ExtGState<</Even<</SA "
                              "true>>>>>>")
                         .finish()))
          .value();
  std::vector<int> places;
  for (int x = 0; x < 100; ++x)
    if (raster.at(x, 50).red != 255) places.push_back(x);
  REQUIRE(places.size() == 25);
  for (std::size_t i = 1; i < places.size(); ++i) CHECK(places[i] - places[i - 1] == 3);
}

TEST_CASE("an image thinner than a pixel is as dark as it is wide", "[render]") {
  PdfBuilder pdf;
  pdf.page("80 0 0 0.25 10 50 cm /P Do",
           "/MediaBox[0 0 100 100]/Resources<</XObject<</P 5 0 R>>>>");
  pdf.stream(5, "/Subtype/Image/Width 1/Height 1/BitsPerComponent 8/ColorSpace/DeviceGray",
             std::string(1, '\0'));
  CHECK(255 - render(page_of(pdf.finish()))->at(50, 49).red == 64);
}

TEST_CASE("a simple shape within clips that are convex is cut by them exactly", "[render]") {
  const auto darkness = [](const std::string& content) { return 255 - pixel(content, 50, 50).red; };
  const std::string half = "20 49.5 60 0.5 re ";  // half of a row of pixels
  const int alone = darkness(half + "f");
  CHECK(alone == 128);
  CHECK(darkness(half + "W n " + half + "f") == alone);
  CHECK(darkness(half + "W n " + half + "W n 0 0 100 100 re f") == alone);
  CHECK(darkness("20 49.5 m 50 49.5 l 80 49.5 l 80 50 l 60 50 l 20 50 l h W n " + half + "f") ==
        alone);
  CHECK(darkness("20 49.25 60 0.5 re W n 0.5 w 20 49.75 m 80 49.75 l S") == 64);
  CHECK(darkness("1 0 0 1 80 50 cm -1 0 0 -1 0 0 cm 0 0 m 0 -0.25 l 60 -0.25 l 60 0 l 60 0.25 l 0 "
                 "0.25 l h "
                 "W n 0.5 w 0 0 m 60 0 l S") == 64);
  CHECK(darkness("20 49 m 80 49 l 60 49.5 l 40 49.5 l h W n " + half.substr(0, 3) +
                 "49.25 60 0.5 re f") == 64);
  CHECK(darkness("20 49 60 0.5 re W n " + half + "f") == 0);
  CHECK(darkness(half + "W n q 20 0 60 100 re W n 0 0 100 100 re f Q") == alone);
}

TEST_CASE("outlines without area are painted as the thinnest lines are", "[render]") {
  const auto darkness = [](const std::string& content) { return 255 - pixel(content, 50, 50).red; };
  const std::string line = "0 w 10 49.5 m 90 49.5 l S";
  CHECK(darkness(line) == 255);
  CHECK(darkness("10 49.5 80 0 re f") == 255);
  CHECK(darkness("10 49.5 m 90 49.5 l f*") == 255);
  CHECK(darkness("50.5 10 0 80 re f") == 255);
  CHECK(darkness("10 9 m 90 89 l 50 49 l f") > 100);
  CHECK(darkness("50.5 49.5 m h f") == 255);
  CHECK(darkness("50.5 49.5 m f") == 0);
  CHECK(darkness("10 49.5 80 0.001 re f") == 0);
  // Beside others that have one.
  CHECK(darkness("10 10 20 20 re 10 49.5 80 0 re f") == 255);
}

TEST_CASE("stars drawn twice over vanish under the even-odd rule, as paths and as clips",
          "[render]") {
  const std::string star = "50 95 m 20 10 l 95 65 l 5 65 l 80 10 l h ";
  const auto ink = [](const std::string& content) {
    PdfBuilder pdf;
    const Raster raster =
        render(page_of(pdf.page(content, "/MediaBox[0 0 100 100]").finish())).value();
    int sum = 0;
    for (int y = 0; y < 100; ++y)
      for (int x = 0; x < 100; ++x) sum += 255 - raster.at(x, y).red;
    return sum;
  };
  CHECK(ink(star + "f*") > 100'000);
  CHECK(ink(star + star + "f*") == 0);
  CHECK(ink(star + star + "W* n 0 0 100 100 re f") == 0);
  CHECK(ink("10.3 10.4 50.5 50.5 re 10.3 10.4 50.5 50.5 re f*") == 0);
}
