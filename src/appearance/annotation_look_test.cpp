// SPDX-License-Identifier: Apache-2.0
// Annotations without an appearance are drawn by their own entries, upright or turned with their
// page, at any zoom.
#include "appearance/annotation_look.h"

#include <cmath>

#include "lumvet/draw/drawing.h"
#include "lumvet/render/render.h"
#include "lumvet/text/page_words.h"
#include "tests/support/catch.h"
#include "tests/support/every_mark.h"

using namespace lumvet;
using test::DrawnMark;

namespace {

Page page_with(const std::vector<DrawnMark>& marks, const std::string& more = "") {
  return test::open(test::marked_page(marks, more))->page(0).value();
}

Page page_with(const std::string& annotation, const std::string& more = "") {
  test::PdfBuilder pdf;
  pdf.page("", "/MediaBox[0 0 100 100]/Annots[<</Type/Annot/F 4" + annotation + ">>]" + more);
  return test::open(pdf.finish())->page(0).value();
}

bool is_like(const PixelColor& pixel, const std::array<int, 3>& color, int most = 12) {
  return std::abs(pixel.red - color[0]) <= most && std::abs(pixel.green - color[1]) <= most &&
         std::abs(pixel.blue - color[2]) <= most;
}

int dark_pixels(const Page& page, const RenderOptions& options = {}) {
  const Raster raster = render(page, options).value();
  int count = 0;
  for (int y = 0; y < raster.height(); ++y)
    for (int x = 0; x < raster.width(); ++x) count += raster.at(x, y).green < 200 ? 1 : 0;
  return count;
}

}  // namespace

TEST_CASE("every kind is drawn by its own entries, however its page is turned", "[appearance]") {
  const int rotation = GENERATE(0, 90, 180, 270);
  const double dpi = GENERATE(72.0, 180.0);
  const std::vector<DrawnMark> marks = test::every_mark();
  const Page page = page_with(marks, "/Rotate " + std::to_string(rotation));
  const Raster raster = render(page, {.dpi = dpi}).value();
  for (const DrawnMark& mark : marks)
    for (const Point on : mark.on) {
      CAPTURE(rotation, dpi, mark.type, mark.entries, on.x, on.y);
      const Point shown = page.to_display().apply(on);
      const auto pixel =
          raster.at(static_cast<int>(shown.x * dpi / 72), static_cast<int>(shown.y * dpi / 72));
      CAPTURE(int(pixel.red), int(pixel.green), int(pixel.blue));
      CHECK(is_like(pixel, mark.color, dpi < 100 ? 60 : 12));
    }
  // Each alone shows something, and nothing far from where it is.
  if (rotation != 0 || dpi > 100) return;
  for (const DrawnMark& mark : marks) {
    const Raster alone = render(page_with({mark}), {.dpi = 72}).value();
    int within = 0;
    int outside = 0;
    constexpr double kReach = 30;  // of leader lines and captions
    for (int y = 0; y < alone.height(); ++y)
      for (int x = 0; x < alone.width(); ++x) {
        const auto pixel = alone.at(x, y);
        if (pixel.red == 255 && pixel.green == 255 && pixel.blue == 255) continue;
        const double up = 400 - y;
        const Rect& r = mark.rect;
        const bool is_near = x >= r.left - kReach && x <= r.right + kReach &&
                             up >= r.bottom - kReach && up <= r.top + kReach;
        ++(is_near ? within : outside);
      }
    CAPTURE(mark.type, mark.entries);
    CHECK(within > 20);
    CHECK(outside == 0);
  }
}

TEST_CASE("marks without a look go along when their page is drawn elsewhere", "[appearance]") {
  const int rotation = GENERATE(0, 90);
  const Page page = page_with(test::every_mark(), "/Rotate " + std::to_string(rotation));
  Drawing elsewhere(page.width(), page.height());
  elsewhere.draw(page, {0, 0, page.width(), page.height()});
  elsewhere.draw(page, {0, 0, page.width(), page.height()});
  const Document drawn = elsewhere.as_document().value();
  const Raster expected = render(page, {.dpi = 100}).value();
  const Raster found = render(drawn.page(0).value(), {.dpi = 100}).value();
  REQUIRE(found.width() == expected.width());
  int different = 0;
  for (int y = 0; y < found.height(); ++y)
    for (int x = 0; x < found.width(); ++x) {
      const PixelColor a = found.at(x, y);
      const PixelColor b = expected.at(x, y);
      different += std::abs(a.red - b.red) > 96 || std::abs(a.green - b.green) > 96 ? 1 : 0;
    }
  CHECK(different < 40);
  CHECK(drawn.page(0)->annotations()->empty());
}

TEST_CASE("what annotations say can be read in what is drawn of them", "[appearance]") {
  std::string text;
  const Page page = page_with(test::every_mark());
  for (const Annotation& mark : page.annotations().value())
    if (const auto look = appearance::look_of(mark, {}))
      text += PageWords::of(look->drawing.as_document()->page(0).value())->text() + "\n";
  for (const char* words : {"To be looked at", "again", "crack", "4.2 m", "NOT APPROVED"})
    CHECK_THAT(text, Catch::Contains(words));
}

TEST_CASE("what shows nothing by itself shows nothing", "[appearance]") {
  for (const char* entries :
       {"/Subtype/Popup/Rect[10 10 90 90]", "/Subtype/Watermark/Rect[10 10 90 90]",
        "/Subtype/Square/C[0]/Rect[10 10 10 10]", "/Subtype/Link/Rect[10 10 90 90]",
        "/Subtype/Link/C[0]/Border[0 0 0]/Rect[10 10 90 90]", "/Subtype/Ink/Rect[10 10 90 90]",
        "/Subtype/Line/Rect[10 10 90 90]/L[20 20]", "/Subtype/Odd/Rect[10 10 90 90]",
        "/Subtype/Square/C[0]/Rect[10 10 90 90]/F 2", "/Subtype/Square/C[0]/Rect[10 10 90 90]/F 32",
        "/Subtype/Polygon/C[0]/Rect[10 10 90 90]/Vertices[20 20]"}) {
    CAPTURE(entries);
    CHECK(dark_pixels(page_with(entries)) == 0);
  }
  // Printed, and not on a screen; on a screen, and not printed.
  const char* square = "/Subtype/Square/C[0]/Rect[10 10 90 90]";
  const RenderOptions print{.record = {.purpose = Purpose::print}};
  CHECK(dark_pixels(page_with(std::string(square) + "/F 36"), print) > 0);
  CHECK(dark_pixels(page_with(std::string(square) + "/F 0"), print) == 0);
}

TEST_CASE("what is pointed at shows, or is gone, where its flags say so", "[appearance]") {
  for (const auto& [flags, shown, shown_when_pointed_at] : {std::tuple{0, true, true},
                                                            {32, false, false},
                                                            {256, true, false},
                                                            {288, false, true},
                                                            {290, false, false}}) {
    CAPTURE(flags);
    test::PdfBuilder pdf;
    pdf.page("", "/MediaBox[0 0 100 100]/Annots[9 0 R]")
        .object(9, "<</Type/Annot/Subtype/Square/C[0]/Rect[10 10 90 90]/F " +
                       std::to_string(flags) + ">>");
    const Page page = test::open(pdf.finish())->page(0).value();
    const ObjectId id = page.annotations()->at(0).id;
    CHECK((dark_pixels(page) > 0) == shown);
    CHECK((dark_pixels(page, {.record = {.pointed_at = id}}) > 0) == shown_when_pointed_at);
    CHECK((dark_pixels(page, {.record = {.pointed_at = ObjectId{8, 0}}}) > 0) == shown);
  }
}

TEST_CASE("hostile entries are drawn as far as they make sense, or not at all", "[appearance]") {
  for (const char* entries :
       {"/Subtype/Square/C[1 0]/IC[9 9 9 9 9]/Rect[10 10 90 90]/BS<</W 1e9>>",
        "/Subtype/Square/C[0]/Rect[10 10 90 90]/BS<</W -4>>",
        "/Subtype/Square/C[0]/Rect[10 10 90 90]/BS<</S/D/D[0 0]>>",
        "/Subtype/Square/C[0]/Rect[10 10 90 90]/RD[90 90 90 90]",
        "/Subtype/Circle/C[0]/Rect[10 10 90 90]/BE<</S/C/I 1e30>>",
        "/Subtype/Highlight/C[1 0 0]/Rect[10 10 90 90]/QuadPoints[1e30 1e30 -1e30 1 2 3 4 5]",
        "/Subtype/Highlight/C[1 0 0]/Rect[10 10 90 90]/QuadPoints[5 5 5 5 5 5 5 5]",
        "/Subtype/Squiggly/Rect[0 0 9 9]/QuadPoints[0 10 1e9 10 0 0 1e9 0]",
        "/Subtype/Line/C[0]/Rect[10 10 90 90]/L[5 5 5 5]/LE[/Slash/Butt]",
        "/Subtype/Line/C[0]/Rect[10 10 90 90]/L[5 5 95 95]/LL 1e20/LLE 1e20/LLO -1e20",
        "/Subtype/Polygon/C[0]/BE<</S/C/I 2>>/Rect[10 10 90 90]/Vertices[0 0 1e9 0 1e9 1e9]",
        "/Subtype/FreeText/Rect[10 10 90 90]/DA(/F 1e30 Tf)/Contents(a)",
        "/Subtype/FreeText/Rect[10 10 11 11]/DA(garbage ] >> Tf)/Contents(a)",
        "/Subtype/FreeText/Rect[10 10 90 90]/DA 7/DS(font: ;;; color:)/Contents(\\001\\002)",
        "/Subtype/Stamp/Rect[10 10 90 14]/Name/#00#00#01",
        "/Subtype/Ink/C[0]/Rect[10 10 90 90]/InkList[[][1][50 50][(a)(b)]]",
        "/Subtype/Caret/Rect[90 90 10 10]/RD[1 2 3]"}) {
    CAPTURE(entries);
    CHECK(render(page_with(entries), {.dpi = 72}).ok());
  }
}

TEST_CASE("small files make no endless looks", "[appearance]") {
  std::string corners;
  std::string quads;
  for (int i = 0; i < 3000; ++i) {
    corners += std::to_string(i % 2 * 90000) + " " + std::to_string(i % 7 * 40000) + " ";
    quads += "0 10 90000 10 0 0 90000 0 ";
  }
  const std::string words(1'000'000, 'w');
  for (const std::string& entries :
       {"/Subtype/Polygon/C[0]/BE<</S/C/I 1>>/Rect[0 0 90 90]/Vertices[" + corners + "]",
        "/Subtype/Squiggly/C[0]/Rect[0 0 90 90]/QuadPoints[" + quads + "]",
        "/Subtype/FreeText/DA(/Helv 0 Tf)/Rect[0 0 90 90]/Contents(" + words + ")"}) {
    const auto look = appearance::look_of(page_with(entries).annotations().value()[0], {});
    REQUIRE(look);
    const Document document = look->drawing.as_document().value();
    CHECK(document.page(0)->content()->size() < 3'000'000);
  }
}

TEST_CASE("marks mix with the page as they say", "[appearance]") {
  const auto over_blue = [](const std::string& annotation) {
    test::PdfBuilder pdf;
    pdf.page("0 0 1 rg 0 0 50 100 re f",
             "/MediaBox[0 0 100 100]/Annots[<</Type/Annot/F 4" + annotation + ">>]");
    pdf.stream(10, "/Type/XObject/Subtype/Form/BBox[0 0 80 80]", "1 1 0 rg 0 0 80 80 re f");
    const Raster raster = render(test::open(pdf.finish())->page(0).value(), {.dpi = 72}).value();
    return std::pair(raster.at(25, 50), raster.at(75, 50));
  };
  // A highlight darkens; a square covers, as opaque as it is.
  const auto [marked, beside] =
      over_blue("/Subtype/Highlight/C[1 1 0]/Rect[10 10 90 90]/QuadPoints[5 90 95 90 5 10 95 10]");
  CHECK(is_like(marked, {0, 0, 0}));
  CHECK(is_like(beside, {255, 255, 0}));
  const auto [half, half_beside] =
      over_blue("/Subtype/Square/IC[1 1 0]/CA .5/BS<</W 0>>/Rect[10 10 90 90]");
  CHECK(is_like(half, {128, 128, 128}));
  CHECK(is_like(half_beside, {255, 255, 128}));
  const auto [mixed, mixed_beside] =
      over_blue("/Subtype/Square/IC[1 1 0]/BM/Multiply/BS<</W 0>>/Rect[10 10 90 90]");
  CHECK(is_like(mixed, {0, 0, 0}));
  CHECK(is_like(mixed_beside, {255, 255, 0}));
  // An appearance says itself how opaque it is, and not how it mixes (table 166).
  const auto [own, own_beside] =
      over_blue("/Subtype/Square/BM/Multiply/CA .5/ca .5/Rect[10 10 90 90]/AP<</N 10 0 R>>");
  CHECK(is_like(own, {0, 0, 0}));
  CHECK(is_like(own_beside, {255, 255, 0}));
}

TEST_CASE("what does not turn or grow stays upright and as large, at its corner", "[appearance]") {
  for (const int rotation : {0, 90, 180, 270}) {
    test::PdfBuilder pdf;
    pdf.page("",
             "/MediaBox[0 0 200 200]/Rotate " + std::to_string(rotation) +
                 "/Annots[<</Type/Annot/Subtype/Text/F 28/Rect[90 90 110 110]/AP<</N 10 0 R>>>>]");
    pdf.stream(10, "/Type/XObject/Subtype/Form/BBox[0 0 20 20]",
               "1 1 0 rg 0 0 20 20 re f 1 0 0 rg 0 15 20 5 re f");
    const Page page = test::open(pdf.finish())->page(0).value();
    const Point corner = page.to_display().apply({90, 110});
    for (const double zoom : {1.0, 2.0}) {
      const Raster raster = render(page, {.dpi = 72 * zoom}).value();
      const auto at = [&](double right, double down) {
        return raster.at(static_cast<int>(corner.x * zoom + right),
                         static_cast<int>(corner.y * zoom + down));
      };
      CAPTURE(rotation, zoom);
      CHECK(is_like(at(2, 2), {255, 0, 0}));
      CHECK(is_like(at(18, 2), {255, 0, 0}));
      CHECK(is_like(at(2, 18), {255, 255, 0}));
      CHECK(is_like(at(18, 18), {255, 255, 0}));
      CHECK(is_like(at(22, 10), {255, 255, 255}));
      CHECK(is_like(at(10, 22), {255, 255, 255}));
    }
  }
}

TEST_CASE("films and screens show their posters until they are played", "[appearance]") {
  test::PdfBuilder pdf;
  pdf.page("",
           "/MediaBox[0 0 100 100]/Annots[<</Subtype/Movie/Rect[10 10 40 90]/Movie<</Poster 11 0 "
           "R>>>>"
           "<</Subtype/Screen/Rect[50 10 90 90]/MK<</I 12 0 R>>>>"
           "<</Subtype/Movie/Rect[92 10 98 90]/Movie<</Poster true>>>>]")
      .stream(11, "/Subtype/Image/Width 1/Height 2/BitsPerComponent 8/ColorSpace/DeviceRGB",
              std::string("\xFF\0\0\0\0\xFF", 6))
      .stream(12, "/Subtype/Form/BBox[5 5 15 15]/Matrix[2 0 0 2 0 0]", "0 1 0 rg 5 5 10 10 re f");
  const Raster raster = render(test::open(pdf.finish())->page(0).value(), {.dpi = 72}).value();
  CHECK(is_like(raster.at(25, 20), {255, 0, 0}));  // the image in all of it
  CHECK(is_like(raster.at(25, 80), {0, 0, 255}));
  for (const int y : {32, 68}) CHECK(is_like(raster.at(70, y), {0, 255, 0}));  // 40 points wide
  for (const int y : {28, 72}) CHECK(is_like(raster.at(70, y), {255, 255, 255}));
  CHECK(is_like(raster.at(94, 85), {230, 230, 230}));  // none to be shown
}
