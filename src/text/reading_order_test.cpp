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

TEST_CASE("text beside a note in the margin is read to its end, whatever stands above", "[text]") {
  std::vector<Shown> prose;
  std::vector<Shown> note;
  for (int i = 0; i < 6; ++i)
    prose.push_back({50, 130 + 14.0 * i, std::to_string(i) + " all hangers were measured by hand"});
  for (int i = 0; i < 5; ++i)
    note.push_back({300, 137 + 14.0 * i, std::to_string(i) + " call the office"});
  // Further to the left than the note, and than the longest line reaches.
  prose[3].text += " too";
  std::vector<Shown> all = prose;
  all.insert(all.end(), note.begin(), note.end());
  all.push_back({50, 90, "Inspection"});
  all.push_back({275, 110, "Hollin Mill, 14 October"});
  CHECK(text(all) ==
        "Inspection\n\nHollin Mill, 14 October\n\n" + lines_of(prose) + "\n\n" + lines_of(note));
}

TEST_CASE("a table is read apart from the text beside it", "[text]") {
  const std::vector<Shown> table = {{50, 100, "Station"}, {150, 100, "101"},   {200, 100, "103"},
                                    {50, 118, "Mill"},    {150, 118, "05:12"}, {200, 118, "06:12"},
                                    {50, 136, "Harn"},    {150, 136, "05:31"}, {200, 136, "06:31"},
                                    {50, 154, "Weir"},    {150, 154, "05:40"}, {200, 154, "06:40"}};
  const std::vector<Shown> notes = {
      {300, 107, "Notes"}, {300, 122, "On market days"}, {300, 134, "all trains stop."}};
  const bool first = GENERATE(true, false);
  std::vector<Shown> all = first ? table : notes;
  const std::vector<Shown>& rest = first ? notes : table;
  all.insert(all.end(), rest.begin(), rest.end());
  CHECK(text(all) ==
        "Station\t101\t103\nMill\t05:12\t06:12\nHarn\t05:31\t06:31\nWeir\t05:40\t06:40\n\n"
        "Notes\nOn market days\nall trains stop.");
}

TEST_CASE("turned lines are read where they stand", "[text]") {
  const auto turned = [](double x, double y, const std::string& text) {
    return "BT /F 10 Tf 0 1 -1 0 " + std::to_string(x) + " " + std::to_string(800 - y) + " Tm (" +
           text + ") Tj ET\n";
  };
  // Heads of a table, the label beside a drawing, and a note in the margin.
  test::PdfBuilder pdf;
  pdf.page(drawn({{100, 100, "The table has the readings of the piers"},
                  {100, 200, "P1"},
                  {160, 200, "12.0"},
                  {220, 200, "101.2"},
                  {100, 215, "P2"},
                  {160, 215, "14.5"},
                  {220, 215, "101.0"},
                  {100, 260, "The drawing has them over the years"},
                  {100, 400, "Figure 1, over the years"}}) +
               turned(106, 185, "Pier") + turned(176, 185, "Depth") + turned(236, 185, "Reading") +
               turned(130, 360, "Settlement") + turned(40, 500, "Ostrel"),
           kFonts);
  CHECK(PageWords::of(test::open(pdf.finish())->page(0).value())->text() ==
        "The table has the readings of the piers\n\nPier\n\nDepth\n\nReading\n\n"
        "P1\t12.0\t101.2\nP2\t14.5\t101.0\n\nThe drawing has them over the years\n\n"
        "Settlement\n\nFigure 1, over the years\n\nOstrel");
}

TEST_CASE("a paragraph below columns begins with its own first line", "[text]") {
  const std::vector<Shown> left = column(50, 100, "left", 4);
  const std::vector<Shown> right = column(320, 100, "right", 4);
  // Its first line is short, and stands below one column only; the next one crosses both.
  const Shown first{50, 160, "Opening times"};
  const Shown next{70, 172, "of the swing bridge, which is closed for ships in winter, by day"};
  std::vector<Shown> all = left;
  all.insert(all.end(), right.begin(), right.end());
  all.insert(all.end(), {first, next});
  CHECK(text(all) == lines_of(left) + "\n\n" + lines_of(right) + "\n\nOpening times\n" + next.text);
  // The same below three columns, of which it crosses two.
  std::vector<Shown> three;
  std::string in_turn;
  for (int i = 0; i < 3; ++i) {
    const auto lines = column(50 + 170 * i, 100, std::string(1, static_cast<char>('p' + i)), 4);
    std::vector<Shown> narrow = lines;
    for (Shown& line : narrow) line.text = line.text.substr(0, 24);
    three.insert(three.end(), narrow.begin(), narrow.end());
    in_turn += lines_of(narrow) + "\n\n";
  }
  three.push_back({50, 170, "of the swing bridge, by day and night"});
  three.push_back({50, 182, "in winter too"});
  CHECK(text(three) == in_turn + "of the swing bridge, by day and night\nin winter too");
  // As close as the lines of the column, it belongs to that.
  all[all.size() - 2].y = 148;
  CHECK_THAT(text(all), Catch::StartsWith(lines_of(left) + "\nOpening times\n\n"));
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

TEST_CASE("between the frames of cells there is no column", "[text]") {
  // A frame around the table, and two lines around each cell.
  std::string frames = "40 640 226 84 re S ";
  for (const int x : {42, 154})
    for (const int y : {642, 683}) {
      frames += std::to_string(x) + " " + std::to_string(y) + " 110 39 re S ";
      frames += std::to_string(x + 2) + ".2 " + std::to_string(y + 2) + ".2 105.6 34.6 re S ";
    }
  test::PdfBuilder pdf;
  pdf.page(drawn({{60, 100, "Built"}, {180, 100, "Length"}, {60, 140, "1961"}, {180, 140, "42"}}) +
               frames,
           kFonts);
  CHECK(text_of(test::open(pdf.finish())->page(0).value()).value() == "Built\tLength\n1961\t42");
}

TEST_CASE("the last row of a table has all lines of its cells", "[text]") {
  CHECK(text({{50, 100, "Part"},
              {250, 100, "Price"},
              {50, 120, "Bolts"},
              {250, 120, "2.15"},
              {50, 140, "Nuts with"},
              {50, 152, "washers"},
              {250, 140, "0.90"}}) == "Part\tPrice\nBolts\t2.15\nNuts with washers\t0.90");
}

TEST_CASE("tables that are drawn column by column are read row by row", "[text]") {
  const std::vector<std::string> names = {"arrowhead", "color", "dir", "label", "layer", "style"};
  const std::vector<std::string> uses = {"what it ends with", "of the line",   "which way it goes",
                                         "what it says",      "where it lies", "how it is drawn"};
  std::vector<Shown> left;
  std::vector<Shown> right;
  std::string expected = "Name\tUse";
  double y = 120;
  for (std::size_t i = 0; i < names.size(); ++i, y += 12) {
    left.push_back({50, y, names[i]});
    right.push_back({200, y, uses[i]});
    expected += "\n" + names[i] + "\t" + uses[i];
    if (i != 3) continue;
    // One cell has a second line.
    right.push_back({200, y += 12, "at its middle"});
    expected += "\n\tat its middle";
  }
  std::vector<Shown> all = {{50, 100, "Name"}, {200, 100, "Use"}};
  all.insert(all.end(), left.begin(), left.end());
  all.insert(all.end(), right.begin(), right.end());
  test::PdfBuilder pdf;
  const std::string lines = "40 695 300 0.5 re 40 692 300 0.5 re f\n";
  pdf.page(lines + drawn(all), kFonts);
  CHECK(PageWords::of(test::open(pdf.finish())->page(0).value())->text() == expected);
}

TEST_CASE("below a line that is drawn across all columns comes what follows them", "[text]") {
  const auto left = column(50, 100, "left", 5);
  const auto right = column(310, 100, "right", 5);
  const Shown note{50, 180, "1 The note below both of them.", 8};
  std::vector<Shown> all = left;
  all.insert(all.end(), right.begin(), right.end());
  all.push_back(note);
  test::PdfBuilder pdf;
  pdf.page("50 634 m 560 634 l S\n" + drawn(all), kFonts);
  CHECK(PageWords::of(test::open(pdf.finish())->page(0).value())->text() ==
        lines_of(left) + "\n\n" + lines_of(right) + "\n\n" + note.text);
}

TEST_CASE("fields that stand beside each other are read one by one", "[text]") {
  std::vector<Shown> all;
  std::string expected;
  for (int i = 0; i < 3; ++i)
    for (const double x : {50.0, 300.0}) {
      const std::string name = (x < 100 ? "Left " : "Right ") + std::to_string(i);
      all.push_back({x, 100 + 40.0 * i, name, 8});
      all.push_back({x, 112 + 40.0 * i, "filled in"});
      expected += (all.size() == 2 ? "" : x < 100 ? "\n" : "\t") + name + " filled in";
    }
  CHECK(text(all) == expected);
}

TEST_CASE("what stands at the ends of lines is read with them", "[text]") {
  // The label at the end of a line is drawn before it.
  CHECK(text({{400, 100, "2019"},
              {50, 100, "Bridge office"},
              {50, 112, "Head of inspections"},
              {50, 124, "Wrote the manual"},
              {400, 140, "2014"},
              {50, 140, "Mill"},
              {50, 152, "Engineer"}}) ==
        "Bridge office\t2019\nHead of inspections\t\nWrote the manual\t\nMill\t2014\n\nEngineer");
}

TEST_CASE("lines between two tables are of none", "[text]") {
  CHECK(text({{50, 100, "IBUF"},
              {150, 100, "16"},
              {200, 100, "input"},
              {50, 112, "OBUF"},
              {150, 112, "16"},
              {200, 112, "output"},
              {50, 140, "The lines have these registers:"},
              {50, 168, "CTL"},
              {150, 168, "1"},
              {200, 168, "device"},
              {50, 180, "FLG"},
              {150, 180, "2"},
              {200, 180, "ready"}}) ==
        "IBUF\t16\tinput\nOBUF\t16\toutput\n\nThe lines have these registers:\n\n"
        "CTL\t1\tdevice\nFLG\t2\tready");
}

TEST_CASE("articles below each other are read one row after the other", "[text]") {
  std::vector<Shown> all;
  std::string expected;
  const auto article = [&](double x, double y, const std::string& name) {
    all.push_back({x, y, name, 14});
    const std::vector<Shown> lines = column(x, y + 18, name, 4);
    all.insert(all.end(), lines.begin(), lines.end());
    expected += (expected.empty() ? "" : "\n\n") + name + "\n\n" + lines_of(lines);
  };
  article(50, 100, "Ferries");
  article(310, 100, "Weather");
  article(50, 186, "Letters");
  article(310, 186, "Answers");
  CHECK(text(all) == expected);
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
  // A number behind Latin letters is read with them, one behind a blank is a number.
  CHECK(text({{50, 100, "DCBA", 10, "U"}, {80, 100, "LX-200"}, {122, 100, "CBA", 10, "U"}}) ==
        "אבג LX-200 אבגד");
  CHECK(text({{50, 100, "DCBA", 10, "U"}, {80, 100, "km 12"}, {116, 100, "CBA", 10, "U"}}) ==
        "אבג 12 km אבגד");
  CHECK(text({{50, 100, "DCBA", 10, "U"},
              {250, 100, "BA", 10, "U"},
              {50, 112, "HGFE", 10, "U"},
              {250, 112, "DC", 10, "U"}}) == "אב\tאבגד\nגד\tהוזח");
  // Far from each other in one line, each goes its own way.
  CHECK(text({{50, 100, "Limit in metres"}, {250, 100, ".LX-9"}, {286, 100, "BA", 10, "U"}}) ==
        "Limit in metres\tאב LX-9.");
  // Letters that are placed one by one, from the right.
  CHECK(text({{68, 100, "A", 10, "U"}, {62, 100, "B", 10, "U"}, {56, 100, "C", 10, "U"}}) == "אבג");
}

TEST_CASE("letters shown twice to look bold are there once", "[text]") {
  CHECK(text({{50, 100, "Bold"}, {50.4, 100, "Bold"}}) == "Bold");
  CHECK(text({{50, 100, "aaaa"}}) == "aaaa");
}

TEST_CASE("lines of a paragraph stay together, whatever stands raised in them or lies between",
          "[text]") {
  const std::string whole = "the piers settle when the soil below them gives way";
  const std::string last = "to their load.";
  const std::string next = "Nobody had measured it before, as far as was known.";
  // Some lines are further from the last one, to make room for raised numbers.
  CHECK(text({{50, 100, whole},
              {50, 113.5, whole},
              {50, 130, whole},
              {356, 126.6, "4", 8},
              {50, 143, last},
              {50, 165, next}}) ==
        whole + "\n" + whole + "\n" + whole + "4\n" + last + "\n\n" + next);
  // With empty lines between, paragraphs are further apart still, or are told by nothing.
  std::vector<Shown> apart;
  std::vector<Shown> list;
  for (int i = 0; i < 5; ++i) {
    apart.push_back({50, 100 + 20.0 * i, whole});
    list.push_back({50, 100 + 20.0 * i, next});
  }
  apart.push_back({50, 240, next});
  CHECK(text(apart) == lines_of({apart.begin(), apart.end() - 1}) + "\n\n" + next);
  CHECK(text(list) == next + "\n\n" + next + "\n\n" + next + "\n\n" + next + "\n\n" + next);
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

namespace {

std::string said_on(const std::string& content) {
  test::PdfBuilder pdf;
  pdf.page(content,
           "/MediaBox[0 0 600 800]/Resources<</Font<</F<</Type/Font/Subtype/Type1/BaseFont"
           "/Helvetica>>/C<</Type/Font/Subtype/Type1/BaseFont/Courier>>>>>>");
  return text_of(test::open(pdf.finish())->page(0).value()).value();
}

std::string at(double x, double y, const std::string& text) {
  return "1 0 0 1 " + std::to_string(x) + " " + std::to_string(y) + " Tm (" + text + ") Tj ";
}

}  // namespace

TEST_CASE("a large letter at the head of a paragraph belongs to its first line", "[text]") {
  const std::string lines = at(75, 700, "he office of the bridges") +
                            at(75, 686, "looks at each of the hangers") +
                            at(50, 672, "once a year, and writes it down.");
  const std::string capital = "/F 34 Tf " + at(52, 686, "T") + "/F 11 Tf ";
  const char* said =
      "The office of the bridges\nlooks at each of the hangers\n"
      "once a year, and writes it down.";
  CHECK(said_on("BT " + capital + lines + "ET") == said);
  CHECK(said_on("BT /F 11 Tf " + lines + capital + "ET") == said);
  // Its quad is its own.
  test::PdfBuilder pdf;
  pdf.page("BT " + capital + lines + "ET",
           "/MediaBox[0 0 600 800]/Resources<</Font<</F<</Type/Font/Subtype/Type1/BaseFont"
           "/Helvetica>>>>>>");
  const PageWords words = PageWords::of(test::open(pdf.finish())->page(0).value()).value();
  const auto quads = words.quads(0, 3);
  REQUIRE(quads.size() == 3);
  CHECK(quads[0][0].x < 60);
  CHECK(quads[1][0].x >= 74);
  CHECK(quads[0][3].y - quads[0][0].y > 30);
  CHECK(quads[1][3].y - quads[1][0].y < 16);
}

TEST_CASE("narrow columns are told from words by what stands above them", "[text]") {
  // The second and third column are six points apart, as words may be too.
  std::string table = "BT /F 10 Tf ";
  const char* rows[][3] = {{"Bridge", "dead", "live"},
                           {"Alder Weir", "12.4", "3.1"},
                           {"Merrow Ford", "22.4", "5.1"},
                           {"Pell", "9.0", "1.1"}};
  for (int row = 0; row < 4; ++row)
    table += at(50, 700 - 16 * row, rows[row][0]) + at(140, 700 - 16 * row, rows[row][1]) +
             at(168, 700 - 16 * row, rows[row][2]);
  CHECK(said_on(table + "ET") ==
        "Bridge\tdead\tlive\nAlder Weir\t12.4\t3.1\nMerrow Ford\t22.4\t5.1\nPell\t9.0\t1.1");
  // Prose that is spread to its margin has wide gaps too, of which few stand above each other.
  const std::string prose =
      "BT /F 10 Tf 4 Tw 14 TL 50 700 Td (one of the many bridges) Tj T* "
      "(that were looked at again) Tj T* (in this and the next) Tj T* "
      "(month has worn bearings) Tj ET";
  CHECK(said_on(prose).find('\t') == std::string::npos);
  // Letters of one width stand above each other, and so do their blanks.
  CHECK(said_on("BT /C 10 Tf 14 TL 50 700 Td (one two six ten) Tj T* (let the cat out) Tj T* "
                "(who can see him) Tj T* (not for you man) Tj ET")
            .find('\t') == std::string::npos);
}

TEST_CASE("cells that take several columns are told, with and without lines", "[text]") {
  std::string table = "BT /F 10 Tf ";
  table += at(160, 716, "Loads in kN");
  for (int row = 0; row < 5; ++row) {
    const double y = 700 - 16 * row;
    table += at(50, y, "Bridge " + std::to_string(row)) + at(150, y, std::to_string(row + 10)) +
             at(200, y, std::to_string(row + 20));
  }
  table += "ET";
  const auto words_of = [](const std::string& content) {
    test::PdfBuilder pdf;
    pdf.page(content,
             "/MediaBox[0 0 600 800]/Resources<</Font<</F<</Type/Font/Subtype/Type1/BaseFont"
             "/Helvetica>>>>>>");
    return PageWords::of(test::open(pdf.finish())->page(0).value()).value();
  };
  const PageWords plain = words_of(table);
  CHECK(plain.text().starts_with("\tLoads in kN\t\nBridge 0\t10\t20\n"));
  CHECK(plain.word(0).column == 1);
  CHECK(plain.word(0).columns == 2);
  CHECK(plain.word(3).columns == 1);
  // The same with lines around all cells, of which one takes two rows.
  std::string lines = "0.5 w ";
  const auto line = [&](double x0, double y0, double x1, double y1) {
    lines += std::to_string(x0) + " " + std::to_string(y0) + " m " + std::to_string(x1) + " " +
             std::to_string(y1) + " l S ";
  };
  line(40, 728, 240, 728);
  line(140, 712, 240, 712);
  for (int row = 1; row < 4; ++row) line(40, 712 - 16 * row, 240, 712 - 16 * row);
  line(40, 664, 40, 728);
  line(140, 664, 140, 728);
  line(190, 664, 190, 712);
  line(240, 664, 240, 728);
  const PageWords ruled = words_of(
      lines + "BT /F 10 Tf " + at(50, 708, "Bridge") + at(160, 716, "Loads") +
      at(150, 700, "dead") + at(200, 700, "live") + at(50, 684, "Alder") + at(150, 684, "1") +
      at(200, 684, "2") + at(50, 668, "Pell") + at(150, 668, "3") + at(200, 668, "4") + "ET");
  CHECK(ruled.text() == "Bridge\tLoads\t\n\tdead\tlive\nAlder\t1\t2\nPell\t3\t4");
  CHECK(ruled.word(1).columns == 2);
}

TEST_CASE("lines of a cell go on without a blank where the script has none", "[text]") {
  test::PdfBuilder pdf;
  pdf.page(
      "0.5 w 40 720 m 240 720 l S 40 680 m 240 680 l S 40 640 m 240 640 l S 40 640 m 40 720 l S "
      "140 640 m 140 720 l S 240 640 m 240 720 l S BT /J 10 Tf 50 705 Td <00410042> Tj 0 -12 Td "
      "<00430044> Tj 100 12 Td <0041> Tj -100 -40 Td <0042> Tj 100 0 Td <0043> Tj ET",
      "/MediaBox[0 0 600 800]/Resources<</Font<</J 9 0 R>>>>");
  pdf.object(9,
             "<</Type/Font/Subtype/Type0/BaseFont/Ostrel/Encoding/Identity-H/ToUnicode 11 0 R"
             "/DescendantFonts[<</Type/Font/Subtype/CIDFontType2/BaseFont/Ostrel/DW 1000"
             "/CIDSystemInfo<</Registry(Adobe)/Ordering(Identity)/Supplement 0>>>>]>>");
  pdf.stream(11, "",
             "1 begincodespacerange <0000><FFFF> endcodespacerange 1 beginbfrange <0041> <0044> "
             "<6A4B> endbfrange");
  const PageWords words = PageWords::of(test::open(pdf.finish())->page(0).value()).value();
  CHECK(words.text() == "橋橌橍橎\t橋\n橌\t橍");
  // Of the two lines there are two words, each where it stands.
  REQUIRE(words.word_count() == 5);
  CHECK(words.word(0).end == words.word(1).begin);
  CHECK(words.word(1).quad[0].y > words.word(0).quad[0].y + 10);
}

TEST_CASE("a heading between the rows of a table is none of them", "[text]") {
  std::string table = "BT /F 10 Tf ";
  const auto rows = [&](double top) {
    for (int row = 0; row < 3; ++row)
      table += at(50, top - 14 * row, "Bridge " + std::to_string(row)) +
               at(180, top - 14 * row, std::to_string(row + 10));
  };
  rows(700);
  table += "/F 14 Tf " + at(50, 652, "Weirs") + "/F 10 Tf ";
  rows(634);
  CHECK(said_on(table + "ET") ==
        "Bridge 0\t10\nBridge 1\t11\nBridge 2\t12\n\nWeirs\n\nBridge 0\t10\nBridge 1\t11\n"
        "Bridge 2\t12");
  // Drawn down the columns but for the last row, which goes back over the heading.
  CHECK(said_on("BT /F 10 Tf " + at(50, 700, "one") + at(50, 686, "two") + "/F 14 Tf " +
                at(50, 668, "Weirs") + "/F 10 Tf " + at(50, 650, "three") + at(180, 700, "10") +
                at(180, 686, "11") + at(180, 650, "13") + "ET")
            .find("Weirs") != std::string::npos);
}

TEST_CASE("a column that has a head only is one", "[text]") {
  std::string table =
      "BT /F 10 Tf " + at(50, 716, "Bridge") + at(150, 716, "Length") + at(230, 716, "Grade");
  for (int row = 0; row < 3; ++row)
    table += at(50, 700 - 16 * row, "Pell " + std::to_string(row)) +
             at(150, 700 - 16 * row, std::to_string(row + 10));
  CHECK(said_on(table + "ET") == "Bridge\tLength\tGrade\nPell 0\t10\t\nPell 1\t11\t\nPell 2\t12\t");
}
