// SPDX-License-Identifier: Apache-2.0
// Characters beside glyphs: where they stand, what marks them, and what they cost.
#include <filesystem>

#include "content/scene_data.h"
#include "lumvet/content/scene.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;
using namespace lumvet::content;

namespace {

const std::string kFonts =
    "/MediaBox[0 0 400 400]/Resources<</Font<</F<</Type/Font/Subtype/Type1/BaseFont/Courier/"
    "FirstChar 65/Widths[600 600 600]/FontDescriptor<</Type/FontDescriptor/FontName/Courier/"
    "Flags 33/Ascent 800/Descent 200>>>>/U 9 0 R/T 11 0 R>>/XObject<</X 8 0 R>>/Pattern<</P 13 0 "
    "R>>"
    "/ExtGState<</M<</SMask<</S/Alpha/G 14 0 R>>>>>>/Properties<</O 7 0 R>>>>";

Scene record(const std::string& content, const std::string& long_text = "") {
  test::PdfBuilder pdf;
  pdf.page(content, kFonts);
  pdf.object(7, "<</Type/OCG/Name(other)>>");
  pdf.stream(8, "/Subtype/Form/BBox[0 0 400 400]", "/P<</MCID 5>>BDC BT /F 10 Tf (B) Tj ET");
  pdf.object(9,
             "<</Type/Font/Subtype/Type1/BaseFont/Courier/FirstChar 65/Widths[600]/ToUnicode 10 0 R"
             ">>");
  pdf.stream(10, "",
             "1 begincodespacerange <00><FF> endcodespacerange 1 beginbfchar <41> <" + long_text +
                 "> endbfchar");
  pdf.object(11,
             "<</Type/Font/Subtype/Type3/FontMatrix[.01 0 0 .01 0 0]/FontBBox[0 0 90 90]/FirstChar "
             "65/LastChar 65/Widths[90]/Encoding<</Differences[65/A]>>/CharProcs<</A 12 0 R>>"
             "/Resources<</Font<</F 9 0 R>>>>>>");
  pdf.stream(12, "", "90 0 d0 BT /F 50 Tf (within) Tj ET");
  pdf.stream(13,
             "/PatternType 1/PaintType 1/TilingType 1/BBox[0 0 200 200]/XStep 200/YStep 200"
             "/Resources<</Font<</F 9 0 R>>>>",
             "BT /F 50 Tf (within) Tj ET");
  pdf.stream(14,
             "/Subtype/Form/BBox[0 0 200 200]/Group<</S/Transparency>>/Resources<</Font<</F 9 0 R>>"
             ">>",
             "BT /F 50 Tf (within) Tj ET");
  const Document document = test::open(pdf.finish()).value();
  return Scene::record(document.page(0).value()).value();
}

const SceneText& text_of(const Scene& scene) { return data_of(scene).text; }

}  // namespace

TEST_CASE("glyphs of one line are one run, each where it is shown", "[content]") {
  const Scene scene = record(
      "BT /F 10 Tf 2 Tc 20 300 Td (AB) Tj [(C) -500 (A)] TJ 60 0 Td (B) Tj 0 -12 Td (C) Tj ET");
  const SceneText& text = text_of(scene);
  CHECK(text.characters == "ABCABC");
  REQUIRE(text.runs.size() == 2);
  REQUIRE(text.glyphs.size() == 6);
  CHECK(text.runs[0].x == Approx(20));
  CHECK(text.runs[0].y == Approx(100));  // from the upper edge
  CHECK(text.runs[1].y == Approx(112));
  CHECK(text.runs[1].first_byte == 5);
  const double expected[] = {0, 0.8, 1.6, 2.9, 6};
  for (std::size_t i = 0; i < 5; ++i) {
    CHECK(text.glyphs[i].begin() == Approx(expected[i]));
    CHECK(text.glyphs[i].advance() == Approx(0.6).epsilon(1e-4));
  }
  CHECK(text.bounds_of(0).left == Approx(20));
  CHECK(text.bounds_of(0).right == Approx(86).epsilon(1e-4));
  CHECK(text.bounds_of(0).bottom == Approx(92));  // by the ascent that the font states
  CHECK(text.bounds_of(0).top == Approx(102));
}

TEST_CASE("other sizes, fonts, slants and marks begin runs of their own", "[content]") {
  const Scene scene = record(
      "BT /F 10 Tf 20 300 Td (A) Tj /F 12 Tf (A) Tj /U 12 Tf (A) Tj 1 0 .2 1 60 300 Tm (A) Tj "
      "/S BMC (A) Tj EMC (A) Tj /F 12 Tf (A) Tj ET");
  CHECK(text_of(scene).runs.size() == 7);
  CHECK(text_of(scene).fonts.size() == 2);
  CHECK(text_of(scene).styles.size() == 5);
}

TEST_CASE("an advance is kept to a thirty-thousandth, however wide", "[content]") {
  for (const double advance : {0.5, -1.0, 0.0, 0.000123, 31234.5, -2e20, 0.333333})
    CHECK(TextGlyph(0, advance, 1).advance() == Approx(advance).epsilon(1.0 / 30000));
  for (const double nonsense : {HUGE_VAL, std::nan(""), 1e300, 1e-300})
    CHECK(TextGlyph(0, nonsense, 1).advance() == 0);
}

TEST_CASE("a glyph may stand for more characters than one entry holds", "[content]") {
  std::string code_units;
  std::string utf8;
  for (int i = 0; i < 200; ++i) {
    code_units += "03A9";
    utf8 += "Ω";
  }
  const Scene scene = record("BT /U 10 Tf 20 300 Td (A) Tj ET", code_units);
  const SceneText& text = text_of(scene);
  CHECK(text.characters == utf8);
  REQUIRE(text.glyphs.size() == 2);
  CHECK(text.glyphs[0].characters() == 254);  // whole characters only
  CHECK(text.glyphs[1].characters() == 146);
  CHECK(text.glyphs[1].begin() == Approx(0.6).epsilon(1e-4));
  CHECK(text.glyphs[1].advance() == 0);
}

TEST_CASE("marks lie within one another, and end with their stream", "[content]") {
  const Scene scene = record(
      "BT /F 10 Tf /P<</MCID 3>>BDC (A) Tj /S<</ActualText(said)>>BDC (B) Tj EMC ET /X Do "
      "BT /F 10 Tf (C) Tj EMC (A) Tj ET");
  const SceneText& text = text_of(scene);
  REQUIRE(text.runs.size() == 5);
  REQUIRE(text.marks.size() == 3);
  CHECK(text.marks[0].number == 3);
  CHECK(text.marks[0].form == -1);
  CHECK(text.marks[1].outer == 0);
  CHECK(text.actual_texts == std::vector<std::string>{"said"});
  CHECK(text.marks[2].number == 5);  // of the form, which does not end it
  CHECK(text.marks[2].form == 0);
  CHECK(text.forms.size() == 1);
  const int expected[] = {0, 1, 2, 0, -1};
  for (std::size_t i = 0; i < 5; ++i) CHECK(text.runs[i].mark == expected[i]);
}

TEST_CASE("what patterns, masks and glyphs are drawn with is no text of the page", "[content]") {
  const Scene scene =
      record("/Pattern cs /P scn 0 0 300 300 re f /M gs BT /T 10 Tf 20 300 Td (A) Tj ET", "0041");
  CHECK(text_of(scene).characters == "A");
  CHECK(text_of(scene).glyphs[0].advance() == Approx(0.9).epsilon(1e-4));
}

TEST_CASE("invisible text is kept, that of hidden layers is not", "[content]") {
  CHECK(text_of(record("BT /F 10 Tf 3 Tr (A) Tj ET")).characters == "A");
  test::PdfBuilder pdf;
  pdf.page("/OC /O BDC BT /F 10 Tf (A) Tj ET EMC BT /F 10 Tf (B) Tj ET", kFonts);
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R/OCProperties<</OCGs[7 0 R]/D<</OFF[7 0 R]>>>>>>");
  pdf.object(7, "<</Type/OCG/Name(other)>>");
  const Document document = test::open(pdf.finish()).value();
  CHECK(text_of(Scene::record(document.page(0).value()).value()).characters == "B");
}

TEST_CASE("annotations' text comes behind the page's", "[content]") {
  test::PdfBuilder pdf;
  pdf.page("BT /F 10 Tf 0 0 Td (A) Tj ET",
           kFonts + "/Annots[<</Subtype/Stamp/Rect[0 0 400 400]/AP<</N 8 0 R>>>>]");
  pdf.stream(8, "/Subtype/Form/BBox[0 0 400 400]", "BT /F 10 Tf 6 0 Td (B) Tj ET");
  const Document document = test::open(pdf.finish()).value();
  const Scene scene = Scene::record(document.page(0).value()).value();
  CHECK(text_of(scene).characters == "AB");
  CHECK(text_of(scene).page_runs == 1);
  CHECK(text_of(scene).runs.size() == 2);
}

TEST_CASE("text costs a scene at most 12 bytes a glyph on pages of text", "[content]") {
  std::size_t full_pages = 0;
  for (const char* name : {"notice.pdf", "tariff.pdf", "loads.pdf", "drawing.pdf"}) {
    const std::string path = std::string(LUMVET_SOURCE_DIR) + "/demo/producers/" + name;
    const Document document = Document::open(path).value();
    for (int page = 0; page < document.page_count(); ++page) {
      const Scene scene = Scene::record(document.page(page).value()).value();
      const SceneText& text = text_of(scene);
      CHECK(text.memory() <=
            sizeof(TextGlyph) * text.glyphs.size() + text.characters.size() +
                sizeof(TextRun) * text.runs.size() + sizeof(TextStyle) * text.styles.size() +
                sizeof(TextMark) * text.marks.size() + 48 * text.fonts.size() + 256);
      static_assert(sizeof(TextRun) <= 32 && sizeof(TextStyle) <= 28 && sizeof(TextMark) <= 32);
      if (text.glyphs.size() < 500) continue;
      ++full_pages;
      CHECK(text.memory() <= 12 * text.glyphs.size());
    }
  }
  CHECK(full_pages > 0);
}
