// SPDX-License-Identifier: Apache-2.0
#include "lumvet/render/render.h"

#include <atomic>
#include <thread>

#include "tests/support/catch.h"
#include "tests/support/drawn_page.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;
using test::page_of;
using test::PdfBuilder;
using test::pixel;

namespace {

// Everything that can be drawn, crossing and overlapping.
std::string busy_page(const std::string& entries = "") {
  PdfBuilder pdf;
  std::string content = "0.9 0.95 1 rg 0 0 300 400 re f /Half gs ";
  for (int i = 0; i < 40; ++i) {
    const std::string n = std::to_string(i);
    content += "q 0." + std::to_string(i % 10) + " 0.2 0.7 rg 0 0.5 0." +
               std::to_string((i * 3) % 10) + " RG " + std::to_string(1 + i % 7) + " w " +
               std::to_string(i % 3) + " J " + std::to_string(i % 3) + " j " +
               (i % 4 == 0 ? "[7 3] 2 d " : "") + std::to_string(i * 7) + "." + n + " " +
               std::to_string(i * 9) + " m " + std::to_string(300 - i * 5) + " " +
               std::to_string(i * 13 % 400) + " " + std::to_string(i * 11 % 300) + " 390 " +
               std::to_string(i * 31 % 300) + " " + n + " c B Q ";
  }
  content +=
      "q 120 40 -30 100 90 200 cm /Pic Do Q q 10 10 200 250 re W n 150 180 m 280 300 l 40 330 l W* "
      "n 0.8 0.1 0.1 rg 0 0 300 400 re f Q ";
  content += "/Group Do BT /F 33 Tf 0 g 0.9 0.3 -0.3 0.9 20 100 Tm (Ostrel Valley) Tj ET";
  pdf.page(content,
           "/MediaBox[0 0 300 400]/Resources<</ExtGState<</Half<</ca 0.6/CA 0.8>>>>/XObject<</Pic "
           "8 0 R/Group 9 0 R>>/Font<</F<</Subtype/Type1/BaseFont/Helvetica>>>>>>" +
               entries);
  pdf.stream(8, "/Subtype/Image/Width 2/Height 2/ColorSpace/DeviceRGB/BitsPerComponent 8",
             "\xFF\x01\x01\x02\xFF\x02\x03\x03\xFF\xC0\xC0\x04");
  pdf.stream(9, "/Subtype/Form/BBox[0 0 300 400]/Group<</S/Transparency>>",
             "0 0 1 rg 40 40 100 100 re f 1 1 0 rg 90 90 100 100 re f");
  return pdf.finish();
}

}  // namespace

TEST_CASE("any number of threads gives the same bytes", "[render]") {
  const Limits however_slow{.page_milliseconds = 0};
  const Document document =
      Document::open(test::to_bytes(busy_page()), {.limits = however_slow}).value();
  const Page page = document.page(0).value();
  const Scene scene = Scene::record(page).value();
  const auto drawn = [&](const auto& what, int threads) {
    return render(what, {.dpi = 130, .threads = threads, .limits = however_slow}).value();
  };
  const Raster one = drawn(scene, 1);
  for (const int threads : {2, 3, 8}) CHECK(drawn(scene, threads) == one);
  CHECK(drawn(page, 0) == one);
}

TEST_CASE("a part drawn by itself equals that part of the whole", "[render]") {
  const Scene scene = Scene::record(page_of(busy_page())).value();
  Raster whole = Raster::make(600, 800).value();
  REQUIRE(render_into(scene, whole.buffer(), {.scale = 2}).ok());
  for (const auto& [left, top, width, height] : std::vector<std::array<int, 4>>{
           {0, 0, 33, 41}, {250, 300, 311, 97}, {599, 799, 1, 1}, {101, 1, 7, 640}}) {
    Raster part = Raster::make(width, height).value();
    REQUIRE(
        render_into(scene, part.buffer(), {.scale = 2, .x = -1.0 * left, .y = -1.0 * top}).ok());
    for (int y = 0; y < height; ++y)
      REQUIRE(std::equal(part.row(y), part.row(y) + width * 4, whole.row(top + y) + left * 4));
  }
}

TEST_CASE("whole pixels are filled and empty ones left, the right way up", "[render]") {
  CHECK(pixel("1 0 0 rg 0 80 20 20 re f", 5, 5) == PixelColor{255, 0, 0, 255});
  CHECK(pixel("1 0 0 rg 0 80 20 20 re f", 5, 95) == kWhite);
  CHECK(pixel("1 0 0 rg 0 80 20 20 re f", 95, 5, "/Rotate 90") == PixelColor{255, 0, 0, 255});
  CHECK(pixel("1 0 0 rg 0 80 20 20 re f", 95, 95, "/Rotate 180") == PixelColor{255, 0, 0, 255});
  CHECK(pixel("1 0 0 rg 0 80 20 20 re f", 5, 95, "/Rotate 270") == PixelColor{255, 0, 0, 255});
  CHECK(pixel("1 0 0 rg 50 50 9 9 re f", 5, 44, "/CropBox[45 0 100 100]") ==
        PixelColor{255, 0, 0, 255});
}

TEST_CASE("backgrounds, opacity and groups mix as they should", "[render]") {
  const std::string half = "/Resources<</ExtGState<</H<</ca 0.5>>>>/XObject<</G 9 0 R>>>>";
  CHECK(pixel("", 5, 5, "", {.background = kTransparent}) == kTransparent);
  CHECK(pixel("", 5, 5, "", {.background = {10, 20, 30, 255}}) == PixelColor{10, 20, 30, 255});
  CHECK(pixel("/H gs 0 0 100 100 re f", 5, 5, half) == PixelColor{127, 127, 127, 255});
  CHECK(pixel("/H gs 1 0 0 rg 0 0 100 100 re f", 5, 5, half, {.background = kTransparent}) ==
        PixelColor{255, 0, 0, 128});
  // Within a group the half counts once, however much overlaps.
  PdfBuilder pdf;
  pdf.page("/H gs /G Do", "/MediaBox[0 0 100 100]" + half);
  pdf.stream(9, "/Subtype/Form/BBox[0 0 100 100]/Group<</S/Transparency>>",
             "0 0 100 100 re f 0 0 100 100 re f");
  CHECK(render(page_of(pdf.finish()))->at(5, 5) == PixelColor{127, 127, 127, 255});
}

TEST_CASE("images stand upright, average when shrunk, and show their masks", "[render]") {
  const auto draw = [](const std::string& image, const std::string& data, const std::string& matrix,
                       const std::string& mask = "") {
    PdfBuilder pdf;
    pdf.page(matrix + " cm 0 0 1 rg /I Do",
             "/MediaBox[0 0 100 100]/Resources<</XObject<</I 9 0 R>>>>");
    pdf.stream(9, image, data);
    pdf.stream(10, "/Width 2/Height 1/ColorSpace/DeviceGray/BitsPerComponent 8", mask);
    return render(page_of(pdf.finish())).value();
  };
  const std::string rgb = "/Subtype/Image/Width 2/Height 2/ColorSpace/DeviceRGB/BitsPerComponent 8";
  const std::string data("\xFF\0\0\0\xFF\0\0\0\xFF\xFF\xFF\0", 12);  // red green / blue yellow
  const Raster large = draw(rgb, data, "100 0 0 100 0 0");
  CHECK(large.at(10, 10) == PixelColor{255, 0, 0, 255});
  CHECK(large.at(90, 10) == PixelColor{0, 255, 0, 255});
  CHECK(large.at(10, 90) == PixelColor{0, 0, 255, 255});
  CHECK(large.at(90, 90) == PixelColor{255, 255, 0, 255});
  const Raster turned = draw(rgb, data, "0 100 -100 0 100 0");  // a quarter turn to the left
  CHECK(turned.at(10, 10) == PixelColor{0, 255, 0, 255});
  CHECK(turned.at(10, 90) == PixelColor{255, 0, 0, 255});
  const Raster tiny = draw(rgb, data, "1 0 0 1 50 50");
  CHECK(tiny.at(50, 49) == PixelColor{128, 128, 64, 255});
  CHECK(draw(rgb + "/SMask 10 0 R", data, "100 0 0 100 0 0", std::string("\0\xFF", 2)).at(10, 10) ==
        kWhite);
  CHECK(draw(rgb + "/SMask 10 0 R", data, "100 0 0 100 0 0", std::string("\0\xFF", 2)).at(90, 10) ==
        PixelColor{0, 255, 0, 255});
  CHECK(draw("/Subtype/Image/Width 2/Height 1/ImageMask true", "\x40", "100 0 0 100 0 0")
            .at(10, 10) == PixelColor{0, 0, 255, 255});
}

TEST_CASE("a large image is decoded as far down as it is drawn", "[render]") {
  // Two fifths of its data are missing, which nobody knows who looks at its upper half.
  constexpr int kSide = 1200;
  std::string samples;
  for (int i = 0; i < kSide * kSide; ++i) samples += static_cast<char>(i / kSide % 200 + i % 50);
  samples.resize(samples.size() * 3 / 5);
  PdfBuilder pdf;
  pdf.page("100 0 0 100 0 0 cm /I Do", "/MediaBox[0 0 100 100]/Resources<</XObject<</I 9 0 R>>>>");
  pdf.stream(9, "/Subtype/Image/Width 1200/Height 1200/ColorSpace/DeviceGray/BitsPerComponent 8",
             samples);
  const std::string text = pdf.finish();
  const Bytes bytes(text.begin(), text.end());
  std::vector<Raster> sheets;
  for (const int threads : {1, 2, 5}) {
    const Document document = Document::open(bytes).value();
    const Scene scene = Scene::record(document.page(0).value()).value();
    RenderOptions upper{.dpi = 360, .area = PageArea{0, 0, 100, 30}, .threads = 1};
    const Raster part = render(scene, upper).value();
    CHECK(document.findings().empty());
    sheets.push_back(render(scene, {.dpi = 360, .threads = threads}).value());
    for (int y = 0; y < part.height(); ++y)
      REQUIRE(std::equal(part.row(y), part.row(y) + part.stride(), sheets.back().row(y)));
    REQUIRE(document.findings().size() == 1);
    CHECK_THAT(document.findings()[0].what, Catch::Contains("left blank"));
    CHECK(sheets.back().at(100, 450) == kWhite);
    CHECK(sheets.back() == sheets.front());
  }
}

TEST_CASE("the paper shows wherever what is drawn first does not hide it", "[render]") {
  // A first drawing that takes all of the page, and one thing that may keep it from hiding all.
  const auto corner = [](const std::string& content, const std::string& states = "") {
    PdfBuilder pdf;
    pdf.page(content, "/MediaBox[0 0 20 20]/Resources<</ExtGState<<" + states +
                          ">>/XObject<</I 9 0 R/J 10 0 R>>>>");
    const std::string square = "/Subtype/Image/Width 1/Height 1/BitsPerComponent 8";
    pdf.stream(9, square + "/ColorSpace/DeviceGray", std::string("\0", 1));
    pdf.stream(10, square + "/ColorSpace/DeviceGray/SMask 11 0 R", std::string("\0", 1));
    pdf.stream(11, square + "/ColorSpace/DeviceGray", std::string("\0", 1));
    return render(page_of(pdf.finish()), {.background = {200, 100, 50, 255}})->at(1, 1);
  };
  const PixelColor black{0, 0, 0, 255};
  const PixelColor paper{200, 100, 50, 255};
  CHECK(corner("0 0 20 20 re f") == black);
  CHECK(corner("20 0 0 20 0 0 cm /I Do") == black);
  CHECK(corner("20 0 0 20 0 0 cm /J Do") == paper);
  CHECK(corner("5 5 9 9 re W n 0 0 20 20 re f") == paper);
  CHECK(corner("10 10 m 19 19 l 10 19 l h W n 0 0 20 20 re f") == paper);
  CHECK(corner("5 0 15 20 re f") == paper);
  CHECK(corner("/G gs 0 0 20 20 re f", "/G<</ca 0.5>>") == PixelColor{100, 50, 25, 255});
  // The page is put together before it is laid onto its paper (11.4.7).
  CHECK(corner("/G gs 1 0 0 rg 0 0 20 20 re f", "/G<</BM/Multiply>>") ==
        PixelColor{255, 0, 0, 255});
}

TEST_CASE("strips of images that adjoin leave no seam", "[render]") {
  PdfBuilder pdf;
  std::string content;
  for (int i = 0; i < 13; ++i)
    content += "q 100 0 0 7.7 0 " + std::to_string(i * 7.7) + " cm /I Do Q ";
  pdf.page(content, "/MediaBox[0 0 100 100]/Resources<</XObject<</I 9 0 R>>>>");
  pdf.stream(9, "/Subtype/Image/Width 1/Height 1/ColorSpace/DeviceGray/BitsPerComponent 8",
             std::string(1, '\0'));
  const Page page = page_of(pdf.finish());
  for (const double dpi : {72.0, 97.0, 131.0}) {
    const Raster raster = render(page, {.dpi = dpi}).value();
    for (int y = 2; y < raster.height(); ++y)
      REQUIRE(raster.at(raster.width() / 2, y) == PixelColor{0, 0, 0, 255});
  }
}

TEST_CASE("sizes come from the resolution or the width asked for", "[render]") {
  const Page page = page_of(busy_page());
  CHECK(render(page, {.dpi = 36})->width() == 150);
  const Raster wide = render(page, {.width = 100}).value();
  CHECK(wide.width() == 100);
  CHECK(wide.height() == 133);
  const PixelSize told = pixel_size(Scene::record(page).value(), {.width = 100}).value();
  CHECK((told.width == wide.width() && told.height == wide.height()));
  CHECK(render(page, {.dpi = 0}).error().code() == ErrorCode::invalid_argument);
  CHECK(render(page, {.dpi = 1e9}).error().code() == ErrorCode::invalid_argument);
  CHECK(render(page, {.dpi = 30'000}).error().code() == ErrorCode::limit);
}

TEST_CASE("an application's own buffer is filled in its order and stride, page and surroundings",
          "[render]") {
  PdfBuilder pdf;
  const Scene scene =
      Scene::record(
          page_of(pdf.page("1 0 0 rg -50 -50 500 500 re f", "/MediaBox[0 0 100 100]").finish()))
          .value();
  std::vector<std::uint8_t> pixels(50 * 260, 7);
  REQUIRE(render_into(scene, {pixels.data() + 49 * 260, 60, 50, -260, PixelFormat::bgra},
                      {.scale = 0.2, .x = 10, .y = 10})
              .ok());
  const auto at = [&](int x, int y) {
    return &pixels[static_cast<std::size_t>((49 - y) * 260 + x * 4)];
  };
  CHECK(
      std::equal(at(15, 15), at(15, 15) + 4, std::array<std::uint8_t, 4>{0, 0, 255, 255}.begin()));
  CHECK(
      std::equal(at(5, 5), at(5, 5) + 4, std::array<std::uint8_t, 4>{255, 255, 255, 255}.begin()));
  CHECK(std::equal(at(35, 15), at(35, 15) + 4,
                   std::array<std::uint8_t, 4>{255, 255, 255, 255}.begin()));
  CHECK(pixels[245] == 7);  // between the rows
  CHECK(render_into(scene, {nullptr, 5, 5, 20}, {}).error().code() == ErrorCode::invalid_argument);
  CHECK(render_into(scene, {pixels.data(), 60, 50, 100}, {}).error().code() ==
        ErrorCode::invalid_argument);
}

TEST_CASE("a preview is about what the sharp drawing is", "[render]") {
  const Scene scene = Scene::record(page_of(busy_page())).value();
  Raster sharp = Raster::make(610, 790).value();
  Raster coarse = Raster::make(610, 790).value();
  const Viewport viewport{.scale = 2, .x = 3, .y = -20};
  REQUIRE(render_into(scene, sharp.buffer(), viewport).ok());
  REQUIRE(preview_into(scene, coarse.buffer(), viewport).ok());
  double difference = 0;
  for (std::size_t i = 0; i < sharp.bytes().size(); ++i)
    difference += std::abs(sharp.bytes()[i] - coarse.bytes()[i]);
  CHECK(difference / static_cast<double>(sharp.bytes().size()) < 12);
  Raster gray = Raster::make(9, 9, {}, PixelFormat::gray).value();
  CHECK(preview_into(scene, gray.buffer(), {}).error().code() == ErrorCode::invalid_argument);
}

TEST_CASE("drawing can be cancelled from another thread's token", "[render]") {
  // The other thread cancels as soon as drawing has begun, which the first band of rows tells.
  const CancelToken cancel;
  std::atomic<bool> has_begun = false;
  std::jthread other([&] {
    has_begun.wait(false);
    cancel.cancel();
  });
  test::PdfBuilder pdf;
  pdf.page("0 0 50 50 re f");
  const Scene scene = Scene::record(page_of(pdf.finish())).value();
  const Status drawn =
      render_rows(scene, {.width = 4000, .limits = {.page_milliseconds = 0}, .cancel = cancel},
                  [&](const PixelBuffer&, int) -> Status {
                    has_begun = true;
                    has_begun.notify_all();
                    while (!cancel.is_cancelled()) std::this_thread::yield();
                    return Done{};
                  });
  has_begun = true;  // should drawing have ended before it began
  has_begun.notify_all();
  REQUIRE_FALSE(drawn.ok());
  CHECK(drawn.error().code() == ErrorCode::cancelled);
}

TEST_CASE("letters made of dots keep their thin lines, wherever they stand", "[render]") {
  // A letter of 20 by 20 dots with a line of one dot along its top, shrunk to 7 points: put onto
  // whole pixels it lost or doubled that line.
  std::string dots(3, '\xFF');
  dots.resize(60, '\0');
  for (const double shift : {0.0, 0.2, 0.45, 0.7, 0.93}) {
    PdfBuilder pdf;
    pdf.page("q 7 0 0 7 " + std::to_string(10 + shift) + " " + std::to_string(20 + shift) +
                 " cm /L Do Q",
             "/MediaBox[0 0 40 40]/Resources<</XObject<</L 8 0 R>>>>");
    pdf.stream(8, "/Subtype/Image/ImageMask true/Decode[1 0]/Width 20/Height 20/BitsPerComponent 1",
               dots);
    const Raster raster = render(page_of(pdf.finish())).value();
    double ink = 0;
    for (int y = 0; y < 40; ++y)
      for (int x = 0; x < 40; ++x) ink += (255 - raster.at(x, y).red) / 255.0;
    CAPTURE(shift);
    CHECK(ink == Approx(7 * 7.0 / 20).epsilon(0.1));
  }
}

TEST_CASE("a screen's gamma changes the edges of letters, and nothing else", "[render]") {
  const auto letters = [](const std::string& colors, double gamma) {
    PdfBuilder pdf;
    pdf.page(
        colors + " BT /F 30 Tf 5.3 40.4 Td (Ostrel) Tj ET 0.4 g 3.5 3.5 9 9 re f",
        "/MediaBox[0 0 100 100]/Resources<</Font<</F<</Subtype/Type1/BaseFont/Helvetica>>>>>>");
    return render(page_of(pdf.finish()), {.text_gamma = gamma}).value();
  };
  const bool is_dark = GENERATE(true, false);
  const std::string colors = is_dark ? "0 g" : "0 g 0 0 100 100 re f 1 g";
  const Raster plain = letters(colors, 1);
  const Raster even = letters(colors, 2.2);
  int edges = 0;
  int wrong = 0;
  for (int y = 0; y < 100; ++y)
    for (int x = 0; x < 100; ++x) {
      const int before = plain.at(x, y).red;
      const int after = even.at(x, y).red;
      // What is half light is nearer to white, of which there is more in it.
      edges += after > before + 20 ? 1 : 0;
      wrong += after < before || ((before == 0 || before == 255 || y > 70) && after != before);
    }
  CHECK(edges > 50);
  CHECK(wrong == 0);
}

TEST_CASE("images are drawn at any scale after their document is gone, by many at once",
          "[render]") {
  // 64 by 64 samples, light in the upper left quarter and in every other sample elsewhere.
  std::string samples;
  for (int y = 0; y < 64; ++y)
    for (int x = 0; x < 64; ++x)
      samples += (x < 32 && y < 32) || (x + y) % 2 == 0 ? '\xFF' : '\x01';
  const auto scene = [&] {
    PdfBuilder pdf;
    pdf.page("64 0 0 64 0 0 cm /P Do", "/MediaBox[0 0 64 64]/Resources<</XObject<</P 5 0 R>>>>");
    pdf.stream(5, "/Subtype/Image/Width 64/Height 64/BitsPerComponent 8/ColorSpace/DeviceGray",
               samples);
    return Scene::record(page_of(pdf.finish())).value();
  }();
  std::vector<int> wrong(6);
  {
    std::vector<std::jthread> threads;
    for (std::size_t i = 0; i < wrong.size(); ++i)
      threads.emplace_back([&, i] {
        const int width = i % 2 == 0 ? 8 : 64;
        const Raster drawn = render(scene, {.width = width, .threads = 1}).value();
        for (int y = 0; y < width; ++y)
          for (int x = 0; x < width; ++x) {
            const bool is_light = x < width / 2 && y < width / 2;
            const int expected =
                is_light ? 255
                : width == 8
                    ? 128
                    : static_cast<std::uint8_t>(samples[static_cast<std::size_t>(y * 64 + x)]);
            wrong[i] += drawn.at(x, y).red != expected;
          }
      });
  }
  for (const int count : wrong) CHECK(count == 0);
  CHECK(scene.memory() < 3000);  // the samples are none of its own
}
