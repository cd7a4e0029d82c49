// SPDX-License-Identifier: Apache-2.0
// Corners of the standard that are easily drawn wrongly, each as the color that a pixel must have.
#include <cmath>
#include <functional>

#include "lumvet/lumvet.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;
using test::PdfBuilder;

namespace {

constexpr PixelColor kRed{255, 0, 0, 255};
constexpr PixelColor kBlue{0, 0, 255, 255};
constexpr PixelColor kGreen{0, 255, 0, 255};

// A page of 100 by 100 points.
Raster drawn(const std::string& content, const std::string& resources = "",
             const std::function<void(PdfBuilder&)>& more = {}, const RenderOptions& options = {},
             const std::string& entries = "", const std::string& catalog = "") {
  PdfBuilder pdf;
  if (catalog.empty()) {
    pdf.page(content, "/MediaBox[0 0 100 100]" + entries + "/Resources<<" + resources + ">>");
  } else {
    pdf.object(1, "<</Type/Catalog/Pages 2 0 R" + catalog + ">>");
    pdf.object(2, "<</Type/Pages/Kids[3 0 R]/Count 1>>");
    pdf.object(3, "<</Type/Page/Parent 2 0 R/MediaBox[0 0 100 100]/Contents 4 0 R/Resources<<" +
                      resources + ">>>>");
    pdf.stream(4, "", content);
  }
  if (more) more(pdf);
  const auto document = test::open(pdf.finish());
  REQUIRE(document.ok());
  return render(document->page(0).value(), options).value();
}

bool are_near(const PixelColor& a, const PixelColor& b, int levels = 2) {
  return std::abs(a.red - b.red) <= levels && std::abs(a.green - b.green) <= levels &&
         std::abs(a.blue - b.blue) <= levels;
}

}  // namespace

TEST_CASE("inline images end where their length, their samples or their filter say", "[render]") {
  const std::string image = "q 40 0 0 40 5 55 cm BI /W 2 /H 2 /BPC 8 /CS /G ";
  const std::string rest = " Q 1 0 0 rg 55 55 40 40 re f";
  const auto content = GENERATE_COPY(
      // No white space before EI.
      image + "ID \x01\x80\xC0\x40" + "EI" + rest,
      // Something that looks like the end within the samples, by the length that is stated.
      std::string("q 40 0 0 40 5 55 cm BI /W 4 /H 4 /BPC 8 /CS /G /L 16 ID ") +
          "12\n EI Q q g\n34" + "\nEI" + rest,
      // The same by the number of samples.
      std::string("q 40 0 0 40 5 55 cm BI /W 4 /H 4 /BPC 8 /CS /G ID ") + "12\n EI Q q g\n34" +
          "\nEI" + rest,
      // By the filter's own end.
      image + "/F /AHx ID 0080c040>EI" + rest, image + "/F [/AHx] ID 00 80 c0 40 >\nEI" + rest,
      image + "/F /A85 ID 5sdq,~>EI" + rest,
      image + "/F /RL ID " + std::string("\x03\x01\x45\x49\x20\x80", 6) + "EI" + rest,
      // What comes behind is no plain text.
      image + "ID \x01\x80\xC0\x40\nEI Q BT (\x01\x02\xFE) Tj ET q" + rest);
  const Raster raster = drawn(content);
  CHECK(raster.at(75, 25) == kRed);
  CHECK(raster.at(15, 35) != kWhite);
}

TEST_CASE("memberships count when all layers are on, too", "[render]") {
  const std::string layers = "/OCProperties<</OCGs[10 0 R]/D<</ON[10 0 R]>>>>";
  const auto color = [&](const std::string& membership) {
    return drawn(
               "/OC /M BDC 1 0 0 rg 0 0 100 100 re f EMC", "/Properties<</M " + membership + ">>",
               [](PdfBuilder& pdf) { pdf.object(10, "<</Type/OCG/Name(L)>>"); }, {}, "", layers)
        .at(50, 50);
  };
  CHECK(color("<</Type/OCMD/OCGs[10 0 R]/P/AllOff>>") == kWhite);
  CHECK(color("<</Type/OCMD/OCGs[10 0 R]/P/AnyOff>>") == kWhite);
  CHECK(color("<</Type/OCMD/VE[/Not 10 0 R]>>") == kWhite);
  CHECK(color("<</Type/OCMD/OCGs[10 0 R]/P/AllOn>>") == kRed);
  CHECK(color("<</Type/OCMD/VE[/Or[/Not 10 0 R]10 0 R]>>") == kRed);
}

TEST_CASE(
    "layers of another intent play no part; zoom, language and person switch those that say so",
    "[render]") {
  const auto shows = [](const std::string& layer, const std::string& configuration,
                        const RenderOptions& options = {}) {
    return drawn(
               "/OC /M BDC 1 0 0 rg 0 0 100 100 re f EMC", "/Properties<</M 10 0 R>>",
               [&](PdfBuilder& pdf) { pdf.object(10, "<</Type/OCG/Name(L)" + layer + ">>"); },
               options, "", "/OCProperties<</OCGs[10 0 R]/D<<" + configuration + ">>>>")
               .at(10, 10) == kRed;
  };
  CHECK_FALSE(shows("", "/OFF[10 0 R]"));
  CHECK(shows("/Intent/Design", "/OFF[10 0 R]"));
  CHECK_FALSE(shows("/Intent/Design", "/OFF[10 0 R]/Intent/Design"));
  CHECK_FALSE(shows("/Intent/Design", "/OFF[10 0 R]/Intent/All"));
  CHECK_FALSE(shows("/Intent[/Design/View]", "/OFF[10 0 R]"));
  const std::string zoomed = "/AS[<</Event/View/Category[/Zoom]/OCGs[10 0 R]>>]";
  const std::string from_four = "/Usage<</Zoom<</min 4>>>>";
  CHECK_FALSE(shows(from_four, zoomed));
  CHECK(shows(from_four, zoomed, {.dpi = 288}));
  CHECK(shows(from_four, zoomed, {.record = {.zoom = 5}}));
  CHECK(shows(from_four, zoomed, {.width = 400}));
  CHECK_FALSE(shows("/Usage<</Zoom<</max 2>>>>", zoomed, {.dpi = 144}));
  CHECK(shows(from_four, ""));
  const std::string spoken = "/AS[<</Event/View/Category[/Language/User]/OCGs[10 0 R]>>]";
  const std::string spanish = "/Usage<</Language<</Lang(es-MX)>>>>";
  const std::string preferred = "/Usage<</Language<</Lang(es-MX)/Preferred/ON>>>>";
  CHECK(shows(spanish, spoken));
  CHECK(shows(spanish, spoken, {.record = {.language = "es-MX"}}));
  CHECK_FALSE(shows(spanish, spoken, {.record = {.language = "es-ES"}}));
  CHECK(shows(preferred, spoken, {.record = {.language = "es-ES"}}));
  CHECK_FALSE(shows(preferred, spoken, {.record = {.language = "en"}}));
  const std::string for_two = "/Usage<</User<</Type/Ind/Name[(Ida Lund)(Per Aas)]>>>>";
  CHECK(shows(for_two, spoken, {.record = {.user = "Per Aas"}}));
  CHECK_FALSE(shows(for_two, spoken, {.record = {.user = "Eva Moe"}}));
}

TEST_CASE("the page's own group may be one that knocks out", "[render]") {
  const std::string shapes = "/Half gs 1 0 0 rg 0 0 60 60 re f 0 0 1 rg 40 40 60 60 re f";
  const std::string half = "/ExtGState<</Half<</ca 0.5>>>>";
  const PixelColor plain = drawn(shapes, half, {}, {}, "/Group<</S/Transparency>>").at(50, 50);
  const PixelColor knocked =
      drawn(shapes, half, {}, {}, "/Group<</S/Transparency/K true>>").at(50, 50);
  CHECK(are_near(knocked, {128, 128, 255, 255}));
  CHECK_FALSE(are_near(plain, knocked));
}

TEST_CASE("a shading pattern is painted in the graphics state that it asks for", "[render]") {
  const std::string red =
      "<</ShadingType 2/ColorSpace/DeviceRGB/Coords[0 0 100 0]/Function<<"
      "/FunctionType 2/Domain[0 1]/C0[1 0 0]/C1[1 0 0]/N 1>>/Extend[true true]>>";
  const auto color = [&](const std::string& state, const std::string& before = "") {
    return drawn(before + "/Pattern cs /P scn 0 0 100 100 re f 0 1 0 rg 0 0 10 10 re f",
                 "/ExtGState<</Half<</ca 0.5>>>>/Pattern<</P<</PatternType 2" + state + "/Shading" +
                     red + ">>>>");
  };
  CHECK(color("").at(50, 50) == kRed);
  CHECK(are_near(color("/ExtGState<</ca 0.3>>").at(50, 50), {255, 179, 179, 255}));
  CHECK(color("/ExtGState<</ca 0.3>>").at(5, 95) == kGreen);  // only while it is painted
  CHECK(color("/ExtGState<</BM/Multiply>>", "0 0 1 rg 0 0 100 100 re f ").at(50, 50) ==
        PixelColor{0, 0, 0, 255});
  CHECK(are_near(color("", "/Half gs ").at(50, 50), {255, 128, 128, 255}));
}

TEST_CASE("inks that are all /None leave nothing; functions have as many inputs as inks",
          "[render]") {
  const auto color = [](const std::string& names, const std::string& domain, int size,
                        const std::string& operands) {
    std::string sizes;
    for (int i = 0; i < size; ++i) sizes += "2 ";
    std::string samples;
    for (int i = 0; i < 1 << size; ++i)
      samples += i == (1 << size) - 1 ? "\xFF\x01\x01" : "\x01\x01\xFF";
    return drawn("/N cs " + operands + "scn 0 0 100 100 re f",
                 "/ColorSpace<</N[/DeviceN[" + names + "]/DeviceRGB 10 0 R]>>",
                 [&](PdfBuilder& pdf) {
                   pdf.stream(10,
                              "/FunctionType 0/Domain[" + domain + "]/Range[0 1 0 1 0 1]/Size[" +
                                  sizes + "]/BitsPerSample 8",
                              samples);
                 })
        .at(50, 50);
  };
  const auto times = [](int count, const std::string& text) {
    std::string all;
    for (int i = 0; i < count; ++i) all += text;
    return all;
  };
  CHECK(color("/None/None", "0 1 0 1", 2, "1 1 ") == kWhite);
  CHECK(are_near(color("/None/A", "0 1 0 1", 2, "1 1 "), kRed));
  for (const int inks : {9, 14}) {
    std::string names;
    for (int i = 0; i < inks; ++i) names += "/I" + std::to_string(i);
    CHECK(are_near(color(names, times(inks, "0 1 "), inks, times(inks, "1 ")), kRed));
    CHECK(are_near(color(names, times(inks, "0 1 "), inks, times(inks, "0 ")), kBlue));
    // Half of one ink, and nearly nothing of the many others.
    CHECK(are_near(color(names, times(inks, "0 1 "), inks, times(inks - 1, "1 ") + "0.5 "),
                   {128, 1, 128, 255}));
  }
}

TEST_CASE("profiles that cannot be used leave their alternate; their first color is all zeros",
          "[render]") {
  const std::string lab = "[/Lab<</WhitePoint[0.9505 1 1.089]/Range[-100 100 -100 100]>>]";
  const auto with_profile = [&](const std::string& entries, const std::string& content) {
    return drawn(content, "/ColorSpace<</P[/ICCBased 10 0 R]/L " + lab + ">>",
                 [&](PdfBuilder& pdf) { pdf.stream(10, entries, "no profile"); })
        .at(50, 50);
  };
  const std::string fill = " 0 0 100 100 re f";
  CHECK(with_profile("/N 3/Alternate " + lab, "/P cs 60 60 40 sc" + fill) ==
        with_profile("", "/L cs 60 60 40 sc" + fill));
  CHECK(with_profile("/N 3/Alternate/DeviceGray", "/P cs 1 0 0 sc" + fill) == kRed);
  CHECK(with_profile("/N 3", "/P cs 1 0 0 sc" + fill) == kRed);
}

TEST_CASE("opacities are no colors that a default could replace", "[render]") {
  const Raster raster = drawn(
      "100 0 0 100 0 0 cm /I Do",
      "/XObject<</I 10 0 R>>/ColorSpace<</DefaultGray[/CalGray<</WhitePoint[.9505 1 1.089]/Gamma "
      "3>>]>>",
      [](PdfBuilder& pdf) {
        pdf.stream(
            10,
            "/Subtype/Image/Width 1/Height 1/BitsPerComponent 8/ColorSpace/DeviceRGB/SMask 11 0 R",
            "\xFF" + std::string(2, '\0'));
        pdf.stream(11, "/Subtype/Image/Width 1/Height 1/BitsPerComponent 8/ColorSpace/DeviceGray",
                   "\x80");
      });
  CHECK(are_near(raster.at(50, 50), {255, 127, 127, 255}));
}

TEST_CASE("an indexed space of too many colors has its first 256", "[render]") {
  const Raster raster = drawn("/X cs 1 sc 0 0 100 100 re f",
                              "/ColorSpace<</X[/Indexed/DeviceRGB 300<0000FFFF0000>]>>");
  CHECK(raster.at(50, 50) == kRed);
}

TEST_CASE("dashes of no length turn with the line", "[render]") {
  // Squares stand on their corners along a slanted line.
  const Raster slanted = drawn("10 w 2 J [0 30] 0 d 20 20 m 90 90 l S");
  CHECK(slanted.at(20, 80) == PixelColor{0, 0, 0, 255});
  CHECK(slanted.at(20, 74) == PixelColor{0, 0, 0, 255});  // its corners reach 7 points
  CHECK(slanted.at(25, 80) == PixelColor{0, 0, 0, 255});
  CHECK(slanted.at(25, 75) == kWhite);
  const Raster level = drawn("10 w 2 J [0 30] 0 d 20 20 m 90 20 l S");
  CHECK(level.at(23, 77) == PixelColor{0, 0, 0, 255});
  CHECK(level.at(20, 74) == kWhite);
  CHECK(level.at(50, 77) == PixelColor{0, 0, 0, 255});
  const Raster round = drawn("10 w 1 J [0 30] 0 d 20 20 m 90 20 l S");
  CHECK(round.at(16, 79) == PixelColor{0, 0, 0, 255});
  CHECK(round.at(23, 79) == PixelColor{0, 0, 0, 255});
  CHECK(drawn("10 w 0 J [0 30] 0 d 20 20 m 90 20 l S").at(20, 79) == kWhite);
}

TEST_CASE("what a limit stops is shown as far as it went, with a finding", "[render]") {
  PdfBuilder pdf;
  pdf.page("1 0 0 rg 0 0 100 100 re f BT /F 9 Tf (As far) Tj ET /Deep Do 0 0 1 rg 0 0 100 100 re f",
           "/MediaBox[0 0 100 100]/Resources<</XObject<</Deep 5 0 R>>/Font<</F<</Subtype/Type1"
           "/BaseFont/Helvetica>>>>>>");
  std::string many;
  for (int i = 0; i < 500; ++i) many += "0 0 m ";
  pdf.stream(5, "/Subtype/Form/BBox[0 0 9 9]/Group<</S/Transparency>>", many);
  const std::string bytes = pdf.finish();
  const auto document =
      Document::open(Bytes(bytes.begin(), bytes.end()), {.limits = {.operators = 300}}).value();
  const Scene scene = Scene::record(document.page(0).value()).value();
  CHECK_FALSE(scene.is_whole());
  CHECK(render(scene)->at(50, 50) == kRed);
  CHECK(text_of(scene) == "As far");
  const std::vector<Finding> findings = document.findings();
  REQUIRE(findings.size() == 1);
  CHECK_THAT(findings[0].to_string(), Catch::Contains("Limits::operators"));
  CHECK(Scene::record(test::open(bytes)->page(0).value())->is_whole());
}
