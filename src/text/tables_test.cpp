// SPDX-License-Identifier: Apache-2.0
// Tables are told by the lines that are drawn and by what stands in line, and read row by row.
#include "tests/support/catch.h"
#include "tests/support/shown_text.h"

using namespace lumvet;
using namespace test;

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
  PdfBuilder pdf;
  pdf.page(drawn(cells) +
               "40 682 400 .5 re f 40 648 m 190 648 l "
               "190 648 m 440 648 l S",
           kFonts);
  CHECK(text_of(open(pdf.finish())->page(0).value()).value() ==
        "Alder Weir footbridge\thangers are worn and bolts\nPell crossing\tnothing\n"
        "Tannery\tslippery");
  // What stands above the first line and below the last in one column is not of it.
  PdfBuilder between;
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
  CHECK(text_of(open(between.finish())->page(0).value()).value() ==
        "valid now\n\nWho\tCrowns\nCow\t3.50\nCart\t1.00\n\nRing twice");
  // A line right on a baseline underlines it.
  PdfBuilder under;
  under.page(drawn({{50, 100, "Cow"},
                    {200, 100, "3.50"},
                    {50, 120, "Cart"},
                    {200, 120, "1.00"},
                    {50, 140, "Goat"},
                    {200, 140, "0.80"}}) +
                 "40 700 m 300 700 l S 40 680 m 300 680 l S",
             kFonts);
  CHECK(text_of(open(under.finish())->page(0).value()).value() ==
        "Cow\t3.50\nCart\t1.00\nGoat\t0.80");
  // Columns as close as words, with a line between.
  PdfBuilder narrow;
  narrow.page(
      drawn({{50, 100, "Built"}, {84, 100, "Length"}, {50, 112, "1961"}, {84, 112, "42.5 m"}}) +
          "82 720 m 82 670 l S",
      kFonts);
  CHECK(text_of(open(narrow.finish())->page(0).value()).value() == "Built\tLength\n1961\t42.5 m");
  // Close to each other, with a line between.
  PdfBuilder close;
  close.page(drawn({{50, 100, "left"}, {78, 100, "right"}}) + "76 720 m 76 680 l S", kFonts);
  CHECK(text_of(open(close.finish())->page(0).value()).value() == "left right");
}

TEST_CASE("between the frames of cells there is no column", "[text]") {
  // A frame around the table, and two lines around each cell.
  std::string frames = "40 640 226 84 re S ";
  for (const int x : {42, 154})
    for (const int y : {642, 683}) {
      frames += std::to_string(x) + " " + std::to_string(y) + " 110 39 re S ";
      frames += std::to_string(x + 2) + ".2 " + std::to_string(y + 2) + ".2 105.6 34.6 re S ";
    }
  PdfBuilder pdf;
  pdf.page(drawn({{60, 100, "Built"}, {180, 100, "Length"}, {60, 140, "1961"}, {180, 140, "42"}}) +
               frames,
           kFonts);
  CHECK(text_of(open(pdf.finish())->page(0).value()).value() == "Built\tLength\n1961\t42");
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
  PdfBuilder pdf;
  const std::string lines = "40 695 300 0.5 re 40 692 300 0.5 re f\n";
  pdf.page(lines + drawn(all), kFonts);
  CHECK(PageWords::of(open(pdf.finish())->page(0).value())->text() == expected);
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

TEST_CASE("rows of a table have lines between them, but for a cell that takes many of them",
          "[text]") {
  std::vector<Shown> all = {{50, 100, "Readings of the bridge", 14},
                            {50, 130, "Bridge"},
                            {250, 130, "Point"},
                            {400, 130, "mm"}};
  std::string lines = "45 662 400 0.5 re 45 126 400 0.5 re ";
  std::string expected = "Readings of the bridge\n\nBridge\tPoint\tmm";
  for (int i = 0; i < 30; ++i) {
    const double y = 150 + 17.0 * i;
    if (i == 0) all.push_back({50, y, "Alder Weir"});
    all.push_back({250, y, "P " + std::to_string(i)});
    all.push_back({400, y, std::to_string(i * 7)});
    lines += "240 " + std::to_string(800 - y - 5) + " 200 0.5 re ";
    expected += "\n" + std::string(i == 0 ? "Alder Weir" : "") + "\tP " + std::to_string(i) + "\t" +
                std::to_string(i * 7);
  }
  PdfBuilder pdf;
  pdf.page(lines + "f\n" + drawn(all), kFonts);
  CHECK(lumvet::PageWords::of(open(pdf.finish())->page(0).value())->text() == expected);
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

TEST_CASE("tables beside each other on the same lines are read one after the other", "[text]") {
  std::vector<Shown> all;
  std::string expected;
  for (const double x : {50.0, 300.0})
    for (int i = 0; i < 6; ++i) {
      // Half of the lines of the second one are lines of the first, too.
      const double y = 100 + 12.0 * i + (x > 100 && i > 2 ? 6 : 0);
      all.push_back({x, y, x < 100 ? "beam" : "deck"});
      all.push_back({x + 120, y, std::to_string(i)});
      expected += (i > 0     ? "\n"
                   : x < 100 ? ""
                             : "\n\n") +
                  all[all.size() - 2].text + "\t" + std::to_string(i);
    }
  CHECK(text(all) == expected);
}

TEST_CASE("a paragraph above a table keeps its last line, and a heading is above the table",
          "[text]") {
  const std::string first = "The link devices can be told to write what they do to the file of";
  PdfBuilder pdf;
  pdf.page("50 712 m 500 712 l S 50 600 m 500 600 l S 50 580 m 500 580 l S\n" +
               drawn({{50, 80, "Minutes of the council"},
                      {50, 100, first},
                      {50, 112, "the office:"},
                      {50, 140, "Items", 14},
                      {50, 180, "1"},
                      {90, 180, "The boat leaks and"},
                      {90, 192, "cannot be mended."},
                      {400, 180, "Ardeck"},
                      {50, 214, "2"},
                      {90, 214, "Nothing else."},
                      {400, 214, "Venn"}}),
           kFonts);
  CHECK(lumvet::PageWords::of(open(pdf.finish())->page(0).value())->text() ==
        "Minutes of the council\n\n" + first +
            "\nthe office:\n\nItems\n\n"
            "1\tThe boat leaks and cannot be mended.\tArdeck\n2\tNothing else.\tVenn");
  CHECK(text({{50, 100, first},
              {50, 112, "the office:"},
              {50, 140, "SET LINK"},
              {250, 140, "begin"},
              {50, 152, "SET NOLINK"},
              {250, 152, "end"}}) == first + "\nthe office:\n\nSET LINK\tbegin\nSET NOLINK\tend");
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
    PdfBuilder pdf;
    pdf.page(content,
             "/MediaBox[0 0 600 800]/Resources<</Font<</F<</Type/Font/Subtype/Type1/BaseFont"
             "/Helvetica>>>>>>");
    return PageWords::of(open(pdf.finish())->page(0).value()).value();
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
  PdfBuilder pdf;
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
  const PageWords words = PageWords::of(open(pdf.finish())->page(0).value()).value();
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

TEST_CASE("turned heads are cells of their table's first row", "[text]") {
  const std::vector<Shown> rows = {{50, 200, "Station"}, {50, 220, "Mill"}, {160, 220, "1.20"},
                                   {220, 220, "9.5"},    {50, 240, "Harn"}, {160, 240, "0.95"},
                                   {220, 240, "8.7"}};
  // `matrix` turns the letters; to the left they are read upward, to the right downward.
  const auto turned = [](const char* matrix, double x, double y, const std::string& text) {
    return "BT /F 10 Tf " + std::string(matrix) + " " + std::to_string(x) + " " +
           std::to_string(800 - y) + " Tm (" + text + ") Tj ET\n";
  };
  const bool is_upward = GENERATE(true, false);
  const auto head = [&](double x, const std::string& text) {
    return is_upward ? turned("0 1 -1 0", x + 8, 202, text) : turned("0 -1 1 0", x, 162, text);
  };
  const std::string ruled =
      "40 675 m 260 675 l 40 595 m 260 595 l 40 573 m 260 573 l 40 553 m 260 553 l "
      "40 553 m 40 675 l 150 553 m 150 675 l 210 553 m 210 675 l 260 553 m 260 675 l S ";
  PdfBuilder pdf;
  // Words beside the rows are no heads.
  pdf.page(drawn(rows) + ruled + head(165, "Level, m") + head(222, "Air") +
               turned("0 1 -1 0", 30, 245, "Gauges"),
           kFonts);
  const PageWords words = PageWords::of(open(pdf.finish())->page(0).value()).value();
  INFO(words.text());
  CHECK(tables_as_csv(words) == "Station,\"Level, m\",Air\r\nMill,1.20,9.5\r\nHarn,0.95,8.7\r\n");
  CHECK(words.word(1).column == 1);
  CHECK(words.word(3).column == 2);
  CHECK(words.line(0).is_row);
  CHECK(words.text().ends_with("Gauges"));
  // Slanted ones stand over their columns with their lower ends.
  const std::vector<Shown> below(rows.begin() + 1, rows.end());
  PdfBuilder slanted;
  slanted.page(drawn(below) + turned(".7 .7 -.7 .7", 170, 205, "Level, m") +
                   turned(".7 .7 -.7 .7", 230, 205, "Air"),
               kFonts);
  CHECK(tables_as_csv(PageWords::of(open(slanted.finish())->page(0).value()).value()) ==
        ",\"Level, m\",Air\r\nMill,1.20,9.5\r\nHarn,0.95,8.7\r\n");
}
