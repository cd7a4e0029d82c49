// SPDX-License-Identifier: Apache-2.0
#include "lumvet/text/page_words.h"
#include "lumvet/text/tagged_text.h"
#include "lumvet/text/text_pattern.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;

namespace {

const std::string kFonts =
    "/MediaBox[0 0 400 400]/Resources<</Font<</F<</Type/Font/Subtype/Type1/BaseFont/Helvetica>>"
    "/L<</Type/Font/Subtype/Type1/BaseFont/Helvetica/Encoding<</Differences[65/f_f_i/uni20AC"
    "/adieresis/nothing.known]>>>>/U 9 0 R>>/XObject<</X 8 0 R>>/Properties<</P<</MCID 1>>"
    "/O 7 0 R>>>>";

Document page_showing(const std::string& content) {
  test::PdfBuilder pdf;
  pdf.page(content, kFonts);
  pdf.object(7, "<</Type/OCG/Name(hidden)>>");
  pdf.stream(8, "/Subtype/Form/BBox[0 0 400 400]/StructParents 1",
             "BT /F 10 Tf 50 50 Td /P<</MCID 0>>BDC (within) Tj EMC ET");
  pdf.object(9, "<</Type/Font/Subtype/Type1/BaseFont/Helvetica/ToUnicode 10 0 R>>");
  pdf.stream(10, "",
             "1 begincodespacerange <00><FF> endcodespacerange 2 beginbfchar <41> <03A9> <42> "
             "<00660069> endbfchar 1 beginbfrange <43> <44> [<D83DDEA7> <0058>] endbfrange");
  pdf.object(11, "<</Type/OCG>>");
  return test::open(pdf.finish()).value();
}

std::string text(const std::string& content) {
  return text_of(page_showing(content).page(0).value()).value();
}

}  // namespace

TEST_CASE("letters become words and lines by where they stand", "[text]") {
  struct Case {
    const char* content;
    const char* said;
  };
  for (const Case& known : {
           Case{"BT /F 10 Tf 10 100 Td (Day 12) Tj ET", "Day 12"},
           Case{"BT /F 10 Tf 10 100 Td (Day) Tj 0 -12 Td (twelve) Tj ET", "Day\ntwelve"},
           Case{"BT /F 10 Tf 10 100 Td [(D) 20 (a) -30 (y) -400 (12)] TJ ET", "Day 12"},
           Case{"BT /F 10 Tf 10 100 Td [(Day ) -400 (12)] TJ ET", "Day 12"},
           Case{"BT /F 10 Tf 10 100 Td (far) Tj 300 0 Td (column) Tj ET", "far\tcolumn"},
           Case{"BT /F 10 Tf 10 100 Td (H) Tj -3 Ts (2) Tj 0 Ts (O) Tj ET", "H2O"},
           Case{"BT /F 10 Tf 10 100 Td 3 Tr (unseen) Tj ET", "unseen"},
           Case{"BT /F 10 Tf 0 1 -1 0 50 50 Tm (up) Tj 12 0 Td (ward) Tj ET", "upward"},
           Case{"BT /F 1 Tf 10 0 0 -10 10 100 Tm (mirrored) Tj ET", "mirrored"},
           Case{"BT /L 10 Tf 10 100 Td (ABCD) Tj ET", "ffi€ä\uFFFD"},
           Case{"BT /U 10 Tf 10 100 Td (ABCD) Tj ET", "Ωfi🚧X"},
           Case{"BT /F 10 Tf 10 100 Td (a) Tj /S<</ActualText(bb)>>BDC (xyz) Tj EMC (c) Tj ET",
                "abbc"},
           Case{"/X Do", "within"},
           Case{"0 0 9 9 re f BI /W 1 /H 1 /BPC 8 /CS /G ID x EI", ""},
       }) {
    CAPTURE(known.content);
    CHECK(text(known.content) == known.said);
  }
}

TEST_CASE("what other producers wrote reads as they wrote it", "[text]") {
  const std::string folder = std::string(LUMVET_SOURCE_DIR) + "/demo/producers/";
  const auto first = [&](const char* name) {
    const Document opened = Document::open(folder + name).value();
    return text_of(opened.page(0).value()).value();
  };
  const std::string loads = first("loads.pdf");  // of a typesetter
  CHECK_THAT(loads, Catch::Contains("Loads on footbridges\n\nOstrel Valley bridge office"));
  CHECK_THAT(loads, Catch::Contains("with L the span in metres. For the Quarry swing\nbridge"));
  CHECK_THAT(loads, Catch::Contains("St Orrin’s"));
  CHECK_THAT(first("tariff.pdf"), Catch::Contains("Tolls and tariffs"));  // of a browser
}

TEST_CASE("headings lead to where they stand, at their depth", "[text]") {
  test::PdfBuilder pdf;
  pdf.page(
      "BT /F 20 Tf 10 300 Td /H1<</MCID 0>>BDC (Bridges ) Tj EMC /P BDC (and) Tj EMC "
      "/H2 /P BDC 0 -50 Td (Tannery) Tj 0 -20 Td (steps) Tj EMC ET /X Do",
      kFonts + "/StructParents 0");
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R/StructTreeRoot 20 0 R/MarkInfo<</Marked true>>>>");
  pdf.object(7, "<<>>");
  pdf.stream(8, "/Subtype/Form/BBox[0 0 400 400]",
             "BT /F 10 Tf 50 50 Td /P<</MCID 0>>BDC (within) Tj EMC ET");
  pdf.object(9, "<</Type/Font/Subtype/Type1/BaseFont/Helvetica>>");
  pdf.object(20, "<</Type/StructTreeRoot/K[21 0 R 22 0 R 23 0 R 24 0 R]/RoleMap<</Chapter/H1>>>>");
  pdf.object(21, "<</S/Chapter/P 20 0 R/Pg 3 0 R/K 0>>");
  pdf.object(22, "<</S/H2/P 20 0 R/Pg 3 0 R/K[1]>>");
  pdf.object(23, "<</S/H3/P 20 0 R/K<</Type/MCR/Pg 3 0 R/Stm 8 0 R/MCID 0>>>>");
  pdf.object(24, "<</S/H1/P 20 0 R/Pg 3 0 R/T(Said otherwise)/K[7]>>");
  const Document tagged = test::open(pdf.finish()).value();
  const auto headings = headings_of(tagged).value();
  REQUIRE(headings.size() == 4);
  CHECK(headings[0].title == "Bridges");
  CHECK(headings[0].depth == 0);
  CHECK(headings[0].page == 0);
  CHECK(headings[0].destination->top.value() == Approx(320));
  CHECK(headings[1].title == "Tannery steps");
  CHECK(headings[1].depth == 1);
  CHECK(headings[1].destination->top.value() == Approx(270));
  CHECK(headings[2].title == "within");
  CHECK(headings[2].depth == 2);
  CHECK(headings[3].title == "Said otherwise");
  CHECK(headings[3].depth == 0);
  CHECK(headings_of(page_showing("")).value().empty());
}

TEST_CASE("tagged documents are read in the order of their tags", "[text]") {
  test::PdfBuilder pdf;
  // Drawn from below, and beside what is no content.
  pdf.page(
      "/P<</MCID 1>>BDC BT /F 10 Tf 10 100 Td (goes on) Tj ET EMC "
      "/P<</MCID 0>>BDC BT /F 10 Tf 10 200 Td (A paragraph) Tj ET EMC "
      "/Artifact BMC BT /F 10 Tf 10 390 Td (running head) Tj ET EMC "
      "/TD<</MCID 2>>BDC BT /F 10 Tf 10 50 Td (cell) Tj ET EMC "
      "/Span<</MCID 3>>BDC BT /F 10 Tf 60 50 Td (St) Tj ET EMC",
      kFonts + "/StructParents 0");
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R/StructTreeRoot 20 0 R/MarkInfo<</Marked true>>>>");
  pdf.object(20, "<</Type/StructTreeRoot/K[21 0 R 23 0 R 26 0 R]>>");
  pdf.object(21, "<</S/P/P 20 0 R/Pg 3 0 R/Lang(de)/K[0 1 22 0 R]>>");
  pdf.object(22, "<</S/Span/P 21 0 R/Pg 3 0 R/ActualText(Saint)/K 3>>");
  pdf.object(23, "<</S/Table/P 20 0 R/K 24 0 R>>");
  pdf.object(24, "<</S/TR/P 23 0 R/K 25 0 R>>");
  pdf.object(25, "<</S/TD/P 24 0 R/Pg 3 0 R/K 2>>");
  pdf.object(26, "<</S/Figure/P 20 0 R/Pg 3 0 R/Alt(A bridge)>>");
  const auto blocks = tagged_text(test::open(pdf.finish()).value()).value();
  REQUIRE(blocks.size() == 3);
  CHECK(blocks[0].role == "P");
  CHECK(blocks[0].text == "A paragraph goes onSaint");
  CHECK(blocks[0].language == "de");
  CHECK(blocks[0].page == 0);
  CHECK(blocks[1].role == "TD");
  CHECK(blocks[1].text == "cell");
  CHECK(blocks[1].depth == 2);
  CHECK(blocks[2].text == "A bridge");
  CHECK(tagged_text(page_showing("")).value().empty());
}

TEST_CASE("cells, and lists within lists, are read one by one", "[text]") {
  // A table whose own content are its lines, and an item that holds a list.
  test::PdfBuilder pdf;
  std::string content = "/Table<</MCID 0>>BDC 10 10 m 90 10 l S EMC ";
  const char* const words[] = {"beam", "3250", "paint", "first", "the deck", "twice"};
  for (int i = 0; i < 6; ++i)
    content += "/P<</MCID " + std::to_string(i + 1) + ">>BDC BT /F 10 Tf 10 " +
               std::to_string(200 - 20 * i) + " Td (" + words[i] + ") Tj ET EMC ";
  pdf.page(content, kFonts + "/StructParents 0");
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R/StructTreeRoot 20 0 R/MarkInfo<</Marked true>>>>");
  pdf.object(20, "<</Type/StructTreeRoot/K[21 0 R 25 0 R]>>");
  pdf.object(21, "<</S/Table/P 20 0 R/Pg 3 0 R/K[0 22 0 R]>>");
  pdf.object(22, "<</S/TR/P 21 0 R/Pg 3 0 R/K[23 0 R 24 0 R]>>");
  pdf.object(23, "<</S/TD/P 22 0 R/Pg 3 0 R/K 1>>");
  pdf.object(24, "<</S/TD/P 22 0 R/Pg 3 0 R/K 2>>");
  pdf.object(25, "<</S/LI/P 20 0 R/Pg 3 0 R/K 26 0 R>>");
  pdf.object(26, "<</S/LBody/P 25 0 R/Pg 3 0 R/K[3 27 0 R 28 0 R]>>");
  pdf.object(27, "<</S/Span/P 26 0 R/Pg 3 0 R/K 4>>");
  pdf.object(28, "<</S/LI/P 26 0 R/Pg 3 0 R/K[29 0 R 30 0 R]>>");
  pdf.object(29, "<</S/LBody/P 28 0 R/Pg 3 0 R/K 5>>");
  pdf.object(30, "<</S/P/P 28 0 R/Pg 3 0 R/K 6>>");
  std::string all;
  for (const TaggedBlock& block : tagged_text(test::open(pdf.finish()).value()).value())
    all += block.role + ": " + block.text + "|";
  CHECK(all == "TD: beam|TD: 3250|LBody: paint first|LBody: the deck|P: twice|");
}

TEST_CASE("tagged text is read as pages are: from right to left, with narrow blanks, without signs",
          "[text]") {
  test::PdfBuilder pdf;
  // Capitals are Hebrew letters, drawn as they are seen.
  pdf.page(
      "/P<</MCID 0>>BDC BT /U 10 Tf 10 200 Td (CBA) Tj ET EMC "
      "/P<</MCID 1>>BDC BT /F 10 Tf 10 100 Td [(hangers) -130 (of) -150 (the)] TJ ET EMC "
      "/P<</MCID 2>>BDC BT /F 10 Tf 120 100 Td (bridge) Tj ET EMC "
      "/P<</MCID 3/ActualText<FEFF00610007202E0062>>>BDC BT /F 10 Tf 10 50 Td (x) Tj ET EMC",
      kFonts + "/StructParents 0");
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R/StructTreeRoot 20 0 R/MarkInfo<</Marked true>>>>");
  pdf.object(9, "<</Type/Font/Subtype/Type1/BaseFont/Courier/ToUnicode 10 0 R>>");
  pdf.stream(10, "",
             "1 begincodespacerange <00><FF> endcodespacerange 1 beginbfrange <41> <56> <05D0> "
             "endbfrange");
  pdf.object(20, "<</Type/StructTreeRoot/K[21 0 R 22 0 R 23 0 R]>>");
  pdf.object(21, "<</S/P/P 20 0 R/Pg 3 0 R/K 0>>");
  pdf.object(22, "<</S/P/P 20 0 R/Pg 3 0 R/K[1 2]>>");
  pdf.object(23, "<</S/P/P 20 0 R/Pg 3 0 R/K 3>>");
  const auto blocks = tagged_text(test::open(pdf.finish()).value()).value();
  REQUIRE(blocks.size() == 3);
  CHECK(blocks[0].text == "אבג");
  CHECK(blocks[1].text == "hangers of the bridge");
  CHECK(blocks[2].text == "ab");
}

TEST_CASE("a pattern is found in either case and across line ends", "[text]") {
  const auto is_in = [](const char* pattern, const char* text) {
    return TextPattern::parse(pattern).value().is_in(text).value();
  };
  CHECK(is_in("bill no\\. [0-9]+", "The BILL\nNo. 17"));
  CHECK_FALSE(is_in("bill no\\. [0-9]+", "bill nox 17"));
  CHECK(is_in("^costs$", "Measures\ncosts\nSum"));
  CHECK(is_in("größe", "GRÖSSE"));
  const auto all = TextPattern::parse("x*[0-9]+|")->all_in("é x1\n🚧 22 x").value();
  REQUIRE(all.size() == 2);  // matches of nothing are passed over
  CHECK(all[0] == TextSpan{3, 5});
  CHECK(all[1] == TextSpan{11, 13});
  CHECK_FALSE(TextPattern::parse("Day", TextPattern::Case::counts)->is_in("day").value());
  for (const char* wrong : {"", "(a", "[", "a{2"}) {
    const auto pattern = TextPattern::parse(wrong);
    REQUIRE_FALSE(pattern.ok());
    CHECK(pattern.error().code() == ErrorCode::invalid_argument);
  }
  const auto endless = TextPattern::parse("(a+)+(b+)+c")->is_in(std::string(60, 'a') + "d");
  CHECK((endless.ok() ? !*endless : endless.error().code() == ErrorCode::limit));
}
