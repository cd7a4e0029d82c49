// SPDX-License-Identifier: Apache-2.0
// What content streams tell a Canvas.
#include "content/interpreter.h"
#include "content/scene_data.h"
#include "lumvet/content/scene.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"
#include "tests/support/temporary_folder.h"

using namespace lumvet;
using namespace lumvet::content;
using test::PdfBuilder;

namespace {

const std::string kBox = "/MediaBox[0 0 100 100]";

struct Recorded {
  Document document;
  Scene scene;
  const ChunkedList<Operation>& operations() const { return data_of(scene).operations; }
  template <typename What>
  std::vector<const What*> all() const {
    std::vector<const What*> found;
    for (const Operation& operation : operations())
      if (const What* what = std::get_if<What>(&operation.what)) found.push_back(what);
    return found;
  }
};

Recorded record(PdfBuilder& pdf) {
  const Document document = test::open(pdf.finish()).value();
  return {document, Scene::record(document.page(0).value()).value()};
}

Recorded record(const std::string& content, const std::string& entries = "") {
  PdfBuilder pdf;
  pdf.page(content, kBox + entries);
  return record(pdf);
}

}  // namespace

TEST_CASE("paths reach the canvas in display space, with y downward", "[content]") {
  const Recorded r = record("1 0 0 rg 10 20 30 40 re f 2 w 0 0 m 50 0 l 50 50 0 50 0 0 c h S");
  const auto fills = r.all<FillPath>();
  REQUIRE(fills.size() == 1);
  CHECK(fills[0]->path.bounds() == Rect{10, 40, 40, 80});
  CHECK(fills[0]->paint == Paint{255, 0, 0, 255});
  const auto strokes = r.all<StrokePath>();
  REQUIRE(strokes.size() == 1);
  CHECK(strokes[0]->stroked.style.width == 2);
  CHECK(strokes[0]->path.segments().size() == 4);
  CHECK(strokes[0]->paint == Paint{0, 0, 0, 255});
  CHECK(r.document.findings().empty());
}

TEST_CASE("every way to paint a path", "[content]") {
  const auto [op, fills, strokes, rule, closed] =
      GENERATE(table<std::string, std::size_t, std::size_t, FillRule, bool>(
          {{"S", 0, 1, FillRule::nonzero, false},
           {"s", 0, 1, FillRule::nonzero, true},
           {"f", 1, 0, FillRule::nonzero, false},
           {"F", 1, 0, FillRule::nonzero, false},
           {"f*", 1, 0, FillRule::even_odd, false},
           {"B", 1, 1, FillRule::nonzero, false},
           {"B*", 1, 1, FillRule::even_odd, false},
           {"b", 1, 1, FillRule::nonzero, true},
           {"b*", 1, 1, FillRule::even_odd, true},
           {"n", 0, 0, FillRule::nonzero, false}}));
  CAPTURE(op);
  const Recorded r = record("0 0 m 50 0 l 50 50 l " + op);
  REQUIRE(r.all<FillPath>().size() == fills);
  REQUIRE(r.all<StrokePath>().size() == strokes);
  if (fills > 0) CHECK(r.all<FillPath>()[0]->rule == rule);
  if (strokes > 0)
    CHECK((r.all<StrokePath>()[0]->path.segments().back() == Path::Segment::close) == closed);
}

TEST_CASE("saving and restoring brings back the state", "[content]") {
  const Recorded r = record("q 2 0 0 2 5 5 cm 0 1 0 rg 0 0 1 1 re f Q 0 0 1 1 re f Q 0 0 1 1 re f");
  const auto fills = r.all<FillPath>();
  REQUIRE(fills.size() == 3);
  CHECK(fills[0]->path.bounds() == Rect{5, 93, 7, 95});
  CHECK(fills[1]->path.bounds() == Rect{0, 99, 1, 100});
  CHECK(fills[1]->paint == Paint{0, 0, 0, 255});
  CHECK(r.document.findings().size() == 1);  // the second Q had nothing to restore
}

TEST_CASE("clips narrow what follows, within their q and Q", "[content]") {
  const Recorded r = record(
      "q 10 10 20 20 re W n 20 20 m 60 20 l 60 60 l W* n 0 0 100 100 re f Q 0 0 5 5 re f 0 0 m W n "
      "1 1 2 2 re f");
  REQUIRE(r.operations().size() == 2);
  const auto& clips = data_of(r.scene).clips;
  REQUIRE(clips.size() == 4);  // the page, two, and the last one of a lone move
  CHECK(clips[2].outer == 1);
  CHECK(clips[2].rule == FillRule::even_odd);
  CHECK(r.operations()[0].within.clip == 2);
  CHECK(r.operations()[0].bounds == Rect{20, 70, 30, 80});
  CHECK(r.operations()[1].within.clip == 0);
}

TEST_CASE("colors, line styles and opacity come from operators and resources alike", "[content]") {
  const Recorded r = record(
      "/G gs 0.5 g 1 1 0 0 K 0 0 9 9 re B [3 2] 1 d 1 J 2 j 5 M 0 0 9 9 re S /S cs 0.25 0 0 sc 0 0 "
      "9 9 re f",
      "/Resources<</ExtGState<</G<</ca 0.5/CA 0.25/LW 7>>>>/ColorSpace<</S/DeviceRGB>>>>");
  const auto fills = r.all<FillPath>();
  const auto strokes = r.all<StrokePath>();
  REQUIRE(fills.size() == 2);
  CHECK(fills[0]->paint == Paint{128, 128, 128, 128});
  CHECK(fills[1]->paint == Paint{64, 0, 0, 128});
  CHECK(strokes[0]->paint.alpha == 64);
  CHECK(strokes[0]->stroked.style.width == 7);
  CHECK(strokes[1]->stroked.style.dashes == std::vector<double>{3, 2});
  CHECK(strokes[1]->stroked.style.cap == LineCap::round);
  CHECK(strokes[1]->stroked.style.join == LineJoin::bevel);
}

TEST_CASE("forms are placed, clipped to their box, and keep their state to themselves",
          "[content]") {
  PdfBuilder pdf;
  pdf.page("0.5 g 1 0 0 1 10 10 cm /F Do 0 0 1 1 re f",
           kBox + "/Resources<</XObject<</F 9 0 R>>>>");
  pdf.stream(9, "/Subtype/Form/BBox[0 0 10 10]/Matrix[2 0 0 2 0 0]",
             "q q 1 0 0 rg Q Q Q 0 0 50 50 re f 1 g q");
  const Recorded r = record(pdf);
  const auto fills = r.all<FillPath>();
  REQUIRE(fills.size() == 2);
  CHECK(r.operations()[0].bounds == Rect{10, 70, 30, 90});
  CHECK(fills[0]->paint.red == 128);
  CHECK(fills[1]->paint.red == 128);
  CHECK(fills[1]->path.bounds() == Rect{10, 89, 11, 90});
}

TEST_CASE("forms that call themselves end, and operators without end meet the limit", "[content]") {
  PdfBuilder pdf;
  pdf.page("/F Do", kBox + "/Resources<</XObject<</F 9 0 R>>>>");
  pdf.stream(9, "/Subtype/Form/BBox[0 0 10 10]/Resources<</XObject<</F 9 0 R>>>>",
             "/F Do 0 0 1 1 re f");
  const std::string bytes = pdf.finish();
  const Document document = test::open(bytes).value();
  CHECK(Scene::record(document.page(0).value()).ok());
  CHECK_FALSE(document.findings().empty());
  CHECK(Scene::record(document.page(0).value())->operation_count() == 1);
  // Each form twice in the one before: 2^60 calls, were it not for the limit.
  PdfBuilder bomb;
  bomb.page("/F Do", kBox + "/Resources<</XObject<</F 9 0 R>>>>");
  for (int i = 9; i < 69; ++i)
    bomb.stream(i,
                "/Subtype/Form/BBox[0 0 10 10]/Resources<</XObject<</F " + std::to_string(i + 1) +
                    " 0 R>>>>",
                "/F Do /F Do");
  const Document hostile =
      Document::open(test::to_bytes(bomb.finish()), {.limits = {.nesting = 100, .operators = 5000}})
          .value();
  const auto scene = Scene::record(hostile.page(0).value());
  REQUIRE(scene.ok());
  CHECK_FALSE(scene->is_whole());
  CHECK_THAT(hostile.findings().back().to_string(),
             Catch::Contains("Limits::operators") && Catch::Contains("page 1"));
}

TEST_CASE("text moves by widths, spacing, scale and rise", "[content]") {
  // Type 3 glyphs draw their own boxes, so that places show as fills.
  PdfBuilder pdf;
  pdf.page("BT /F 10 Tf 1 0 0 1 10 50 Tm (ab) Tj 2 Tc 3 Tw [(a)-500( a)] TJ 50 Tz 5 Ts (aa) Tj ET",
           kBox + "/Resources<</Font<</F 9 0 R>>>>");
  pdf.object(
      9, "<</Subtype/Type3/FontMatrix[0.01 0 0 0.01 0 0]/FirstChar 32/Widths[50 " + [] {
        std::string w;
        for (int i = 33; i < 97; ++i) w += "0 ";
        return w;
      }() + "100 20]/Encoding<</Differences[97/box/box]>>/CharProcs<</box 10 0 R>>>>");
  pdf.stream(10, "", "100 0 0 0 100 100 d1 1 0 0 rg 0 0 10 10 re f");
  const Recorded r = record(pdf);
  std::vector<double> lefts;
  for (const FillPath* fill : r.all<FillPath>()) {
    lefts.push_back(fill->path.bounds().left);
    CHECK(fill->paint.red == 0);  // d1: the glyph's own colors do not count
  }
  // a at 10 (10 wide), b at 20 (2 wide), a at 22 (10 + 2), 5 back, space (5 + 2 + 3), a ...
  CHECK(lefts == std::vector<double>{10, 20, 22, 49, 61, 67});
  CHECK(r.all<FillPath>()[5]->path.bounds().top == Approx(45));
}

TEST_CASE("text shows by its rendering mode and clips with the last four", "[content]") {
  const std::string font =
      "/Resources<</Font<</F<</Type/Font/Subtype/Type1/BaseFont/Helvetica>>>>>>";
  for (int mode = 0; mode < 8; ++mode) {
    CAPTURE(mode);
    const Recorded r = record(
        "BT /F 20 Tf 10 10 Td " + std::to_string(mode) + " Tr (AB) Tj ET 0 0 100 100 re f", font);
    CHECK(r.all<ShowGlyphs>().size() == (mode % 4 == 0 || mode % 4 == 2 ? 1u : 0u));
    CHECK(r.all<StrokePath>().size() == (mode % 4 == 1 || mode % 4 == 2 ? 1u : 0u));
    CHECK((r.operations().back().within.clip != 0) == (mode >= 4));
  }
}

TEST_CASE("inline images end where content goes on", "[content]") {
  const Recorded r =
      record("q 10 0 0 10 5 5 cm BI /W 4 /H 4 /CS /G /BPC 8 ID 01 EI4567 EI0ab\nEI Q 0 0 1 1 re f");
  const auto images = r.all<ShowImage>();
  REQUIRE(images.size() == 1);
  CHECK(images[0]->image->across() == 4);
  CHECK(r.all<FillPath>().size() == 1);
}

TEST_CASE("damage is passed over and reported, and what follows is drawn", "[content]") {
  const auto [content, words] =
      GENERATE(table<std::string, std::string>({{"1 2 xyzzy", "xyzzy"},
                                                {"5 w 3 re", "lacks operands"},
                                                {"[1 2 (open) >> ", "passed over"},
                                                {"/Gone Do", "Gone"},
                                                {"BT /None 12 Tf ET", "None"},
                                                {"/P sh", "shading"},
                                                {") ] }", "passed over"}}));
  const Recorded r = record(content + " 0 0 1 1 re f");
  CHECK(r.all<FillPath>().size() == 1);
  REQUIRE_FALSE(r.document.findings().empty());
  CHECK_THAT(r.document.findings()[0].what, Catch::Contains(words));
}

TEST_CASE("annotations show their appearance in their rectangle unless hidden", "[content]") {
  PdfBuilder pdf;
  pdf.page("", kBox +
                   "/Annots[<</Subtype/Stamp/Rect[10 20 30 60]/AP<</N 9 0 R>>>><</Subtype/Stamp/F "
                   "2/Rect[0 0 9 9]/AP<</N 9 0 R>>>>"
                   "<</Subtype/Widget/Rect[50 50 60 60]/AS/On/AP<</N<</On 9 0 R>>>>>>]");
  pdf.stream(9, "/Subtype/Form/BBox[0 0 1 1]", "0 0 1 1 re f");
  const Recorded r = record(pdf);
  REQUIRE(r.operations().size() == 2);
  CHECK(r.operations()[0].bounds == Rect{10, 40, 30, 80});
  CHECK(r.operations()[1].bounds == Rect{50, 40, 60, 50});
  CHECK(Scene::record(r.document.page(0).value(), {.annotations = false})->operation_count() == 0);
}

TEST_CASE("vertical text runs down the page", "[content]") {
  PdfBuilder pdf;
  pdf.page("BT /F 10 Tf 2 Tc 50 90 Td <00240024> Tj [-500<0024>] TJ ET",
           kBox + "/Resources<</Font<</F 8 0 R>>>>");
  pdf.object(8,
             "<</Type/Font/Subtype/Type0/BaseFont/A/Encoding/Identity-V/DescendantFonts[9 0 R]>>")
      .object(9,
              "<</Subtype/CIDFontType2/CIDToGIDMap/Identity/DW 600/FontDescriptor<</Flags 4"
              "/FontFile2 10 0 R>>>>")
      .stream(10, "",
              test::read_file("/usr/share/fonts/truetype/liberation/LiberationSans-Regular.ttf"));
  std::vector<Point> places;
  const Recorded r = record(pdf);
  for (const ShowGlyphs* run : r.all<ShowGlyphs>())
    for (const PlacedGlyph& glyph : run->glyphs) places.push_back({glyph.placed.e, glyph.placed.f});
  // Hung by the middle of its top, 0.3 and 0.88 of the size; then down by the size less the
  // spacing.
  REQUIRE(places.size() == 3);
  CHECK(places[0].x == Approx(50 - 3));
  CHECK(places[0].y == Approx(10 + 8.8));
  CHECK(places[1].x == Approx(47));
  CHECK(places[1].y == Approx(18.8 + 8));
  CHECK(places[2].y == Approx(18.8 + 16 - 5));
}

TEST_CASE("layers that are switched off are not drawn", "[content]") {
  PdfBuilder pdf;
  pdf.page("/OC /A BDC /Span BMC 0 0 1 1 re f EMC EMC /OC /B BDC 5 5 1 1 re f EMC",
           kBox + "/Resources<</Properties<</A 8 0 R/B 9 0 R>>>>");
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R/OCProperties<</D<</OFF[8 0 R]>>>>>>")
      .object(8, "<</Type/OCG>>")
      .object(9, "<</Type/OCG>>");
  const Recorded r = record(pdf);
  REQUIRE(r.all<FillPath>().size() == 1);
  CHECK(r.all<FillPath>()[0]->path.bounds().left == 5);
}

TEST_CASE("layers show by membership, by purpose and as the application says", "[content]") {
  // Layers 8 (on), 9 (off) and 10 (not printed); what shows is a bar of 1 point.
  const auto shows = [](const std::string& membership, const RecordOptions& options) {
    PdfBuilder pdf;
    pdf.page("/OC /A BDC 0 0 1 1 re f EMC", kBox + "/Resources<</Properties<</A 11 0 R>>>>");
    pdf.object(1,
               "<</Type/Catalog/Pages 2 0 R/OCProperties<</OCGs[8 0 R 9 0 R 10 0 R]/D<</OFF[9 0 R]"
               "/AS[<</Event/Print/Category[/Print]/OCGs[10 0 R]>>]>>>>>>")
        .object(8, "<</Type/OCG/Name(a)>>")
        .object(9, "<</Type/OCG/Name(b)>>")
        .object(10, "<</Type/OCG/Name(c)/Usage<</Print<</PrintState/OFF>>>>>>")
        .object(11, membership);
    const Document document = test::open(pdf.finish()).value();
    return Scene::record(*document.page(0), options)->operation_count() == 1;
  };
  const auto [rule, expected] = GENERATE(table<std::string, bool>({
      {"/OCGs 8 0 R", true},
      {"/OCGs 9 0 R", false},
      {"/OCGs[8 0 R 9 0 R]", true},
      {"/OCGs[8 0 R 9 0 R]/P/AllOn", false},
      {"/OCGs[8 0 R 9 0 R]/P/AnyOff", true},
      {"/OCGs[8 0 R 9 0 R]/P/AllOff", false},
      {"/OCGs[9 0 R]/P/AllOff", true},
      {"/OCGs[]", true},
      {"/OCGs 9 0 R/VE[/Not 9 0 R]", true},
      {"/VE[/And 8 0 R 9 0 R]", false},
      {"/VE[/Or 9 0 R[/And 8 0 R[/Not 9 0 R]]]", true},
      {"/VE[/Not 8 0 R]", false},
  }));
  CAPTURE(rule);
  CHECK(shows("<</Type/OCMD" + rule + ">>", {}) == expected);
  CHECK(shows("<</Type/OCMD/OCGs 10 0 R>>", {}));
  CHECK_FALSE(shows("<</Type/OCMD/OCGs 10 0 R>>", {.purpose = Purpose::print}));
  CHECK(shows("<</Type/OCMD/OCGs 9 0 R>>", {.layers = std::vector<bool>{false, true, false}}));
  CHECK_FALSE(
      shows("<</Type/OCMD/OCGs 8 0 R>>", {.layers = std::vector<bool>{false, true, false}}));
}

TEST_CASE("notes that are not for printing are not printed", "[content]") {
  const auto count = [](const std::string& entries, Purpose purpose) {
    PdfBuilder pdf;
    pdf.page("", kBox + "/Annots[8 0 R]")
        .object(8, "<</Subtype/Stamp/Rect[0 0 9 9]/AP<</N 9 0 R>>" + entries + ">>")
        .stream(9, "/BBox[0 0 9 9]", "0 0 9 9 re f");
    return Scene::record(*test::open(pdf.finish())->page(0), {.purpose = purpose})
        ->operation_count();
  };
  CHECK(count("", Purpose::view) == 1);
  CHECK(count("", Purpose::print) == 0);
  CHECK(count("/F 4", Purpose::print) == 1);
  CHECK(count("/F 36", Purpose::view) == 0);
  CHECK(count("/F 36", Purpose::print) == 1);
  CHECK(count("/F 6", Purpose::print) == 0);
}

TEST_CASE("what lies outside the page is not kept, and cancelling ends the work", "[content]") {
  CHECK(record("500 500 10 10 re f -50 -50 m -10 -10 l S").operations().empty());
  PdfBuilder pdf;
  pdf.page("0 0 1 1 re f", kBox);
  const CancelToken cancel;
  cancel.cancel();
  CHECK(Scene::record(test::open(pdf.finish()).value().page(0).value(), {.cancel = cancel})
            .error()
            .code() == ErrorCode::cancelled);
}

TEST_CASE("operators of later standards are passed over in silence where that is asked for",
          "[content]") {
  const auto document =
      test::open(PdfBuilder().page("EX BX 1 2 hover BX EX soon EX 0 0 5 5 re f gone").finish());
  const Scene scene = Scene::record(document->page(0).value()).value();
  CHECK(scene.operation_count() == 1);
  REQUIRE(document->findings().size() == 1);
  CHECK(document->findings()[0].what.find("'gone'") != std::string::npos);
}

TEST_CASE("images count for what they unpack to, whoever draws them later", "[content]") {
  PdfBuilder pdf;
  pdf.page("/A Do /A Do /B Do /B Do", kBox + "/Resources<</XObject<</A 5 0 R/B 6 0 R>>>>");
  for (const int number : {5, 6})
    pdf.stream(number,
               "/Subtype/Image/Width 100/Height 100/BitsPerComponent 8/ColorSpace/DeviceRGB",
               std::string(30'000, 'x'));
  const std::string text = pdf.finish();
  const auto document =
      Document::open(Bytes(text.begin(), text.end()), {.limits = {.decoded_bytes = 50'000}});
  const Result<Scene> scene = Scene::record(document->page(0).value());
  REQUIRE(scene.ok());
  CHECK_FALSE(scene->is_whole());
  CHECK_THAT(document->findings().at(0).to_string(), Catch::Contains("Limits::decoded_bytes"));
}
