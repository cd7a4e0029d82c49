// SPDX-License-Identifier: Apache-2.0
// The order in which pages are read, whatever order they were drawn in.
#include <algorithm>
#include <array>
#include <random>

#include "tests/support/catch.h"
#include "tests/support/shown_text.h"

using namespace lumvet;
using namespace test;

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
  PdfBuilder pdf;
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
  CHECK(PageWords::of(open(pdf.finish())->page(0).value())->text() ==
        "The table has the readings of the piers\n\nPier\tDepth\tReading\n"
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

TEST_CASE("below a line that is drawn across all columns comes what follows them", "[text]") {
  const auto left = column(50, 100, "left", 5);
  const auto right = column(310, 100, "right", 5);
  const Shown note{50, 180, "1 The note below both of them.", 8};
  std::vector<Shown> all = left;
  all.insert(all.end(), right.begin(), right.end());
  all.push_back(note);
  PdfBuilder pdf;
  pdf.page("50 634 m 560 634 l S\n" + drawn(all), kFonts);
  CHECK(PageWords::of(open(pdf.finish())->page(0).value())->text() ==
        lines_of(left) + "\n\n" + lines_of(right) + "\n\n" + note.text);
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

TEST_CASE("what stands beside lines, a little higher or lower, is read with them", "[text]") {
  CHECK(text({{50, 100, "The commands of the valley"},
              {60, 136, "remarks"},
              {150, 130, "The boat has no engine"},
              {150, 142, "and must be towed"},
              {50, 180, "Nothing else."}}) ==
        "The commands of the valley\n\nremarks\tThe boat has no engine and must be towed\n\n"
        "Nothing else.");
  CHECK(text({{100, 93, "a + b"}, {60, 100, "y ="}, {106, 107, "2c"}}) == "y = a + b 2c");
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
  PdfBuilder pdf;
  pdf.page("BT /F 10 Tf 4 Tc 20 700 Td (INSPECTION) Tj ET", kFonts);
  CHECK(text_of(open(pdf.finish())->page(0).value()).value() == "INSPECTION");
}

TEST_CASE("narrow blanks part words where letters stand close", "[text]") {
  PdfBuilder pdf;
  pdf.page("BT /F 10 Tf 20 700 Td [(hangers) -130 (of) -150 (the) -130 (bridge)] TJ ET", kFonts);
  CHECK(text_of(open(pdf.finish())->page(0).value()).value() == "hangers of the bridge");
}

TEST_CASE("a heading a little larger than what follows is a block of its own", "[text]") {
  CHECK(text({{50, 100, "Core drivers", 14},
              {50, 118, "The core library", 12},
              {50, 132, "is always built", 12}}) ==
        "Core drivers\n\nThe core library\nis always built");
}

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
  PdfBuilder pdf;
  pdf.page("BT " + capital + lines + "ET",
           "/MediaBox[0 0 600 800]/Resources<</Font<</F<</Type/Font/Subtype/Type1/BaseFont"
           "/Helvetica>>>>>>");
  const PageWords words = PageWords::of(open(pdf.finish())->page(0).value()).value();
  const auto quads = words.quads(0, 3);
  REQUIRE(quads.size() == 3);
  CHECK(quads[0][0].x < 60);
  CHECK(quads[1][0].x >= 74);
  CHECK(quads[0][3].y - quads[0][0].y > 30);
  CHECK(quads[1][3].y - quads[1][0].y < 16);
}

TEST_CASE("cards below a text and its aside are read card by card, whichever line is too long",
          "[text]") {
  // Only the last line of the cards crosses what is free beside the aside.
  std::vector<Shown> page = column(50, 100, "main", 6);
  page.push_back({50, 184, "Cards", 14});
  const double aside = 50 + 35 * 6 + 12;
  for (int i = 0; i < 4; ++i)
    page.push_back(
        {aside, 100.0 + 12 * i, "note" + std::to_string(i) + " stands aside of the text"});
  const std::array<std::array<const char*, 3>, 3> cards = {
      {{"Verlan", "28.5 m", "good"},
       {"Merrow", "19 m", "closed"},
       {"Tarn", "7 m", "all the boards are new"}}};
  std::string expected;
  for (std::size_t card = 0; card < cards.size(); ++card) {
    expected += card == 0 ? "" : "\n\n";
    for (std::size_t line = 0; line < 3; ++line) {
      page.push_back({50 + 75.0 * static_cast<double>(card), 206 + 12.0 * static_cast<double>(line),
                      cards[card][line]});
      expected += std::string(line == 0 ? "" : "\n") + cards[card][line];
    }
  }
  const std::string said = text(page);
  INFO(said);
  CHECK(said.ends_with(expected));
}
