// SPDX-License-Identifier: Apache-2.0
#include "lumvet/text/tagged_order.h"

#include "lumvet/text/page_glyphs.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;

namespace {

const std::string kFonts =
    "/MediaBox[0 0 400 400]/Resources<</Font<</F<</Type/Font/Subtype/Type1/BaseFont/Helvetica>>>>"
    "/XObject<</X 8 0 R>>>>/StructParents 0";

}  // namespace

TEST_CASE("words have the order and the roles of the tags beside their own", "[text]") {
  test::PdfBuilder pdf;
  pdf.page(
      "/P<</MCID 1>>BDC BT /F 10 Tf 10 100 Td (third fourth) Tj ET EMC "
      "/H1<</MCID 0>>BDC BT /F 10 Tf 10 50 Td (second) Tj ET EMC "
      "/Artifact BMC BT /F 10 Tf 10 390 Td (head) Tj ET EMC /X Do",
      kFonts);
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R/StructTreeRoot 20 0 R/MarkInfo<</Marked true>>>>");
  pdf.stream(8, "/Subtype/Form/BBox[0 0 400 400]/StructParents 1",
             "/P<</MCID 0>>BDC BT /F 10 Tf 10 200 Td (first) Tj ET EMC");
  pdf.object(20, "<</Type/StructTreeRoot/K[21 0 R 22 0 R 23 0 R]>>");
  pdf.object(21, "<</S/P/P 20 0 R/K<</Type/MCR/Pg 3 0 R/Stm 8 0 R/MCID 0>>>>");
  pdf.object(22, "<</S/H1/P 20 0 R/Pg 3 0 R/K 0>>");
  pdf.object(23, "<</S/Sect/P 20 0 R/K[24 0 R]>>");
  pdf.object(24, "<</S/P/P 23 0 R/Pg 3 0 R/K[1]>>");
  const Document document = test::open(pdf.finish()).value();
  const PageWords words = PageWords::of(document.page(0).value()).value();
  REQUIRE(words.text() == "head\n\nfirst\n\nthird fourth\n\nsecond");
  const TaggedOrder tags = TaggedOrder::of(document).value();
  CHECK(tags.order(0, words) == std::vector<std::size_t>{1, 4, 2, 3});
  const std::vector<int> elements = tags.elements(0, words);
  REQUIRE(elements.size() == 5);
  CHECK(elements[0] == -1);
  const auto role = [&](std::size_t word) {
    return tags.structure().elements.at(static_cast<std::size_t>(elements[word])).role;
  };
  CHECK(role(1) == "P");
  CHECK(role(2) == "P");
  CHECK(role(4) == "H1");
  CHECK(tags.order(1, words).empty());
}

TEST_CASE("documents without tags have no other order", "[text]") {
  test::PdfBuilder pdf;
  pdf.page("/P<</MCID 1>>BDC BT /F 10 Tf 10 100 Td (loose) Tj ET EMC", kFonts);
  const Document document = test::open(pdf.finish()).value();
  const PageWords words = PageWords::of(document.page(0).value()).value();
  const TaggedOrder tags = TaggedOrder::of(document).value();
  CHECK(tags.order(0, words).empty());
  CHECK(tags.elements(0, words) == std::vector<int>{-1});
}

TEST_CASE("glyphs come as they are drawn, each with what is known of it", "[text]") {
  test::PdfBuilder pdf;
  pdf.page(
      "BT /F 10 Tf 10 50 Td /P<</MCID 3>>BDC (b ) Tj EMC 3 Tr 0 1 -1 0 100 100 Tm (a) Tj ET "
      "BT 0 Tr 1 0 0 rg /F 20 Tf 10 90 Td /S<</ActualText(Saint)>>BDC (St) Tj EMC ET",
      kFonts);
  const PageGlyphs drawn =
      glyphs_of(Scene::record(test::open(pdf.finish())->page(0).value()).value());
  std::vector<std::string> said;
  for (const PageGlyph& glyph : drawn.glyphs) said.push_back(glyph.characters);
  REQUIRE(said == std::vector<std::string>{"b", " ", "a", "Saint"});
  CHECK(drawn.glyphs[0].mark == ContentMark{3, {}});
  CHECK_FALSE(drawn.glyphs[2].mark);
  CHECK(drawn.glyphs[2].visibility == Visibility::invisible);
  CHECK(drawn.styles[drawn.glyphs[2].style].mode == LetterMode::invisible);
  CHECK(drawn.styles[drawn.glyphs[3].style].color == std::array<std::uint8_t, 3>{255, 0, 0});
  CHECK(drawn.glyphs[3].size == Approx(20));
  // Upward, from the right of its baseline: 0.556 of the size long.
  const Quad& up = drawn.glyphs[2].quad;
  CHECK(up[0].y == Approx(300));
  CHECK(up[1].y == Approx(300 - 5.56));
  CHECK(up[0].x < 100);
  CHECK(up[3].x > 100);
  // The second of two begins where the first ends.
  CHECK(drawn.glyphs[0].quad[1].x == Approx(drawn.glyphs[1].quad[0].x));
}
