// SPDX-License-Identifier: Apache-2.0
#include "lumvet/text/written_words.h"

#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;

namespace {

PageWords words_of(const std::string& content) {
  test::PdfBuilder pdf;
  pdf.page(content,
           "/MediaBox[0 0 600 800]/Resources<</Font<</F<</Type/Font/Subtype/Type1/BaseFont/Courier"
           ">>>>>>");
  return PageWords::of(test::open(pdf.finish())->page(0).value()).value();
}

const std::string kTable =
    "BT /F 16 Tf 50 700 Td (Tolls & <tariffs>) Tj /F 10 Tf 0 -40 Td (Valid from 1 November) Tj ET "
    "BT /F 10 Tf 50 600 Td (Who) Tj 180 0 Td (Crowns, \"each\") Tj -180 -14 Td (Cow) Tj "
    "180 0 Td (3.50) Tj -180 -14 Td (Cart) Tj 180 0 Td (1.00) Tj ET";

}  // namespace

TEST_CASE("tables leave as rows of cells", "[text]") {
  CHECK(tables_as_csv(words_of(kTable)) ==
        "Who,\"Crowns, \"\"each\"\"\"\r\nCow,3.50\r\nCart,1.00\r\n");
  CHECK(tables_as_csv(words_of("BT /F 10 Tf 50 700 Td (no table) Tj ET")).empty());
}

TEST_CASE("HTML has headings, paragraphs and tables, and nothing of it is taken for marks",
          "[text]") {
  CHECK(as_html(words_of(kTable)) ==
        "<h1>Tolls &amp; &lt;tariffs&gt;</h1>\n<p>Valid from 1 November</p>\n<table>\n"
        "<tr><td>Who</td><td>Crowns, \"each\"</td></tr>\n<tr><td>Cow</td><td>3.50</td></tr>\n"
        "<tr><td>Cart</td><td>1.00</td></tr>\n</table>\n");
  CHECK_THAT(begin_of_html("a<b.pdf"), Catch::Contains("<title>a&lt;b.pdf</title>"));
}

TEST_CASE("what is selected leaves as HTML of just that", "[text]") {
  const PageWords words = words_of(kTable);
  const std::size_t from = words.text().find("from");
  const std::size_t cow = words.text().find("Cow");
  CHECK(as_html(words, {from, cow + 3}) ==
        "<p>from 1 November</p>\n<table>\n<tr><td>Who</td><td>Crowns, \"each\"</td></tr>\n"
        "<tr><td>Cow</td></tr>\n</table>\n");
  CHECK(as_html(words, {from, from}).empty());
}

TEST_CASE("paragraphs come in one line each, and words whole", "[text]") {
  CHECK(
      paragraphs(words_of("BT /F 10 Tf 50 700 Td (The hang-) Tj 0 -12 Td (ers of the Foot-) Tj "
                          "0 -12 Td (Bridge are) Tj 0 -12 Td (worn.) Tj 0 -40 Td (Next) Tj ET")) ==
      "The hangers of the Foot- Bridge are worn.\n\nNext\n");
  CHECK(paragraphs(words_of(kTable)).find("Cow\t3.50\nCart") != std::string::npos);
}

TEST_CASE("letters of one width stay where they stood when the layout is kept", "[text]") {
  const std::string kept = laid_out(words_of(
      "BT /F 10 Tf 50 700 Td (Bridge     Built) Tj 0 -12 Td (Alder Weir  1961) Tj 0 -24 Td "
      "(      2 of 12) Tj ET BT /F 10 Tf 0 1 -1 0 500 300 Tm (along the edge) Tj ET"));
  CHECK(kept == "Bridge     Built\nAlder Weir  1961\n\n      2 of 12\n\nalong the edge\n");
}
