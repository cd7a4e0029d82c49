// SPDX-License-Identifier: Apache-2.0
// Groups, masks, shadings and patterns whose pixels are worked out from the formulas of ISO
// 32000-2, clauses 8.7 and 11. The page is 40 by 40 points, drawn at one pixel to the point.
#include "lumvet/lumvet.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;
using test::PdfBuilder;

namespace {

using Rgb = std::array<int, 3>;

// A page with objects of its own from 10 on.
class Sheet {
 public:
  explicit Sheet(const std::string& content, const std::string& resources) {
    pdf.page(content, "/MediaBox[0 0 40 40]/Resources<<" + resources + ">>");
  }
  PdfBuilder pdf;

  Raster draw() {
    document = test::open(pdf.finish()).value();
    return render(*document->page(0), {.threads = 1}).value();
  }
  std::optional<Document> document;
};

// From the bottom left corner, as on the page.
Rgb at(const Raster& raster, int x, int y) {
  const PixelColor color = raster.at(x, 39 - y);
  return {color.red, color.green, color.blue};
}

bool near(const Rgb& a, const Rgb& b, int by = 2) {
  return std::abs(a[0] - b[0]) <= by && std::abs(a[1] - b[1]) <= by && std::abs(a[2] - b[2]) <= by;
}

std::string shown(const Rgb& rgb) {
  return std::to_string(rgb[0]) + " " + std::to_string(rgb[1]) + " " + std::to_string(rgb[2]);
}

#define CHECK_PIXEL(raster, x, y, ...)    \
  do {                                    \
    const Rgb pixel = at(raster, x, y);   \
    CAPTURE(x, y, shown(pixel));          \
    CHECK(near(pixel, Rgb{__VA_ARGS__})); \
  } while (false)

const std::string kForm = "/Subtype/Form/BBox[0 0 40 40]";

}  // namespace

TEST_CASE("a knockout group shows each part as if the others were not there", "[render]") {
  for (const bool knockout : {true, false}) {
    Sheet sheet("/F Do", "/XObject<</F 10 0 R>>");
    sheet.pdf.stream(10,
                     kForm + "/Group<</S/Transparency/I true/K " + (knockout ? "true" : "false") +
                         ">>/Resources<</ExtGState<</H<</ca .5>>>>>>",
                     "/H gs 1 0 0 rg 0 0 25 40 re f 0 0 1 rg 15 0 25 40 re f");
    const Raster raster = sheet.draw();
    CHECK_PIXEL(raster, 5, 20, 255, 127, 127);
    CHECK_PIXEL(raster, 35, 20, 127, 127, 255);
    if (knockout)
      CHECK_PIXEL(raster, 20, 20, 127, 127, 255);
    else
      CHECK_PIXEL(raster, 20, 20, 127, 63, 191);
  }
}

TEST_CASE("a group mixes with what is below it unless it is isolated", "[render]") {
  const auto [isolated, alpha, expected] = GENERATE(table<std::string, std::string, Rgb>({
      {"false", "1", {0, 255, 0}},     // cyan × yellow
      {"true", "1", {0, 255, 255}},    // there is nothing to multiply with
      {"false", ".5", {128, 255, 0}},  // half of the product over yellow
      {"true", ".5", {128, 255, 128}},
  }));
  CAPTURE(isolated, alpha);
  Sheet sheet("1 1 0 rg 0 0 40 40 re f /G gs /F Do",
              "/XObject<</F 10 0 R>>/ExtGState<</G<</ca " + alpha + ">>>>");
  sheet.pdf.stream(10,
                   kForm + "/Group<</S/Transparency/I " + isolated +
                       ">>/Resources<</ExtGState<</M<</BM/Multiply>>>>>>",
                   "/M gs 0 1 1 rg 0 0 20 40 re f");
  const Raster raster = sheet.draw();
  CHECK_PIXEL(raster, 10, 20, expected[0], expected[1], expected[2]);
  CHECK_PIXEL(raster, 30, 20, 255, 255, 0);
}

TEST_CASE("a group as a whole mixes by the mode that is current", "[render]") {
  Sheet sheet("1 1 0 rg 0 0 40 40 re f /G gs /F Do",
              "/XObject<</F 10 0 R>>/ExtGState<</G<</BM[/Unknown/Multiply]>>>>");
  sheet.pdf.stream(10, kForm + "/Group<</S/Transparency>>",
                   "1 0 0 rg 0 0 40 40 re f 0 1 1 rg 0 0 40 40 re f");
  CHECK_PIXEL(sheet.draw(), 10, 20, 0, 255, 0);  // not black, as by one after the other
}

TEST_CASE("soft masks let through by luminosity and by opacity", "[render]") {
  const auto [mask, left, right] = GENERATE(table<std::string, Rgb, Rgb>({
      // Left half of the group is gray 0.5, the rest has nothing.
      {"/S/Luminosity", {127, 127, 127}, {255, 255, 255}},
      {"/S/Luminosity/BC[1]", {127, 127, 127}, {0, 0, 0}},
      {"/S/Alpha", {0, 0, 0}, {255, 255, 255}},
      {"/S/Luminosity/TR<</FunctionType 2/N 1/Domain[0 1]/C0[1]/C1[0]>>",
       {128, 128, 128},
       {0, 0, 0}},
  }));
  CAPTURE(mask);
  Sheet sheet("/M gs 0 g 0 0 40 40 re f /N gs 1 0 0 rg 0 0 40 5 re f",
              "/ExtGState<</M<</SMask<</Type/Mask/G 10 0 R" + mask + ">>>>/N<</SMask/None>>>>");
  sheet.pdf.stream(10, kForm + "/Group<</S/Transparency/CS/DeviceGray>>", ".5 g 0 0 20 40 re f");
  const Raster raster = sheet.draw();
  CHECK_PIXEL(raster, 10, 20, left[0], left[1], left[2]);
  CHECK_PIXEL(raster, 30, 20, right[0], right[1], right[2]);
  CHECK_PIXEL(raster, 30, 2, 255, 0, 0);  // without the mask again
}

TEST_CASE("a shading by a function has a color at every point", "[render]") {
  Sheet sheet("/S sh", "/Shading<</S 10 0 R>>");
  sheet.pdf
      .object(10,
              "<</ShadingType 1/ColorSpace/DeviceRGB/Domain[0 1 0 1]/Matrix[20 0 0 40 0 0]"
              "/Function 11 0 R>>")
      .stream(11, "/FunctionType 4/Domain[0 1 0 1]/Range[0 1 0 1 0 1]", "{ 0.2 }");
  const Raster raster = sheet.draw();
  CHECK_PIXEL(raster, 10, 10, 134, 67, 51);
  CHECK_PIXEL(raster, 30, 10, 255, 255, 255);
}

TEST_CASE("axial shadings end or go on as they are told", "[render]") {
  const auto [extend, before, after] = GENERATE(table<std::string, Rgb, Rgb>({
      {"", {255, 255, 255}, {255, 255, 255}},
      {"/Extend[true false]", {255, 0, 0}, {255, 255, 255}},
      {"/Extend[true true]", {255, 0, 0}, {0, 0, 255}},
      {"/Background[0 1 0]", {0, 255, 0}, {0, 255, 0}},
  }));
  CAPTURE(extend);
  Sheet sheet("/Pattern cs /P scn 0 0 40 40 re f", "/Pattern<</P 10 0 R>>");
  sheet.pdf.object(10,
                   "<</PatternType 2/Shading<</ShadingType 2/ColorSpace/DeviceRGB/Coords[10 0 30 0]"
                   "/Function<</FunctionType 2/N 1/Domain[0 1]/C0[1 0 0]/C1[0 0 1]>>" +
                       extend + ">>>>");
  const Raster raster = sheet.draw();
  CHECK_PIXEL(raster, 20, 20, 121, 0, 134);
  CHECK_PIXEL(raster, 5, 20, before[0], before[1], before[2]);
  CHECK_PIXEL(raster, 35, 20, after[0], after[1], after[2]);
}

TEST_CASE("meshes of triangles mix the colors of their corners", "[render]") {
  // Bytes: flag, x, y, red, green, blue; a square of two triangles, the second joined to the first.
  const std::string corners[] = {std::string("\x00\x00\xFF\x00\x00", 5),   // bottom left red
                                 std::string("\xFF\x00\x00\xFF\x00", 5),   // bottom right green
                                 std::string("\x00\xFF\x00\x00\xFF", 5),   // top left blue
                                 std::string("\xFF\xFF\xFF\xFF\xFF", 5)};  // top right white
  const std::string zero(1, '\0');
  const auto [type, data] = GENERATE_COPY(table<std::string, std::string>({
      {"4/BitsPerFlag 8",
       zero + corners[0] + zero + corners[1] + zero + corners[2] + "\x01" + corners[3]},
      {"5/VerticesPerRow 2", corners[0] + corners[1] + corners[2] + corners[3]},
  }));
  CAPTURE(type);
  Sheet sheet("/S sh", "/Shading<</S 10 0 R>>");
  sheet.pdf.stream(10,
                   "/ShadingType " + type +
                       "/ColorSpace/DeviceRGB/BitsPerCoordinate 8/BitsPerComponent 8"
                       "/Decode[0 40 0 40 0 1 0 1 0 1]",
                   data);
  const Raster raster = sheet.draw();
  CHECK_PIXEL(raster, 0, 0, 249, 3, 3);
  CHECK_PIXEL(raster, 39, 0, 0, 252, 3);
  CHECK_PIXEL(raster, 0, 39, 0, 3, 252);
  CHECK_PIXEL(raster, 39, 39, 249, 252, 252);
  CHECK_PIXEL(raster, 20, 19, 0, 131, 124);  // between green and blue, on the side they share
}

TEST_CASE("patches mix the colors of their corners, and join one another", "[render]") {
  const auto byte = [](int value) { return std::string(1, static_cast<char>(value)); };
  // Straight sides: the points of a Coons patch round a rectangle, then a second one to its right.
  const auto point = [&](int x, int y) { return byte(x * 6) + byte(y * 6); };
  std::string data = byte(0);
  const int round[12][2] = {{0, 0},   {0, 13},  {0, 27},  {0, 40}, {7, 40}, {13, 40},
                            {20, 40}, {20, 27}, {20, 13}, {20, 0}, {13, 0}, {7, 0}};
  for (const auto& p : round) data += point(p[0], p[1]);
  data += byte(0) + byte(0) + byte(255) + byte(255);  // shades: left black, right white
  // Flag 2 takes the side from (20, 40) to (20, 0).
  data += byte(2);
  const int second[8][2] = {{27, 0},  {33, 0},  {40, 0},  {40, 13},
                            {40, 27}, {40, 40}, {33, 40}, {27, 40}};
  for (const auto& p : second) data += point(p[0], p[1]);
  data += byte(0) + byte(0);
  Sheet sheet("/S sh", "/Shading<</S 10 0 R>>");
  sheet.pdf.stream(10,
                   "/ShadingType 6/ColorSpace/DeviceGray/BitsPerCoordinate 8/BitsPerComponent 8"
                   "/BitsPerFlag 8/Decode[0 42.5 0 42.5 0 1]",
                   data);
  const Raster raster = sheet.draw();
  const auto level = [&](int x) { return at(raster, x, 20)[0]; };
  CHECK(level(0) < 15);
  CHECK(std::abs(level(10) - 134) < 12);
  CHECK(level(19) > 235);
  CHECK(level(20) > 235);
  CHECK(std::abs(level(30) - 121) < 12);
  CHECK(level(39) < 15);
}

TEST_CASE("a tensor patch whose middle is where a Coons patch has it looks the same", "[render]") {
  const auto byte = [](int value) { return std::string(1, static_cast<char>(value)); };
  const auto draw = [&](int type) {
    const int points[16][2] = {{2, 3},   {5, 14},  {1, 25},  {3, 38}, {13, 33}, {26, 39},
                               {37, 36}, {33, 25}, {39, 14}, {36, 2}, {25, 6},  {14, 1},
                               {16, 11}, {11, 22}, {23, 28}, {28, 17}};
    std::string data = byte(0);
    for (int i = 0; i < (type == 6 ? 12 : 16); ++i)
      data += byte(points[i][0] * 6) + byte(points[i][1] * 6);
    data += byte(0) + byte(80) + byte(255) + byte(160);
    Sheet sheet("/S sh", "/Shading<</S 10 0 R>>");
    sheet.pdf.stream(10,
                     "/ShadingType " + std::to_string(type) +
                         "/ColorSpace/DeviceGray/BitsPerCoordinate 8/BitsPerComponent 8"
                         "/BitsPerFlag 8/Decode[0 42.5 0 42.5 0 1]",
                     data);
    return sheet.draw();
  };
  const Raster coons = draw(6);
  const Raster tensor = draw(7);
  int painted = 0;
  for (int y = 8; y < 32; ++y)
    for (int x = 8; x < 32; ++x) {
      CHECK(std::abs(at(coons, x, y)[0] - at(tensor, x, y)[0]) <= 12);
      painted += at(tensor, x, y)[0] != 255;
    }
  CHECK(painted == 24 * 24);
}

TEST_CASE("patterns repeat their cell, whatever the sign of their steps", "[render]") {
  // Cells of 4 by 4 with a red corner of 2 by 2: few in a small shape, many on the whole page.
  const auto [steps, shape] = GENERATE(table<std::string, std::string>({
      {"/XStep 4/YStep 4", "8 8 8 8 re f"},
      {"/XStep -4/YStep 4", "8 8 8 8 re f"},
      {"/XStep 4/YStep 4", "0 0 40 40 re f"},
      {"/XStep 4/YStep -4", "0 0 40 40 re f"},
  }));
  CAPTURE(steps, shape);
  Sheet sheet("/Pattern cs /P scn " + shape, "/Pattern<</P 10 0 R>>");
  sheet.pdf.stream(10,
                   "/PatternType 1/PaintType 1/TilingType 1/BBox[0 0 4 4]/Resources<<>>" + steps,
                   "1 0 0 rg 0 0 2 2 re f");
  const Raster raster = sheet.draw();
  for (int x = 8; x < 16; ++x)
    for (int y = 8; y < 16; ++y) {
      const bool red = x % 4 < 2 && y % 4 < 2;
      CHECK_PIXEL(raster, x, y, 255, red ? 0 : 255, red ? 0 : 255);
    }
}

TEST_CASE("uncolored patterns take the color they are chosen with", "[render]") {
  // In few cells, which are drawn one by one, and in many.
  for (const std::string area : {" 6 6 re f ", " 20 40 re f "}) {
    CAPTURE(area);
    Sheet sheet("/U cs 0 0 1 /P scn 0 0" + area + "0 1 0 /P scn 20 0" + area,
                "/ColorSpace<</U[/Pattern/DeviceRGB]>>/Pattern<</P 10 0 R>>");
    sheet.pdf.stream(10,
                     "/PatternType 1/PaintType 2/TilingType 1/BBox[0 0 4 4]/XStep 4/YStep 4"
                     "/Resources<<>>",
                     "1 0 0 rg 0 0 2 4 re f");
    const Raster raster = sheet.draw();
    CHECK_PIXEL(raster, 5, 5, 0, 0, 255);
    CHECK_PIXEL(raster, 25, 5, 0, 255, 0);
    CHECK_PIXEL(raster, 3, 5, 255, 255, 255);
  }
}

TEST_CASE("strokes and stencils show patterns through themselves", "[render]") {
  const std::string pattern =
      "<</PatternType 2/Shading<</ShadingType 2/ColorSpace/DeviceRGB/Coords[0 0 40 0]"
      "/Function<</FunctionType 2/N 1/Domain[0 1]/C0[1 0 0]/C1[0 0 1]>>>>>>";
  Sheet stroke("/Pattern CS /P SCN 10 w 0 20 m 40 20 l S", "/Pattern<</P 10 0 R>>");
  stroke.pdf.object(10, pattern);
  const Raster line = stroke.draw();
  CHECK_PIXEL(line, 20, 20, 124, 0, 131);
  CHECK_PIXEL(line, 20, 30, 255, 255, 255);
  Sheet stencil("/Pattern cs /P scn q 40 0 0 40 0 0 cm /I Do Q",
                "/Pattern<</P 10 0 R>>/XObject<</I 11 0 R>>");
  stencil.pdf.object(10, pattern)
      .stream(11, "/Subtype/Image/Width 8/Height 1/ImageMask true/BitsPerComponent 1", "\x0F");
  const Raster painted = stencil.draw();
  CHECK_PIXEL(painted, 10, 20, 188, 0, 67);
  CHECK_PIXEL(painted, 30, 20, 255, 255, 255);
}

TEST_CASE("patterns that use themselves, and impossible ones, do no harm", "[render]") {
  for (const char* entries :
       {"/BBox[0 0 4 4]/XStep 0/YStep 4", "/BBox[0 0 0 4]/XStep 4/YStep 4", "/XStep 4/YStep 4",
        "/BBox[0 0 4 4]/XStep 1e-9/YStep 4", "/BBox[0 0 4 4]/XStep 4/YStep 4/Matrix[0 0 0 0 0 0]",
        "/BBox[-9e9 -9e9 9e9 9e9]/XStep 4/YStep 4",
        "/BBox[0 0 40 40]/XStep 40/YStep 40/Matrix[1 0 0 1 1e18 1e18]"}) {
    CAPTURE(entries);
    Sheet sheet("/Pattern cs /P scn 0 0 40 40 re f", "/Pattern<</P 10 0 R>>");
    sheet.pdf.stream(
        10, std::string("/PatternType 1/PaintType 1/Resources<</Pattern<</P 10 0 R>>>>") + entries,
        "/Pattern cs /P scn 0 0 4 4 re f");
    sheet.draw();
  }
}

TEST_CASE("what is in a group of grays is gray, whatever it is", "[render]") {
  const auto [isolated, space, is_gray] = GENERATE(table<std::string, std::string, bool>({
      {"true", "DeviceGray", true},
      {"true", "DeviceRGB", false},
      {"false", "DeviceGray", false},  // it mixes as what is around it does (11.6.6)
  }));
  const std::string alpha = GENERATE("1", ".5");
  CAPTURE(isolated, space, alpha);
  Sheet sheet("/G gs /F Do", "/XObject<</F 10 0 R>>/ExtGState<</G<</ca " + alpha + ">>>>");
  sheet.pdf.stream(
      10,
      kForm + "/Group<</S/Transparency/I " + isolated + "/CS/" + space +
          ">>/Resources<</XObject<</I 11 0 R>>/Shading<</S<</ShadingType 2/ColorSpace/DeviceRGB"
          "/Coords[0 0 40 0]/Function<</FunctionType 2/Domain[0 1]/N 1/C0[0 0 1]/C1[0 0 1]>>>>>>"
          "/Pattern<</P 12 0 R>>>>",
      "1 0 0 rg 0 0 10 40 re f q 10 0 0 40 10 0 cm /I Do Q "
      "q 20 0 10 40 re W n /S sh Q /Pattern cs /P scn 30 0 10 40 re f");
  sheet.pdf.stream(11, "/Subtype/Image/Width 1/Height 1/BitsPerComponent 8/ColorSpace/DeviceRGB",
                   std::string("\x00\xFF\x00", 3));
  sheet.pdf.stream(12,
                   "/PatternType 1/PaintType 1/TilingType 1/BBox[0 0 2 2]/XStep 2/YStep 2"
                   "/Resources<<>>",
                   "1 1 0 rg 0 0 2 2 re f");
  const Raster raster = sheet.draw();
  const auto seen = [&, is_gray = is_gray](int red, int green, int blue) {
    const int gray = (red * 30 + green * 59 + blue * 11) / 100;
    Rgb rgb = is_gray ? Rgb{gray, gray, gray} : Rgb{red, green, blue};
    if (alpha != "1")
      for (int& channel : rgb) channel = (channel + 255) / 2;
    return rgb;
  };
  CHECK_PIXEL(raster, 5, 20, seen(255, 0, 0));
  CHECK_PIXEL(raster, 15, 20, seen(0, 255, 0));
  CHECK_PIXEL(raster, 25, 20, seen(0, 0, 255));
  CHECK_PIXEL(raster, 35, 20, seen(255, 255, 0));
}

TEST_CASE("a group of colors within one of grays mixes with them, and is gray then", "[render]") {
  const std::string alpha = GENERATE("1", ".5");
  const std::string blend = GENERATE("Normal", "Multiply");
  CAPTURE(alpha, blend);
  Sheet sheet("/F Do", "/XObject<</F 10 0 R>>");
  sheet.pdf.stream(10,
                   kForm +
                       "/Group<</S/Transparency/I true/CS/DeviceGray>>"
                       "/Resources<</XObject<</F 11 0 R>>/ExtGState<</G<</ca " +
                       alpha + ">>>>>>",
                   "1 g 0 0 40 40 re f /G gs /F Do");
  sheet.pdf.stream(11,
                   kForm +
                       "/Group<</S/Transparency/I true/CS/DeviceRGB>>"
                       "/Resources<</ExtGState<</M<</BM/" +
                       blend + ">>>>>>",
                   "1 1 0 rg 0 0 40 40 re f /M gs 0 1 1 rg 0 0 40 40 re f");
  // Yellow times cyan is green, of which 59 % are left; of cyan itself 70 %.
  const int gray = blend == "Normal" ? 178 : 150;
  const int seen = alpha == "1" ? gray : (gray + 255) / 2;
  CHECK_PIXEL(sheet.draw(), 20, 20, seen, seen, seen);
}

TEST_CASE("a page of grays shows no color", "[render]") {
  PdfBuilder pdf;
  pdf.page("1 0 0 rg 0 0 40 40 re f",
           "/MediaBox[0 0 40 40]/Group<</S/Transparency/CS/DeviceGray>>");
  const auto document = test::open(pdf.finish()).value();
  const Raster raster = render(document.page(0).value()).value();
  CHECK_PIXEL(raster, 20, 20, 76, 76, 76);
}

TEST_CASE("a group of inks mixes the light that they leave", "[render]") {
  const std::string blend = GENERATE("Difference", "Screen", "Multiply");
  const std::string space = GENERATE("DeviceCMYK", "DeviceRGB");
  const bool grouped = GENERATE(false, true);  // the cyan by itself, or as a group
  CAPTURE(blend, space, grouped);
  Sheet sheet("/F Do", "/XObject<</F 10 0 R>>");
  sheet.pdf.stream(10,
                   kForm + "/Group<</S/Transparency/I true/CS/" + space +
                       ">>/Resources<</XObject<</C 11 0 R>>/ExtGState<</M<</BM/" + blend + ">>>>>>",
                   std::string("0 0 1 0 k 0 0 40 40 re f /M gs ") +
                       (grouped ? "/C Do" : "1 0 0 0 k 0 0 40 40 re f"));
  sheet.pdf.stream(11, kForm + "/Group<</S/Transparency>>", "1 0 0 0 k 0 0 40 40 re f");
  const Raster raster = sheet.draw();
  const Rgb seen = at(raster, 20, 20);
  CAPTURE(shown(seen));
  // Yellow and cyan as printed: 255 237 0 and 0 163 230.
  const bool in_inks = space == "DeviceCMYK";
  if (blend == "Multiply") CHECK(near(seen, {0, 152, 0}, 4));
  // Each leaves all light of the ink that the other has: nothing is left but what neither has.
  if (blend == "Screen") CHECK(near(seen, {255, in_inks ? 255 : 249, in_inks ? 255 : 230}, 16));
  // |0 - 1| of cyan and yellow, so no ink; |1 - 1| of magenta and black, so all.
  if (blend == "Difference") CHECK(near(seen, in_inks ? Rgb{31, 8, 15} : Rgb{255, 74, 230}, 16));
}
