// SPDX-License-Identifier: Apache-2.0
// Inks that overprint, profiles of the printing press, and shapes that knock out: pixels worked out
// from ISO 32000-2, 8.6.6, 8.6.7, 9.3.8, 11.6 and 11.7.4.
#include <lcms2.h>

#include "lumvet/render/render.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;
using test::PdfBuilder;

namespace {

Page page_of(const std::string& bytes) { return test::open(bytes)->page(0).value(); }

// Of a page of 40 by 40 points, from the bottom left.
PixelColor pixel(const std::string& bytes, int x, int y, const RenderOptions& options = {}) {
  return render(page_of(bytes), options)->at(x, 39 - y);
}

std::string sheet(const std::string& content, const std::string& resources) {
  PdfBuilder pdf;
  return pdf.page(content, "/MediaBox[0 0 40 40]/Resources<<" + resources + ">>").finish();
}

bool near(const PixelColor& color, int red, int green, int blue) {
  return std::abs(color.red - red) <= 2 && std::abs(color.green - green) <= 2 &&
         std::abs(color.blue - blue) <= 2;
}

// A press whose inks all print gray: the more of any of them, the darker.
std::string press_profile(bool has_intents = false) {
  cmsHPROFILE profile = cmsCreateProfilePlaceholder(nullptr);
  cmsSetProfileVersion(profile, 2.1);
  cmsSetDeviceClass(profile, cmsSigOutputClass);
  cmsSetColorSpace(profile, cmsSigCmykData);
  cmsSetPCS(profile, cmsSigLabData);
  // By the perceptual intent, and where nothing else is said; then by the relative one.
  for (const auto& [tag, darkest] : {std::pair(cmsSigAToB0Tag, 0xFF00), {cmsSigAToB1Tag, 0x8000}}) {
    if (tag == cmsSigAToB1Tag && !has_intents) continue;
    cmsPipeline* pipeline = cmsPipelineAlloc(nullptr, 4, 3);
    cmsStage* table = cmsStageAllocCLut16bit(nullptr, 2, 4, 3, nullptr);
    int most = darkest;
    cmsStageSampleCLut16bit(
        table,
        [](const cmsUInt16Number in[], cmsUInt16Number out[], void* most_ink) -> cmsInt32Number {
          constexpr int kWhite = 0xFF00;  // as profiles of version 2 have it
          const int ink = std::max({in[0], in[1], in[2], in[3]});
          out[0] = static_cast<cmsUInt16Number>(
              std::max(0, kWhite - std::min(ink, *static_cast<int*>(most_ink))));
          out[1] = out[2] = 0x8000;  // no color
          return 1;
        },
        &most, 0);
    cmsPipelineInsertStage(pipeline, cmsAT_END, table);
    cmsWriteTag(profile, tag, pipeline);
    cmsPipelineFree(pipeline);
  }
  if (has_intents) {  // on paper that is not white
    const cmsCIEXYZ paper = {0.9642 / 2, 0.5, 0.8249 / 2};
    cmsWriteTag(profile, cmsSigMediaWhitePointTag, &paper);
  }
  cmsUInt32Number size = 0;
  cmsSaveProfileToMem(profile, nullptr, &size);
  std::string bytes(size, '\0');
  cmsSaveProfileToMem(profile, bytes.data(), &size);
  cmsCloseProfile(profile);
  return bytes;
}

const std::string kSpot =
    "/ColorSpace<</Spot[/Separation/Ostrel/DeviceRGB<</FunctionType 2/Domain[0 1]/C0[1 1 1]/C1[0 1 "
    "1]/N 1>>]/Gone[/Separation/None/DeviceGray<</FunctionType 2/Domain[0 1]/C0[1]/C1[0]/N 1>>]"
    "/Every[/Separation/All/DeviceGray<</FunctionType 2/Domain[0 1]/C0[1]/C1[0]/N 1>>]>>";

}  // namespace

TEST_CASE("an ink that overprints leaves the others, when that is asked to be shown", "[render]") {
  const std::string states = "/ExtGState<</Over<</OP true/OPM 1>>/Line<</OP true/op false>>>>";
  const auto over = [&](const std::string& content) { return sheet(content, kSpot + states); };
  const std::string yellow = "1 1 0 rg 0 0 40 40 re f ";
  const std::string spot = over(yellow + "/Over gs /Spot cs 1 scn 10 10 20 20 re f");
  CHECK(near(pixel(spot, 20, 20), 0, 255, 255));
  CHECK(near(pixel(spot, 20, 20, {.record = {.overprint = true}}), 0, 255, 0));
  CHECK(near(pixel(spot, 5, 5, {.record = {.overprint = true}}), 255, 255, 0));
  // For strokes alone.
  const std::string line = over(yellow + "/Line gs /Spot cs 1 scn 10 10 20 20 re f");
  CHECK(near(pixel(line, 20, 20, {.record = {.overprint = true}}), 0, 255, 255));
  // Of a device's inks those of tint 0 are left in mode 1; of /All none ever is.
  const std::string every = over(yellow + "/Over gs /Every cs .5 scn 10 10 20 20 re f");
  CHECK(near(pixel(every, 20, 20, {.record = {.overprint = true}}), 128, 128, 128));
  const std::string magenta = over("1 0 0 0 k 0 0 40 40 re f /Over gs 0 1 0 0 k 10 10 20 20 re f");
  const PixelColor plain = pixel(magenta, 20, 20);
  const PixelColor shown = pixel(magenta, 20, 20, {.record = {.overprint = true}});
  const PixelColor cyan = pixel(magenta, 5, 5);
  CHECK(plain.red > 200);
  CHECK(near(shown, plain.red * cyan.red / 255, plain.green * cyan.green / 255,
             plain.blue * cyan.blue / 255));
  const std::string whole = over("1 0 0 0 k 0 0 40 40 re f /Over gs .1 1 .1 .1 k 10 10 20 20 re f");
  CHECK(pixel(whole, 20, 20) == pixel(whole, 20, 20, {.record = {.overprint = true}}));
}

TEST_CASE("a separation of no ink leaves no mark", "[render]") {
  const std::string page =
      sheet("/Gone cs 1 scn 0 0 40 40 re f /Gone CS 9 w 0 0 m 40 40 l S", kSpot);
  CHECK(pixel(page, 20, 20) == kWhite);
}

TEST_CASE("inks without a profile look as the press they are meant for prints them", "[render]") {
  const auto with_intent = [](const std::string& resources) {
    PdfBuilder pdf;
    pdf.page("1 0 0 0 k 0 0 20 40 re f q 20 0 0 40 20 0 cm /Pic Do Q",
             "/MediaBox[0 0 40 40]/Resources<</XObject<</Pic 8 0 R>>" + resources + ">>");
    pdf.object(
        1, "<</Type/Catalog/Pages 2 0 R/OutputIntents[<</S/GTS_PDFX/DestOutputProfile 9 0 R>>]>>");
    pdf.stream(8, "/Subtype/Image/Width 1/Height 1/ColorSpace/DeviceCMYK/BitsPerComponent 8",
               {"\x00\xFF\x00\x00", 4});
    pdf.stream(9, "/N 4", press_profile());
    return pdf.finish();
  };
  const PixelColor ink = pixel(with_intent(""), 10, 20);
  CAPTURE(int{ink.red}, int{ink.green}, int{ink.blue});
  CHECK(near(ink, 0, 0, 0));
  CHECK(near(pixel(with_intent(""), 30, 20), 0, 0, 0));  // in images too
  // What the page itself says about its inks goes first.
  const std::string own = with_intent("/ColorSpace<</DefaultCMYK/DeviceCMYK>>");
  CHECK(pixel(own, 10, 20).blue > 200);
  // So does the printing that the page itself is meant for, here one without a profile.
  const std::string page = with_intent(">>/OutputIntents[<</S/GTS_PDFX>>]/PieceInfo<<");
  CHECK(pixel(page, 10, 20).blue > 200);
}

TEST_CASE("colors come to the screen by the intent that is current when they are painted",
          "[render]") {
  PdfBuilder pdf;
  pdf.page(
      "/I cs 0 0 0 1 sc 0 0 10 40 re f /Perceptual ri 10 0 10 40 re f "
      "/Paper gs 0 0 0 0 sc 20 0 10 40 re f "
      "/RelativeColorimetric ri q 10 0 0 40 30 0 cm /P Do Q",
      "/MediaBox[0 0 40 40]/Resources<</ColorSpace<</I[/ICCBased 5 0 R]>>"
      "/ExtGState<</Paper<</RI/AbsoluteColorimetric>>>>/XObject<</P 6 0 R>>>>");
  pdf.stream(5, "/N 4", press_profile(true));
  pdf.stream(6,
             "/Subtype/Image/Width 1/Height 1/BitsPerComponent 8/ColorSpace[/ICCBased 5 0 R]"
             "/Intent/Perceptual",
             std::string("\0\0\0\xff", 4));
  const std::string bytes = pdf.finish();
  const int relative = pixel(bytes, 5, 20).red;
  const int perceptual = pixel(bytes, 15, 20).red;
  CHECK(std::abs(perceptual) <= 2);
  CHECK(relative > perceptual + 50);
  // Half as bright as white: L* 76 of 100, which sRGB has at 188.
  CHECK(near(pixel(bytes, 25, 20), 188, 188, 188));
  CHECK(pixel(bytes, 35, 20).red == perceptual);
}

TEST_CASE("a line covers its filling instead of mixing with it", "[render]") {
  const std::string half = "/ExtGState<</Half<</ca .5/CA .5>>>>";
  const std::string page = sheet("/Half gs 1 0 0 rg 0 0 1 RG 8 w 10 10 20 20 re B", half);
  CHECK(near(pixel(page, 20, 20), 255, 128, 128));
  CHECK(near(pixel(page, 12, 20), 128, 128, 255));  // within the filling
  CHECK(near(pixel(page, 8, 20), 128, 128, 255));   // outside it
}

TEST_CASE("glyphs of one text object mix with one another only if they do not knock out",
          "[render]") {
  const std::string resources =
      "/Font<</F<</Subtype/Type1/BaseFont/Helvetica-Bold>>>>/ExtGState<</Half<</ca .5>>/Mix<</ca "
      ".5/TK false>>>>";
  const std::string text = " gs BT /F 40 Tf 14 5 Td (I) Tj 0 0 Td (I) Tj ET";
  const int x = 19;
  REQUIRE(pixel(sheet("BT /F 40 Tf 14 5 Td (I) Tj ET", resources), x, 20) == PixelColor{0, 0, 0});
  CHECK(near(pixel(sheet("/Half" + text, resources), x, 20), 128, 128, 128));
  CHECK(near(pixel(sheet("/Mix" + text, resources), x, 20), 64, 64, 64));
  // Two text objects are two.
  CHECK(near(pixel(sheet("/Half gs BT /F 40 Tf 14 5 Td (I) Tj ET BT /F 40 Tf 14 5 Td (I) Tj ET",
                         resources),
                   x, 20),
             64, 64, 64));
}

TEST_CASE("in a group that knocks out, alpha as shape lets through what is below", "[render]") {
  const auto group = [](const char* state) {
    PdfBuilder pdf;
    pdf.page("/F Do", "/MediaBox[0 0 40 40]/Resources<</XObject<</F 10 0 R>>>>");
    pdf.stream(10,
               std::string("/Subtype/Form/BBox[0 0 40 40]/Group<</S/Transparency/K true>>/Resources"
                           "<</ExtGState<</H<<") +
                   state + ">>>>>>",
               "1 0 0 rg 0 0 40 40 re f /H gs 0 0 1 rg 10 10 20 20 re f");
    return pdf.finish();
  };
  CHECK(near(pixel(group("/ca .5"), 20, 20), 128, 128, 255));
  CHECK(near(pixel(group("/ca .5/AIS true"), 20, 20), 128, 0, 128));
}
