// SPDX-License-Identifier: Apache-2.0
// The order in which pages are read, whatever order they were drawn in.
#include <algorithm>
#include <random>

#include "lumvet/lumvet.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;

namespace {

const std::string kFonts =
    "/MediaBox[0 0 600 800]/Resources<</Font<</F<</Type/Font/Subtype/Type1/BaseFont/Courier>>"
    "/U 9 0 R>>>>";

struct Shown {
  double x;
  double y;  // from the top
  std::string text;
  double size = 10;
  std::string font = "F";
};

std::string drawn(const std::vector<Shown>& pieces) {
  std::string content;
  for (const Shown& piece : pieces)
    content += "BT /" + piece.font + " " + std::to_string(piece.size) + " Tf " +
               std::to_string(piece.x) + " " + std::to_string(800 - piece.y) + " Td (" +
               piece.text + ") Tj ET\n";
  return content;
}

PageWords words_of(const std::vector<Shown>& pieces) {
  test::PdfBuilder pdf;
  pdf.page(drawn(pieces), kFonts);
  pdf.object(9, "<</Type/Font/Subtype/Type1/BaseFont/Courier/ToUnicode 10 0 R>>");
  // Capitals are Hebrew letters.
  pdf.stream(10, "",
             "1 begincodespacerange <00><FF> endcodespacerange 2 beginbfrange <41> <56> <05D0> "
             "<30> <39> <0030> endbfrange");
  return PageWords::of(test::open(pdf.finish())->page(0).value()).value();
}

std::string text(const std::vector<Shown>& pieces) { return words_of(pieces).text(); }

// Lines of prose that fill their column.
std::vector<Shown> column(double x, double y, const std::string& word, int lines) {
  std::vector<Shown> pieces;
  for (int i = 0; i < lines; ++i)
    pieces.push_back({x, y + 12 * i, word + std::to_string(i) + " beams and deck of all bridges"});
  return pieces;
}

std::string lines_of(const std::vector<Shown>& pieces) {
  std::string all;
  for (const Shown& piece : pieces) all += (all.empty() ? "" : "\n") + piece.text;
  return all;
}

}  // namespace

TEST_CASE("columns are read one after the other, in whatever order their lines are drawn",
          "[text]") {
  const auto left = column(50, 120, "left", 20);
  const auto right = column(310, 126, "right", 17);
  std::vector<Shown> all = {
      {50, 80, "Bridges of the Ostrel Valley, and how they are looked after", 12}};
  all.insert(all.end(), left.begin(), left.end());
  all.insert(all.end(), right.begin(), right.end());
  const std::string expected = all[0].text + "\n\n" + lines_of(left) + "\n\n" + lines_of(right);
  CHECK(text(all) == expected);
  std::mt19937 random(7);
  for (int i = 0; i < 5; ++i) {
    std::shuffle(all.begin(), all.end(), random);
    CHECK(text(all) == expected);
  }
}

TEST_CASE("what stands over all columns parts what is above from what is below", "[text]") {
  const auto first = column(50, 100, "a", 5);
  const auto second = column(310, 100, "b", 5);
  const Shown heading{50, 190, "A heading across the page, from one margin to the other, and on"};
  const auto third = column(50, 230, "c", 5);
  const auto fourth = column(310, 230, "d", 5);
  std::vector<Shown> all;
  for (const auto& part : {first, second, std::vector<Shown>{heading}, third, fourth})
    all.insert(all.end(), part.begin(), part.end());
  CHECK(text(all) == lines_of(first) + "\n\n" + lines_of(second) + "\n\n" + heading.text + "\n\n" +
                         lines_of(third) + "\n\n" + lines_of(fourth));
}

TEST_CASE("tables are read row by row, with cells of several lines", "[text]") {
  const std::vector<Shown> table = {{50, 100, "Bridge"}, {200, 100, "Built"}, {300, 100, "Remarks"},
                                    {50, 120, "Alder"},  {200, 120, "1961"},  {300, 120, "hangers"},
                                    {300, 132, "worn"},  {50, 152, "Pell"},   {200, 152, "1934"},
                                    {300, 152, "none"}};
  // The second line of a cell is drawn before the next row's first cell.
  const PageWords words = words_of(table);
  CHECK(words.text() == "Bridge\tBuilt\tRemarks\nAlder\t1961\thangers\n\t\tworn\nPell\t1934\tnone");
  CHECK(words.line(0).is_row);
  CHECK(words.word(1).column == 1);
  CHECK(words.word(2).column == 2);
  // Where it is drawn before what stands beside it, it is known to be of one row.
  std::vector<Shown> wrapped = {{50, 100, "Bridge"}, {200, 100, "Built"}, {50, 120, "Alder"},
                                {50, 132, "Weir"},   {200, 120, "1961"},  {50, 152, "Pell"},
                                {200, 152, "1934"}};
  CHECK(text(wrapped) == "Bridge\tBuilt\nAlder Weir\t1961\nPell\t1934");
}

TEST_CASE("lines that are drawn part the rows and cells of a table", "[text]") {
  // Cells of several lines, drawn column by column, as close as prose.
  const std::vector<Shown> cells = {
      {50, 100, "Alder Weir"}, {50, 112, "footbridge"}, {50, 130, "Pell"},
      {50, 142, "crossing"},   {50, 160, "Tannery"},    {200, 100, "hangers are worn"},
      {200, 112, "and bolts"}, {200, 130, "nothing"},   {200, 160, "slippery"}};
  test::PdfBuilder pdf;
  pdf.page(drawn(cells) +
               "40 682 400 .5 re f 40 648 m 190 648 l "
               "190 648 m 440 648 l S",
           kFonts);
  CHECK(text_of(test::open(pdf.finish())->page(0).value()).value() ==
        "Alder Weir footbridge\thangers are worn and bolts\nPell crossing\tnothing\n"
        "Tannery\tslippery");
  // What stands above the first line and below the last in one column is not of it.
  test::PdfBuilder between;
  between.page(drawn({{50, 90, "valid now"},
                      {50, 104, "Who"},
                      {200, 104, "Crowns"},
                      {50, 120, "Cow"},
                      {200, 120, "3.50"},
                      {50, 136, "Cart"},
                      {200, 136, "1.00"},
                      {50, 152, "Ring twice"}}) +
                   "40 692 m 300 692 l S 40 676 m 300 676 l S",
               kFonts);
  CHECK(text_of(test::open(between.finish())->page(0).value()).value() ==
        "valid now\n\nWho\tCrowns\nCow\t3.50\nCart\t1.00\n\nRing twice");
  // A line right on a baseline underlines it.
  test::PdfBuilder under;
  under.page(drawn({{50, 100, "Cow"},
                    {200, 100, "3.50"},
                    {50, 120, "Cart"},
                    {200, 120, "1.00"},
                    {50, 140, "Goat"},
                    {200, 140, "0.80"}}) +
                 "40 700 m 300 700 l S 40 680 m 300 680 l S",
             kFonts);
  CHECK(text_of(test::open(under.finish())->page(0).value()).value() ==
        "Cow\t3.50\nCart\t1.00\nGoat\t0.80");
  // Columns as close as words, with a line between.
  test::PdfBuilder narrow;
  narrow.page(
      drawn({{50, 100, "Built"}, {84, 100, "Length"}, {50, 112, "1961"}, {84, 112, "42.5 m"}}) +
          "82 720 m 82 670 l S",
      kFonts);
  CHECK(text_of(test::open(narrow.finish())->page(0).value()).value() ==
        "Built\tLength\n1961\t42.5 m");
  // Close to each other, with a line between.
  test::PdfBuilder close;
  close.page(drawn({{50, 100, "left"}, {78, 100, "right"}}) + "76 720 m 76 680 l S", kFonts);
  CHECK(text_of(test::open(close.finish())->page(0).value()).value() == "left right");
}

TEST_CASE("lines above and below a table are not of it", "[text]") {
  CHECK(text({{50, 100, "What the ferry costs:"},
              {50, 112, "valid now"},
              {50, 140, "Cow"},
              {250, 140, "3.50"},
              {50, 155, "Cart"},
              {250, 155, "1.00"},
              {50, 190, "Ring twice."}}) ==
        "What the ferry costs:\nvalid now\n\nCow\t3.50\nCart\t1.00\n\nRing twice.");
}

TEST_CASE("what is written from right to left is read so, columns and numbers too", "[text]") {
  // On paper from left to right: DCBA 12 CBA.
  CHECK(text({{50, 100, "DCBA 12 CBA", 10, "U"}}) == "אבג 12 אבגד");
  CHECK(text({{50, 100, "DCBA", 10, "U"},
              {250, 100, "BA", 10, "U"},
              {50, 112, "HGFE", 10, "U"},
              {250, 112, "DC", 10, "U"}}) == "אב\tאבגד\nגד\tהוזח");
  // Letters that are placed one by one, from the right.
  CHECK(text({{68, 100, "A", 10, "U"}, {62, 100, "B", 10, "U"}, {56, 100, "C", 10, "U"}}) == "אבג");
}

TEST_CASE("letters shown twice to look bold are there once", "[text]") {
  CHECK(text({{50, 100, "Bold"}, {50.4, 100, "Bold"}}) == "Bold");
  CHECK(text({{50, 100, "aaaa"}}) == "aaaa");
}

TEST_CASE("letters that are spaced out are one word", "[text]") {
  test::PdfBuilder pdf;
  pdf.page("BT /F 10 Tf 4 Tc 20 700 Td (INSPECTION) Tj ET", kFonts);
  CHECK(text_of(test::open(pdf.finish())->page(0).value()).value() == "INSPECTION");
}

TEST_CASE("narrow blanks part words where letters stand close", "[text]") {
  test::PdfBuilder pdf;
  pdf.page("BT /F 10 Tf 20 700 Td [(hangers) -130 (of) -150 (the) -130 (bridge)] TJ ET", kFonts);
  CHECK(text_of(test::open(pdf.finish())->page(0).value()).value() == "hangers of the bridge");
}

TEST_CASE("a heading a little larger than what follows is a block of its own", "[text]") {
  CHECK(text({{50, 100, "Core drivers", 14},
              {50, 118, "The core library", 12},
              {50, 132, "is always built", 12}}) ==
        "Core drivers\n\nThe core library\nis always built");
}
