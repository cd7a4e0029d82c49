// SPDX-License-Identifier: Apache-2.0
// Patches that share an edge with the one before (ISO 32000-2, 8.7.4.5.7, table 84): a red square
// with a second patch on its upper, right or lower side, whose far corners are blue.
#include "lumvet/render/render.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;
using test::PdfBuilder;

namespace {

struct Corner {
  int x;
  int y;
};

// The points of straight edges from one corner to the next, without the first.
std::string edge(Corner from, Corner to) {
  std::string points;
  for (int third = 1; third <= 3; ++third) {
    points += static_cast<char>(from.x + (to.x - from.x) * third / 3);
    points += static_cast<char>(from.y + (to.y - from.y) * third / 3);
  }
  return points;
}

std::string closing(Corner from, Corner to) { return edge(from, to).substr(0, 4); }

const std::string kRed("\xFF\x00\x00", 3);
const std::string kBlue("\x00\x00\xFF", 3);

Raster drawn(char flag, Corner begin, Corner end, Corner far_end, Corner far_begin) {
  // Counted from its lower left corner upward and around.
  const Corner a{9, 9}, b{9, 21}, c{21, 21}, d{21, 9};
  const std::string square = std::string(1, '\0') + static_cast<char>(a.x) +
                             static_cast<char>(a.y) + edge(a, b) + edge(b, c) + edge(c, d) +
                             closing(d, a) + kRed + kRed + kRed + kRed;
  const std::string joined = std::string(1, flag) + edge(end, far_end) + edge(far_end, far_begin) +
                             closing(far_begin, begin) + kBlue + kBlue;
  PdfBuilder pdf;
  pdf.page("/S sh", "/MediaBox[0 0 40 40]/Resources<</Shading<</S 8 0 R>>>>");
  pdf.stream(8,
             "/ShadingType 6/ColorSpace/DeviceRGB/BitsPerCoordinate 8/BitsPerComponent 8"
             "/BitsPerFlag 8/Decode[0 255 0 255 0 1 0 1 0 1]",
             square + joined);
  const Document document = test::open(pdf.finish()).value();
  const Raster raster = render(document.page(0).value()).value();
  CHECK(document.findings().empty());
  return raster;
}

// A third of the way from the shared edge a pixel is a third blue.
void check(const Raster& raster, int x, int y, double blue) {
  const PixelColor color = raster.at(x, 39 - y);
  CAPTURE(x, y, int{color.red}, int{color.green}, int{color.blue});
  CHECK(color.blue == Approx(255 * blue).margin(8));
  CHECK(color.red == Approx(255 * (1 - blue)).margin(8));
  CHECK(color.green == 0);
}

}  // namespace

TEST_CASE("a patch goes on from the edge of the one before that its flag names", "[render]") {
  const Raster above = drawn(1, {9, 21}, {21, 21}, {21, 33}, {9, 33});
  check(above, 15, 15, 0);
  check(above, 15, 24, 3.5 / 12);
  check(above, 15, 31, 10.5 / 12);
  CHECK(above.at(30, 39 - 15) == kWhite);
  const Raster right = drawn(2, {21, 21}, {21, 9}, {33, 9}, {33, 21});
  check(right, 15, 15, 0);
  check(right, 24, 15, 3.5 / 12);
  check(right, 31, 15, 10.5 / 12);
  CHECK(right.at(15, 39 - 30) == kWhite);
  const Raster below = drawn(3, {21, 9}, {9, 9}, {9, 0}, {21, 0});
  check(below, 15, 15, 0);
  check(below, 15, 4, 4.5 / 9);
  CHECK(below.at(30, 39 - 15) == kWhite);
}
