// SPDX-License-Identifier: Apache-2.0
#include "lumvet/text/written_words.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"
#include "text/list_markers.h"

using namespace lumvet;

namespace {

PageWords words_of(const std::string& content) {
  test::PdfBuilder pdf;
  pdf.page(content,
           "/MediaBox[0 0 600 800]/Resources<</Font<</F<</Type/Font/Subtype/Type1/BaseFont"
           "/Helvetica>>/B<</Type/Font/Subtype/Type1/BaseFont/Helvetica-Bold>>/I<</Type/Font"
           "/Subtype/Type1/BaseFont/Helvetica-Oblique>>>>>>");
  return PageWords::of(test::open(pdf.finish())->page(0).value()).value();
}

}  // namespace

TEST_CASE("lines that begin with bullets or numbers are lists, one within the other", "[text]") {
  CHECK(as_html(words_of("BT /F 10 Tf 14 TL 50 700 Td (Bring:) Tj T* (\\267 a lamp) Tj T* "
                         "(\\267 a gauge) Tj T* (  with its case) Tj ET")) ==
        "<p>Bring:\n• a lamp\n• a gauge\nwith its case</p>\n");
  CHECK(as_html(words_of("BT /F 10 Tf 14 TL 50 700 Td (\\267 a lamp) Tj T* (\\267 a gauge) Tj T* "
                         "(with its case) Tj ET")) ==
        "<ul>\n<li>a lamp</li>\n<li>a gauge\nwith its case</li>\n</ul>\n");
  CHECK(as_html(words_of(
            "BT /F 10 Tf 50 700 Td (3. Open) Tj 0 -30 Td (4. Look) Tj 20 -30 Td (a\\) above) Tj "
            "0 -14 Td (b\\) below) Tj -20 -30 Td (5. Close) Tj 0 -40 Td (Done.) Tj ET")) ==
        "<ol start=\"3\">\n<li>Open</li>\n<li>Look\n<ol type=\"a\">\n<li>above</li>\n"
        "<li>below</li>\n</ol>\n</li>\n<li>Close</li>\n</ol>\n<p>Done.</p>\n");
  // A number by itself begins no list.
  CHECK(as_html(words_of("BT /F 10 Tf 50 700 Td (1. Bearings) Tj 0 -30 Td (They turn.) Tj ET")) ==
        "<p>1. Bearings</p>\n<p>They turn.</p>\n");
}

TEST_CASE("markers of lists are told from words", "[text]") {
  using text::list_marker;
  const auto length = [](std::string_view line) {
    const auto marker = list_marker(line);
    return marker ? marker->length : 0;
  };
  CHECK(length("• a") == 4);
  CHECK(length("12) a") == 4);
  CHECK(list_marker("12) a")->number == 12);
  CHECK(length("(iv) a") == 0);
  CHECK(length("(b) a") == 4);
  CHECK(list_marker("c. x")->number == 3);
  for (const char* none : {"", "•", "• ", "1.5 m", "1961. ", "1961. A", "-5", "Mr. A", "(b. a"})
    CHECK(length(none) == 0);
}

TEST_CASE("bold, italic and colored words are told by elements that close where they end",
          "[text]") {
  const PageWords words = words_of(
      "BT /F 10 Tf 50 700 Td (The ) Tj /B 10 Tf (main cable) Tj /F 10 Tf ( is ) Tj 1 0 0 rg "
      "(worn) Tj 0.4 g ( \\(see ) Tj /I 10 Tf (2\\)) Tj ET");
  CHECK(as_html(words) ==
        "<p>The <b>main cable</b> is <span style=\"color:#ff0000\">worn</span> (see "
        "<i>2)</i></p>\n");
  const std::size_t cable = words.text().find("cable");
  CHECK(as_html(words, {cable, cable + 5}) == "<p><b>cable</b></p>\n");
}

TEST_CASE("the first rows of a table are its heads where they alone are bold", "[text]") {
  const auto row = [](int y, const char* font, const char* one, const char* other) {
    return std::string("/") + font + " 10 Tf 1 0 0 1 50 " + std::to_string(y) + " Tm (" + one +
           ") Tj 1 0 0 1 200 " + std::to_string(y) + " Tm (" + other + ") Tj ";
  };
  CHECK(as_html(words_of("BT " + row(700, "B", "Who", "Crowns") + row(686, "F", "Cow", "3.50") +
                         row(672, "B", "Sum", "3.50") + "ET")) ==
        "<table>\n<tr><th>Who</th><th>Crowns</th></tr>\n<tr><td>Cow</td><td>3.50</td></tr>\n"
        "<tr><td><b>Sum</b></td><td><b>3.50</b></td></tr>\n</table>\n");
  CHECK(as_html(words_of("BT " + row(700, "B", "Who", "Crowns") + row(686, "B", "Cow", "3.50") +
                         "ET")) ==
        "<table>\n<tr><td><b>Who</b></td><td><b>Crowns</b></td></tr>\n"
        "<tr><td><b>Cow</b></td><td><b>3.50</b></td></tr>\n</table>\n");
}

TEST_CASE("pictures come where they stand", "[text]") {
  const PageWords words = words_of("BT /F 10 Tf 50 700 Td (Above.) Tj 0 -300 Td (Below.) Tj ET");
  const HtmlPicture picture{{{{50, 150}, {250, 150}, {250, 350}, {50, 350}}}, "a\"b.png", "<1>"};
  CHECK(as_html(words, {picture}) ==
        "<p>Above.</p>\n<p><img src=\"a&quot;b.png\" alt=\"&lt;1&gt;\"></p>\n<p>Below.</p>\n");
  CHECK(as_html(words_of(""), {picture}) ==
        "<p><img src=\"a&quot;b.png\" alt=\"&lt;1&gt;\"></p>\n");
}
