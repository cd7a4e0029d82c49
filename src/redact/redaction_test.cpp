// SPDX-License-Identifier: Apache-2.0
// What is redacted is gone from the bytes that are saved, and nothing else is changed. Whether it
// is gone is told by a little reader of its own, which knows nothing of documents but streams.
#include "lumvet/redact/redaction.h"

#include <random>

#include "lumvet/annotate/annotations.h"
#include "lumvet/draw/new_document.h"
#include "lumvet/forms/filling.h"
#include "lumvet/raster/image_file.h"
#include "tests/support/catch.h"
#include "tests/support/inspection_form.h"
#include "tests/support/redacted.h"

using namespace lumvet;
using Catch::Contains;
using namespace test;

TEST_CASE("letters go one by one, and the rest of the line stays in its place", "[redact]") {
  const char* const lines[] = {
      "BT /F 20 Tf 10 160 Td (The secret word) Tj ET",
      "BT /F 20 Tf 10 160 Td [(The s)-40(ecr)30(et w)(ord)] TJ ET",
      "BT /F 20 Tf 20 TL 10 180 Td (The secret word) ' ET",
      "BT /F 20 Tf 20 TL 10 180 Td 3 1 (The secret word) \" ET",
      "BT /F 20 Tf 80 Tz 2 Tc 5 Tw 10 160 Td (The secret word) Tj ET",
      "q 2 0 0 2 0 0 cm BT /F 10 Tf 1 0 .2 1 5 80 Tm <546865207365637265742077> Tj (ord) Tj ET Q",
      "BT 3 Tr /F 20 Tf 10 160 Td (The secret word) Tj ET",
      "/Span <</ActualText(The secret word)/MCID 0>> BDC BT /F 20 Tf 10 160 Td (The secret word) "
      "Tj "
      "ET EMC",
      "10 10 m BT /F 20 Tf 10 160 Td (The secret word) Tj ET 20 20 l S",
      "% The secret word\nBT /F 20 Tf 10 160 Td (The secret word) Tj ET"};
  const int rotation = GENERATE(0, 90);
  for (const char* content : lines) {
    CAPTURE(content, rotation);
    test::PdfBuilder pdf;
    pdf.page(content, "/MediaBox[0 0 250 200]/Rotate " + std::to_string(rotation) + kFont + ">>");
    const Document before = test::open(pdf.finish()).value();
    const Redacted after = redacted(before, search_for("secret"));
    CHECK(after.report.letters == 6);
    CHECK_FALSE(says(after.bytes, "secret"));
    CHECK_FALSE(says(after.bytes, "ecr"));
    const PageWords words = PageWords::of(after.document.page(0).value()).value();
    CHECK_THAT(words.text(), Contains("The") && Contains("word") && !Contains("secret"));
    // Slanted letters reach a little beyond what a line takes.
    CHECK(different(before, after.document, 0, rects_of(after.report, 0), 2) == 0);
  }
}

TEST_CASE("a state that is restored without being saved stays as it is", "[redact]") {
  PdfBuilder pdf;
  pdf.page("2 0 0 2 0 0 cm Q BT /F 10 Tf 5 80 Td (The secret word) Tj ET",
           std::string("/MediaBox[0 0 250 200]") + kFont + ">>");
  const Document before = test::open(pdf.finish()).value();
  const Redacted after = redacted(before, search_for("secret"));
  CHECK_THAT(PageWords::of(after.document.page(0).value())->text(),
             Contains("The") && Contains("word") && !Contains("secret"));
  CHECK(different(before, after.document, 0, rects_of(after.report, 0), 2) == 0);
}

TEST_CASE("what is written over the places is no part of what was to go", "[redact]") {
  test::PdfBuilder pdf;
  pdf.page("BT /F 20 Tf 10 160 Td (a secret, a secret, a secret) Tj ET",
           std::string("/MediaBox[0 0 300 200]") + kFont + ">>");
  RedactRequest request = search_for("secret");
  request.look.text = "gone";
  const Redacted after = redacted(test::open(pdf.finish()).value(), request);
  CHECK_THAT(PageWords::of(after.document.page(0).value())->text(),
             Contains("gone") && !Contains("secret"));
}

TEST_CASE("a part of a word goes, and a letter that is hardly touched stays", "[redact]") {
  test::PdfBuilder pdf;
  pdf.page("BT /F 20 Tf 10 160 Td (footbridge) Tj ET",
           std::string("/MediaBox[0 0 250 200]") + kFont + ">>");
  const Document before = test::open(pdf.finish()).value();
  const Redacted after = redacted(before, search_for("bridge"));
  CHECK(PageWords::of(after.document.page(0).value())->text() == "foot");
  CHECK(after.report.removed == std::vector<std::string>{"bridge"});
  // "f" is 5.56 wide.
  CHECK(redacted(before, area(0, 20, 11, 30)).report.letters == 0);
  CHECK(redacted(before, area(0, 20, 14, 30)).report.letters == 1);
}

TEST_CASE("fillings and lines are cut at the edges of an area", "[redact]") {
  const char* const contents[] = {
      "1 0 0 rg 20 20 160 160 re f",
      "0 0 1 rg 100 10 m 190 100 l 100 190 l 10 100 l h 100 60 m 140 100 l 100 140 l 60 100 l h f*",
      "0 .5 0 rg 100 100 m 180 100 180 180 100 180 c 20 180 20 100 100 100 c f",
      "4 w 10 10 m 190 190 l S 0.1 w 10 100 m 190 100 l S",
      "6 w 1 J 1 j [12 6] 3 d 20 110 m 180 90 l 180 20 l 90 180 l s",
      "1 0 0 RG 0 1 0 rg 3 w 20 20 160 160 re B",
      "q 20 20 160 160 re W n /S sh Q",
      "q 1 0 0 1 10 10 cm .5 0 0 .5 0 0 cm 10 w 100 100 m 300 100 l 200 300 l s Q"};
  for (const char* content : contents) {
    CAPTURE(content);
    test::PdfBuilder pdf;
    pdf.page(
        content,
        "/MediaBox[0 0 200 200]/Resources<</Shading<</S<</ShadingType 2/ColorSpace/DeviceRGB"
        "/Coords[0 0 200 0]/Function<</FunctionType 2/Domain[0 1]/N 1/C0[1 0 0]/C1[0 0 1]>>>>>>>>");
    const Document before = test::open(pdf.finish()).value();
    RedactRequest request = area(60.5, 70.25, 70, 60);
    request.look.fill.reset();
    const Redacted after = redacted(before, request);
    CHECK(after.report.paths >= 1);
    CHECK(different(before, after.document, 0, rects_of(after.report, 0), 1, kCurved) <=
          kFewPixels);
    const Raster raster = render(after.document.page(0).value(), {.dpi = 72}).value();
    int inked = 0;
    for (int y = 73; y < 128; ++y)
      for (int x = 63; x < 128; ++x)
        inked += raster.at(x, y).green < 250 || raster.at(x, y).red < 250 ? 1 : 0;
    CHECK(inked == 0);
  }
}

TEST_CASE("cells of patterns are cut where no other tile shows them", "[redact]") {
  const std::string box = "/BBox[0 0 200 200]/XStep 200/YStep 200";
  const std::string text = "BT /F 20 Tf 10 160 Td (The secret word) Tj ET 20 20 30 30 re f";
  const auto [entries, cell, content, stays] =
      GENERATE_COPY(table<std::string, std::string, std::string, bool>(
          {{"/PaintType 1" + box, text, "/Pattern cs /P scn 0 0 200 200 re f", false},
           {"/PaintType 1/Matrix[1 0 0 1 0 5]" + box, text,
            "q /Pattern cs /P scn 10 10 180 180 re f* Q 0 g 5 5 9 9 re f", false},
           {"/PaintType 2" + box, text, "/U cs 0 0 1 /P scn 0 0 200 200 re f", false},
           {"/PaintType 1" + box, text, "/Pattern CS /P SCN 60 w 0 165 m 200 165 l S", false},
           // What is one tile of many that could show.
           {"/PaintType 1/BBox[0 0 200 40]/XStep 200/YStep 40",
            "BT /F 20 Tf 10 1 Td (The secret word) Tj ET", "/Pattern cs /P scn 0 160 200 40 re f",
            false},
           {"/PaintType 1/BBox[0 0 200 40]/XStep 200/YStep 40",
            "BT /F 20 Tf 10 1 Td (The secret word) Tj ET", "/Pattern cs /P scn 0 80 200 120 re f",
            true},
           {"/PaintType 1/BBox[0 0 4 4]/XStep 4/YStep 4", "0 0 2 4 re f % secret",
            "/Pattern cs /P scn 0 0 200 200 re f", true},
           // Of which something else shows another part.
           {"/PaintType 1" + box, text,
            "/Pattern cs /P scn q 100 10 50 50 re W f Q 0 100 200 100 re f", false}}));
  CAPTURE(entries, content);
  PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R>>")
      .object(2, "<</Type/Pages/Kids[3 0 R]/Count 1>>")
      .object(3,
              "<</Type/Page/Parent 2 0 R/MediaBox[0 0 200 200]/Contents 4 0 R/Resources"
              "<</ColorSpace<</U[/Pattern/DeviceRGB]>>/Pattern<</P 5 0 R>>>>>>")
      .stream(4, "", content)
      .stream(5, "/Type/Pattern/PatternType 1/TilingType 1" + entries + std::string(kFont) + ">>",
              cell);
  const Document before = test::open(pdf.finish()).value();
  RedactRequest request = area(48.5, 20, 57, 25);
  request.look.fill.reset();
  const Redacted after = redacted(before, request);
  CHECK(says(after.bytes, "secret") == stays);
  CHECK((says(after.bytes, "The") || stays));
  CHECK(different(before, after.document, 0, rects_of(after.report, 0), 1) == 0);
}

TEST_CASE("glyphs that are drawings go with all they show, shapes of letters as letters do",
          "[redact]") {
  // `a`, a shape; `b`, colored, far above its letter; `c`, which shows a text of its own.
  PdfBuilder pdf;
  pdf.page("BT /T 10 Tf 20 40 Td (abca) Tj ET",
           "/MediaBox[0 0 200 200]/Resources<</Font<</T 11 0 R>>>>")
      .object(11,
              "<</Type/Font/Subtype/Type3/FontBBox[0 0 1 1]/FontMatrix[1 0 0 1 0 0]/FirstChar 97"
              "/LastChar 99/Widths[1 1 1]/Encoding<</Differences[97/a/b/c]>>/CharProcs<</a 12 0 R"
              "/b 13 0 R/c 14 0 R>>/Resources<</Font<</F<</Type/Font/Subtype/Type1/BaseFont"
              "/Helvetica>>>>>>>>")
      .stream(12, "", "1 0 0 0 1 1 d1 0 0 .8 .8 re f % shape")
      .stream(13, "", "1 0 d0 0 0 1 rg 0 5 3 3 re f % colored")
      .stream(14, "", "1 0 0 0 1 1 d1 BT /F 1 Tf 0 9 Td (Mira) Tj ET");
  const Document document = test::open(pdf.finish()).value();
  const auto left_of = [&](const RedactRequest& request, std::vector<Rect> around) {
    const Redacted done = redacted(document, request);
    CHECK(different(document, done.document, 0, around, 1) == 0);
    CHECK(done.report.letters > 0);
    std::string left;
    for (const char* what : {"shape", "colored", "(Mira)"})
      if (says(done.bytes, what)) left += std::string(what) + ' ';
    return left;
  };
  CHECK(left_of(area(30, 75, 10, 10), {{30, 70, 60, 115}}) ==
        "shape (Mira) ");                                                       // the drawing alone
  CHECK(left_of(area(45, 60, 5, 10), {{40, 40, 75, 75}}) == "shape colored ");  // the text alone
  CHECK(left_of(area(20, 150, 9, 10), {{20, 150, 30, 160}}) == "shape colored (Mira) ");
  CHECK(left_of(area(20, 150, 40, 10), {{20, 40, 75, 160}}) == "");
}

TEST_CASE("of many areas only those are clipped away that a line comes near", "[redact]") {
  test::PdfBuilder pdf;
  pdf.page("2 w 1 1 m 9 9 l S", "/MediaBox[0 0 300 300]");
  RedactRequest request;
  request.look.fill.reset();
  RedactArea grid{.page = 0};
  for (double x = 0; x < 300; x += 10)
    for (double y = 0; y < 300; y += 10)
      grid.quads.push_back({Point{x + 2, y + 2}, {x + 5, y + 2}, {x + 5, y + 5}, {x + 2, y + 5}});
  request.areas = {grid};
  const Redacted after = redacted(test::open(pdf.finish()).value(), request);
  const std::string all = unpacked(after.bytes);
  std::size_t clips = 0;
  for (std::size_t at = all.find("W* n"); at != std::string::npos; at = all.find("W* n", at + 1))
    ++clips;
  CHECK(clips >= 1);
  CHECK(clips <= 16);  // of 900
}

TEST_CASE("what touches no area stays as it is written", "[redact]") {
  test::PdfBuilder pdf;
  pdf.page(
      "q 1 0 0 rg 10 10 m 50 10 60 60 50 50 c h f Q BT /F 9 Tf 10 80 Td [(ke)-3(pt)] TJ ET "
      "0 0 1 rg 150 150 20 20 re f",
      std::string("/MediaBox[0 0 200 200]") + kFont + ">>");
  const Redacted after = redacted(test::open(pdf.finish()).value(), area(140, 20, 50, 40));
  const std::string all = unpacked(after.bytes);
  CHECK_THAT(all,
             Contains("10 10 m\n50 10 60 60 50 50 c\nh\nf\nQ\n") && Contains("[(ke)-3(pt)] TJ"));
}

TEST_CASE("pixels of images go, behind masks and in every packing", "[redact]") {
  const std::string gray(64 * 64, '\x40');
  struct Case {
    const char* name;
    std::string entries;
    std::string data;
  };
  std::string rgb;
  for (int i = 0; i < 64 * 64; ++i) rgb += "\x10\x80\xF0";
  const Case cases[] = {
      {"gray", "/ColorSpace/DeviceGray/BitsPerComponent 8", gray},
      {"rgb with a mask", "/ColorSpace/DeviceRGB/BitsPerComponent 8/SMask 12 0 R", rgb},
      {"inks", "/ColorSpace/DeviceCMYK/BitsPerComponent 8", std::string(64 * 64 * 4, '\x60')},
      {"palette", "/ColorSpace[/Indexed/DeviceRGB 3<FF000000FF000000FFFFFFFF>]/BitsPerComponent 2",
       std::string(64 * 16, '\x00')},
      {"bits", "/ColorSpace/DeviceGray/BitsPerComponent 1", std::string(64 * 8, '\x00')},
      {"stencil", "/ImageMask true", std::string(64 * 8, '\x00')},
      {"16 bits", "/ColorSpace/DeviceGray/BitsPerComponent 16", std::string(64 * 128, '\x30')}};
  for (const Case& one : cases) {
    CAPTURE(one.name);
    test::PdfBuilder pdf;
    pdf.page("q 0.2 g 160 0 0 160 20 20 cm /I Do Q",
             "/MediaBox[0 0 200 200]/Resources<</XObject<</I 11 0 R>>>>/Thumb 11 0 R");
    pdf.stream(11, "/Type/XObject/Subtype/Image/Width 64/Height 64" + one.entries, one.data);
    pdf.stream(
        12,
        "/Type/XObject/Subtype/Image/Width 32/Height 32/ColorSpace/DeviceGray/BitsPerComponent 8",
        std::string(32 * 32, '\xC0'));
    const Document before = test::open(pdf.finish()).value();
    RedactRequest request = area(60, 50, 40, 70);
    request.look.fill.reset();
    const Redacted after = redacted(before, request);
    CHECK(after.report.images == 1);
    // A pixel of the image is 2.5 points wide, one of its mask 5.
    CHECK(different(before, after.document, 0, rects_of(after.report, 0), 6) == 0);
    const Raster raster = render(after.document.page(0).value(), {.dpi = 72}).value();
    int dark = 0;
    for (int y = 53; y < 117; ++y)
      for (int x = 63; x < 97; ++x) dark += raster.at(x, y).green < 250 ? 1 : 0;
    CHECK(dark == 0);
    CHECK_FALSE(after.document.page(0)->dict().contains("Thumb"));
  }
}

TEST_CASE("of a JPEG only the blocks are packed anew that an area touches", "[redact]") {
  Raster noise = Raster::make(128, 128).value();
  std::mt19937 random(3);
  for (int y = 0; y < 128; ++y)
    for (int x = 0; x < 128; ++x)
      for (int c = 0; c < 3; ++c)
        noise.row(y)[4 * x + c] =
            static_cast<std::uint8_t>(40 + (x * y / 64 + random() % 60) % 180);
  const Bytes jpeg = encode_image(noise, {.format = ImageFormat::jpeg}).value();
  NewDocument made;
  made.add_page({128, 128}).draw(Picture::of(jpeg).value(), {0, 0, 128, 128});
  BufferSink sink;
  made.save(sink).value();
  const Document before = Document::open(sink.take()).value();
  RedactRequest request = area(36, 44, 30, 20);
  request.look.fill.reset();
  const Redacted after = redacted(before, request);
  CHECK(after.report.images == 1);
  CHECK(unpacked(after.bytes).find("/DCTDecode") != std::string::npos);
  // A block of colors is 16 pixels wide, and they are spread by one more when they are shown.
  CHECK(different(before, after.document, 0, {{30, 30, 82, 66}}, 1, 0) == 0);
  const Raster raster = render(after.document.page(0).value(), {.dpi = 72}).value();
  int dark = 0;
  for (int y = 46; y < 62; ++y)
    for (int x = 38; x < 64; ++x) dark += raster.at(x, y).green < 235 ? 1 : 0;
  CHECK(dark == 0);
}

TEST_CASE("an image that stands elsewhere as well is whole there", "[redact]") {
  test::PdfBuilder pdf;
  pdf.page(
      "q 80 0 0 80 10 10 cm /I Do Q q 80 0 0 80 110 110 cm /I Do Q BI /W 4/H 4/CS/G/BPC 8 ID "
      "0123456789abcdef EI",
      "/MediaBox[0 0 200 200]/Resources<</XObject<</I 11 0 R>>>>");
  pdf.stream(
      11, "/Type/XObject/Subtype/Image/Width 8/Height 8/ColorSpace/DeviceGray/BitsPerComponent 8",
      std::string(64, '\x40'));
  const Document before = test::open(pdf.finish()).value();
  const Redacted after = redacted(before, area(20, 120, 30, 30));
  CHECK(after.report.images == 1);
  CHECK(different(before, after.document, 0, {{10, 110, 90, 190}}, 0) == 0);
}

TEST_CASE("forms are cut where they are shown, and whole where they are shown elsewhere",
          "[redact]") {
  test::PdfBuilder pdf;
  pdf.page("q 1 0 0 1 10 10 cm /X Do Q q 1 0 0 1 10 110 cm /X Do Q",
           "/MediaBox[0 0 200 200]/Resources<</XObject<</X 11 0 R>>>>");
  pdf.stream(11,
             std::string("/Type/XObject/Subtype/Form/BBox[0 0 180 80]") + kFont +
                 "/XObject<</Y 12 0 R>>>>",
             "BT /F 20 Tf 10 40 Td (outer secret) Tj ET /Y Do");
  pdf.stream(12,
             std::string("/Type/XObject/Subtype/Form/BBox[0 0 180 80]/Matrix[1 0 0 1 0 -20]") +
                 kFont + ">>",
             "BT /F 20 Tf 10 40 Td (inner secret) Tj ET");
  const Document before = test::open(pdf.finish()).value();
  const Redacted after = redacted(before, area(0, 100, 200, 100));
  CHECK(after.report.letters == 24);  // with the blanks
  CHECK(different(before, after.document, 0, {{0, 100, 200, 200}}, 0) == 0);
  CHECK_THAT(PageWords::of(after.document.page(0).value())->text(), Contains("outer secret"));
  const Redacted all = redacted(before, search_for("secret"));
  CHECK_FALSE(says(all.bytes, "secret"));
  CHECK(all.report.letters == 24);
}

TEST_CASE("marks, fields, titles, properties and structure say nothing of it any more",
          "[redact]") {
  test::PdfBuilder pdf;
  pdf.object(1,
             "<</Type/Catalog/Pages 2 0 R/Outlines 20 0 R/Metadata 22 0 R/StructTreeRoot 23 0 R"
             "/Names<</Dests<</Names[(a secret place)[10 0 "
             "R/Fit]]>>>>/OpenAction<</S/JavaScript/JS(say('secret'))>>"
             "/AcroForm<</Fields[15 0 R 16 0 R]/XFA(secret)>>>>");
  pdf.object(2, "<</Type/Pages/Kids[10 0 R]/Count 1>>");
  pdf.object(10,
             "<</Type/Page/Parent 2 0 R/MediaBox[0 0 200 200]/Contents 11 0 R/Annots[13 0 R 14 0 R "
             "15 0 R 16 0 R 17 0 R 18 0 R]" +
                 std::string(kFont) + ">>>>");
  pdf.stream(11, "", "/P<</MCID 0>>BDC BT /F 20 Tf 10 160 Td (The secret word) Tj ET EMC");
  pdf.object(13,
             "<</Type/Annot/Subtype/Highlight/Rect[40 155 110 180]/QuadPoints[40 180 110 180 40 "
             "155 110 155]/Contents(far)/Popup 18 0 R>>");
  pdf.object(14, "<</Type/Annot/Subtype/Text/Rect[10 10 30 30]/Contents(another secret remark)>>");
  pdf.object(15,
             "<</Type/Annot/Subtype/Widget/FT/Tx/T(a)/V(secret)/DV(secret)/Rect[10 100 190 120]/F "
             "4/DA(/Helv 12 Tf)>>");
  pdf.object(16,
             "<</Type/Annot/Subtype/Widget/FT/Tx/T(b)/V(kept)/TU(the secret field)/Rect[10 70 190 "
             "90]/F 4>>");
  pdf.object(17, "<</Type/Annot/Subtype/Text/Rect[150 10 170 30]/Contents(answer)/IRT 13 0 R>>");
  pdf.object(18,
             "<</Type/Annot/Subtype/Popup/Rect[150 10 170 30]/Parent 13 0 R/Contents(secret)>>");
  pdf.object(20, "<</First 21 0 R/Last 21 0 R/Count 1>>");
  pdf.object(21, "<</Title(On the secret word)/Parent 20 0 R/Dest[10 0 R/Fit]>>");
  pdf.stream(22, "/Type/Metadata/Subtype/XML",
             "<x:xmpmeta xmlns:x='adobe:ns:meta/'><a b='the secret'>very secret</a></x:xmpmeta>");
  pdf.object(23, "<</Type/StructTreeRoot/K 24 0 R>>");
  pdf.object(24, "<</S/Document/K[25 0 R]/P 23 0 R>>");
  pdf.object(25, "<</S/P/K[0]/Pg 10 0 R/P 24 0 R/Alt(not to be read)/ActualText(nor this)>>");
  const Document before = test::open(pdf.finish()).value();
  const Redacted after = redacted(before, search_for("secret"));
  CHECK_FALSE(says(after.bytes, "secret"));
  CHECK_FALSE(says(after.bytes, "not to be read"));
  CHECK_FALSE(says(after.bytes, "nor this"));
  CHECK_FALSE(says(after.bytes, "answer"));
  CHECK(says(after.bytes, "kept"));
  CHECK(after.report.annotations == 2);
  CHECK(after.report.texts >= 6);
  CHECK(after.document.outline()->at(0).title == "On the \xE2\x80\xA6 word");
  CHECK(after.document.form()->fields.size() == 1);
}

TEST_CASE("what hidden marks and fields look like does not say it either", "[redact]") {
  test::PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R/AcroForm<</Fields[15 0 R]>>>>");
  pdf.object(2, "<</Type/Pages/Kids[10 0 R]/Count 1>>");
  pdf.object(10, "<</Type/Page/Parent 2 0 R/MediaBox[0 0 200 200]/Annots[14 0 R 15 0 R]>>");
  pdf.object(14,
             "<</Type/Annot/Subtype/FreeText/F 2/Rect[10 10 90 30]/Contents(a secret remark)"
             "/DA(/Helv 9 Tf)/AP<</N 16 0 R>>>>");
  pdf.object(15,
             "<</Type/Annot/Subtype/Widget/FT/Tx/F 2/T(a)/V(secret)/Rect[10 40 90 60]/AP<</N 16 0 "
             "R>>>>");
  pdf.stream(16, std::string("/Type/XObject/Subtype/Form/BBox[0 0 80 20]") + kFont + ">>",
             "BT /F 9 Tf 2 5 Td (secret) Tj ET");
  const Document before = test::open(pdf.finish()).value();
  const Redacted after = redacted(before, search_for("secret"));
  CHECK(after.report.texts == 2);
  CHECK_FALSE(says(after.bytes, "secret"));
  CHECK(after.document.page(0)->annotations()->size() == 2);
  // A look that is out of date says what nothing else does; the proof reads it.
  pdf.object(14,
             "<</Type/Annot/Subtype/FreeText/F 2/Rect[10 10 90 30]/Contents(kept)/AP<</N 16 0 "
             "R>>>>");
  pdf.object(15, "<</Type/Annot/Subtype/Widget/FT/Tx/F 2/T(a)/Rect[10 40 90 60]>>");
  const Document stale = test::open(pdf.finish()).value();
  CHECK_FALSE(prove_redaction(stale, search_for("secret"), RedactReport())->holds());
}

TEST_CASE("redaction marks are applied with their own looks", "[redact]") {
  test::PdfBuilder pdf;
  pdf.page("BT /F 20 Tf 10 160 Td (The secret word) Tj ET",
           std::string("/MediaBox[0 0 250 200]") + kFont + ">>");
  const Document before = test::open(pdf.finish()).value();
  auto edited = EditableDocument::of(before);
  const Page page = before.page(0).value();
  const PageWords words = PageWords::of(page).value();
  Annotation mark = text_mark(page, Annotation::Kind::redact, words.quads(4, 10));
  mark.interior_color = {0, 0.5, 0};
  mark.overlay_text = "withheld";
  add_annotation(edited, 0, mark).value();
  RedactRequest request;
  request.takes_marks = true;
  const Redacted after = redacted(edited.now().value(), request);
  CHECK(after.report.letters == 6);
  CHECK_FALSE(says(after.bytes, "secret"));
  CHECK_THAT(PageWords::of(after.document.page(0).value())->text(), Contains("withheld"));
  CHECK(after.document.page(0)->annotations()->empty());
  const Raster raster = render(after.document.page(0).value(), {.dpi = 72}).value();
  const Rect place = rects_of(after.report, 0)[0];
  CHECK(raster.at(static_cast<int>(place.left) + 2, static_cast<int>(place.bottom) + 2).green ==
        Approx(128).margin(2));
}

TEST_CASE("nothing earlier stays in the file, and it is not appended to", "[redact]") {
  test::PdfBuilder pdf;
  pdf.page("BT /F 20 Tf 10 160 Td (The secret word) Tj ET",
           std::string("/MediaBox[0 0 250 200]") + kFont + ">>");
  const test::TemporaryFolder folder;
  auto edited = EditableDocument::of(test::open(pdf.finish()).value());
  edited.set_properties({.title = "The secret title"}).value();
  REQUIRE(edited.save_appended(folder / "twice.pdf").ok());
  const Document twice = Document::open(folder / "twice.pdf").value();
  REQUIRE(twice.revisions()->size() == 2);
  auto again = EditableDocument::of(twice);
  RedactRequest request = search_for("secret");
  request.clears_properties = true;
  request.look.text = "withheld";
  REQUIRE(redact(again, request).ok());
  CHECK(again.steps().size() == 1);
  CHECK_THAT(again.appended().error().message(), Contains("save the document whole"));
  const std::string bytes = saved_bytes(again);
  CHECK_FALSE(says(bytes, "secret"));
  CHECK_FALSE(says(bytes, "title"));
  again.undo();
  CHECK(again.appended().ok());
  CHECK_THAT(PageWords::of(again.now()->page(0).value())->text(), Contains("secret"));
}

TEST_CASE("a proof does not hold where something is left", "[redact]") {
  test::PdfBuilder pdf;
  pdf.page("BT /F 20 Tf 10 160 Td (The secret word) Tj ET",
           std::string("/MediaBox[0 0 250 200]") + kFont + ">>");
  const Document before = test::open(pdf.finish()).value();
  const RedactRequest request = search_for("secret");
  auto edited = EditableDocument::of(before);
  const RedactReport report = redact(edited, request).value();
  // The document as it was, and one that is only covered.
  CHECK_FALSE(prove_redaction(before, request, report)->holds());
  auto covered = EditableDocument::of(before);
  Annotation box = mark_in(before.page(0).value(), Annotation::Kind::square, {0, 0, 250, 200});
  box.interior_color = {0};
  add_annotation(covered, 0, box).value();
  flatten_annotations(covered, {}).value();
  CHECK_FALSE(prove_redaction(opened(saved_bytes(covered)), request, report)->holds());
  CHECK(prove_redaction(opened(saved_bytes(edited)), request, report)->holds());

  // A stamp that shows it by a look of its own.
  auto stamped = EditableDocument::of(opened(saved_bytes(edited)));
  Drawing look(100, 20);
  look.write("secret", {2, 15}, {.size = 12});
  Annotation stamp = mark_in(before.page(0).value(), Annotation::Kind::stamp, {20, 90, 100, 20});
  add_annotation(stamped, 0, stamp, {.look = look}).value();
  CHECK_FALSE(prove_redaction(opened(saved_bytes(stamped)), request, report)->holds());

  auto attached = EditableDocument::of(before);
  attached.attach({.name = "notes.txt", .bytes = {'s', 'e', 'c', 'r', 'e', 't'}}).value();
  const RedactReport again = redact(attached, request).value();
  CHECK_FALSE(prove_redaction(opened(saved_bytes(attached)), request, again)->holds());
  attached.undo();
  RedactRequest with_files = request;
  with_files.removes_attachments = true;
  const RedactReport third = redact(attached, with_files).value();
  CHECK(prove_redaction(opened(saved_bytes(attached)), with_files, third)->holds());
}

TEST_CASE("a page without end stops at a limit, and nothing is changed", "[redact]") {
  std::string many;
  for (int i = 0; i < 2000; ++i) many += "0 0 9 9 re f ";
  test::PdfBuilder pdf;
  pdf.page(many, "/MediaBox[0 0 250 200]");
  const std::string bytes = pdf.finish();
  auto edited = EditableDocument::of(
      Document::open(Bytes(bytes.begin(), bytes.end()), {.limits = {.operators = 100}}).value());
  const auto done = redact(edited, area(0, 150, 50, 50));
  REQUIRE_FALSE(done.ok());
  CHECK(done.error().code() == ErrorCode::limit);
  CHECK_FALSE(edited.can_undo());
}

TEST_CASE("what cannot be redacted is refused, and nothing is changed", "[redact]") {
  test::PdfBuilder pdf;
  pdf.page("BT /F 20 Tf 10 160 Td (The secret word) Tj ET",
           std::string("/MediaBox[0 0 250 200]") + kFont + ">>");
  auto edited = EditableDocument::of(test::open(pdf.finish()).value());
  CHECK(redact(edited, {}).error().code() == ErrorCode::invalid_argument);
  CHECK(redact(edited, search_for("nowhere")).error().code() == ErrorCode::invalid_argument);
  CHECK(redact(edited, area(0, 0, 10, 10, 4)).error().code() == ErrorCode::invalid_argument);
  RedactRequest marks;
  marks.takes_marks = true;
  CHECK_THAT(redact(edited, marks).error().message(), Contains("no redaction mark"));
  CHECK(edited.steps().empty());
  CHECK_FALSE(edited.can_undo());
}
