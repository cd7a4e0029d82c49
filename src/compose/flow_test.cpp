// SPDX-License-Identifier: Apache-2.0
// Flows over pages: where they break, what comes again, what the contents say.
#include <algorithm>

#include "lumvet/render/render.h"
#include "lumvet/text/tagged_text.h"
#include "tests/support/flows.h"

using namespace test;

TEST_CASE("a paragraph goes on over pages, and leaves no line alone", "[compose]") {
  // Of 21 lines the last two go together.
  for (const auto& [count, first] :
       std::vector<std::pair<int, int>>{{20, 20}, {21, 19}, {22, 20}}) {
    Flow flow(small());
    flow.add(lines(count));
    const auto pages = texts_of(flow);
    CHECK(lines_in(pages[0]) == first);
    CHECK(pages.size() == (count > 20 ? 2 : 1));
  }
  // Nor the first one at the foot.
  Flow flow(small());
  flow.add(lines(19));
  flow.add(lines(5));
  CHECK(lines_in(texts_of(flow)[0]) == 19);
  Flow together(small());
  together.add(lines(15));
  together.add(lines(8, {.keeps_together = true}));
  CHECK(lines_in(texts_of(together)[0]) == 15);
}

TEST_CASE("a heading stays with what follows it, and stands in the outline", "[compose]") {
  Flow flow(small());
  flow.add(lines(18));
  flow.add_heading("Costs", 1, "costs");
  flow.add(lines(4));
  Paragraph link("see ", look());
  TextStyle to = look();
  to.link = "#costs";
  flow.add(link.add("the costs", to));
  const Document document = flow.as_document().value();
  const auto pages = texts_of(document);
  REQUIRE(pages.size() == 2);
  CHECK(pages[0].find("Costs") == std::string::npos);
  CHECK(pages[1].starts_with("Costs"));
  const auto outline = document.outline().value();
  REQUIRE(outline.size() == 1);
  CHECK(outline[0].page == 1);
  const auto links = document.page(1)->annotations().value();
  REQUIRE(links.size() == 1);
  CHECK(links[0].destination->page == 1);
}

TEST_CASE("the contents tell the pages on which headings are", "[compose]") {
  Flow flow(small());
  flow.add_contents(2);
  for (int i = 0; i < 30; ++i) {
    flow.add_heading("Part " + std::to_string(i), i % 3 == 0 ? 1 : 2);
    flow.add(lines(6));
  }
  const Document document = flow.as_document().value();
  const auto pages = texts_of(document);
  const auto outline = document.outline().value();
  REQUIRE(outline.size() == 30);
  // The dots that lead to the numbers are not heard.
  std::string heard;
  for (const auto& part : tagged_text(document).value()) heard += part.text + "|";
  CHECK(heard.find("..") == std::string::npos);
  CHECK(heard.find("Part 0") != std::string::npos);
  std::string contents;
  for (int i = 0; i < 2; ++i) contents += pages[static_cast<std::size_t>(i)] + "\n";
  for (const OutlineEntry& entry : outline) {
    const std::size_t at =
        std::min(contents.find(entry.title + " "), contents.find(entry.title + "\t"));
    CAPTURE(entry.title);
    REQUIRE(at != std::string::npos);
    const std::string line = contents.substr(at, contents.find('\n', at) - at);
    CHECK((line.ends_with(" " + std::to_string(*entry.page + 1)) ||
           line.ends_with("\t" + std::to_string(*entry.page + 1))));
    CHECK(pages[static_cast<std::size_t>(*entry.page)].find(entry.title) != std::string::npos);
  }
}

TEST_CASE("heads and feet of pages tell pages and chapters, and are no content", "[compose]") {
  FlowOptions options = small();
  options.title = "Day 12";
  options.header = {.left = "{title}", .right = "{chapter}"};
  options.footer = {.middle = "{page} of {pages}"};
  options.first_page_has_header = false;
  Flow flow(options);
  flow.add_heading("One");
  flow.add(lines(25));
  flow.add_heading("Two");
  flow.add(lines(25));
  const Document document = flow.as_document().value();
  const auto pages = texts_of(document);
  REQUIRE(pages.size() == 3);
  CHECK(pages[0].find("Day 12") == std::string::npos);
  CHECK(pages[1].find("Day 12") != std::string::npos);
  CHECK(pages[2].find("Two") != std::string::npos);
  CHECK(pages[2].find("3 of 3") != std::string::npos);
  std::string said;
  for (const auto& part : tagged_text(document).value()) said += part.text + "|";
  CHECK(said.find(" of 3") == std::string::npos);
  CHECK(lines_in(said) == 50);
  CHECK(said.find("One|line 1") == 0);
  options.footer = {.middle = "{pagee}"};
  CHECK_THAT(Flow(options).as_document().error().message(), Catch::Contains("{pagee}"));
  options.footer = {};
  options.is_tagged = false;
  Flow plain(options);
  plain.add(lines(2));
  CHECK_FALSE(plain.as_document()->structure()->is_marked);
}

TEST_CASE("columns are filled one after the other", "[compose]") {
  FlowOptions options = small();
  options.columns = 2;
  Flow flow(options);
  flow.add(lines(50));
  const Document document = flow.as_document().value();
  CHECK(document.page_count() == 2);
  const PageWords words = PageWords::of(document.page(0).value()).value();
  CHECK(lines_in(words.text()) == 40);
  CHECK(words.text().find("line 1\n") < words.text().find("line 21\n"));
}

TEST_CASE("tables repeat their heads, keep rows whole and say when they are too wide",
          "[compose]") {
  Table table{.columns = {{.width = 40, .share = {}}, {.width = {}, .share = 1}, {}}};
  table.head_rows = 1;
  table.rows.push_back({{{"No.", look()}, {"Measure", look()}, {"Crowns", look()}}, {}});
  for (int i = 1; i <= 40; ++i)
    table.rows.push_back({{{"no " + std::to_string(i), look()},
                           {i % 7 == 0 ? "two\nlines" : "paint", look()},
                           {std::to_string(i * 10), look()}},
                          {}});
  Flow flow(small());
  flow.add(lines(3));
  flow.add(table);
  const Document document = flow.as_document().value();
  const auto pages = texts_of(document);
  REQUIRE(pages.size() > 2);
  int rows = 0;
  for (const std::string& text : pages) {
    CHECK(text.find("Measure") != std::string::npos);
    for (int i = 1; i <= 40; ++i)
      rows += text.find("no " + std::to_string(i) + "\t") != std::string::npos;
  }
  CHECK(rows >= 36);
  // One table, with the head once, for those who hear it.
  const Structure structure = document.structure().value();
  const auto count = [&](const char* role) {
    return std::count_if(structure.elements.begin(), structure.elements.end(),
                         [&](const auto& element) { return element.role == role; });
  };
  CHECK(count("Table") == 1);
  CHECK(count("TR") == 41);
  CHECK(count("TH") == 3);
  CHECK(count("TD") == 120);

  Table wide;
  wide.rows.push_back({{{"Donaudampfschifffahrtsgesellschaft", look()},
                        {"Hottentottenstottertrottelmutter", look()}},
                       {}});
  Flow wrong(small());
  wrong.add(wide);
  CHECK_THAT(wrong.as_document().error().message(),
             Catch::Contains("needs") && Catch::Contains("250"));
  Table uneven;
  uneven.columns.resize(3);
  uneven.rows.push_back({{{"a", look()}}, {}});
  Flow bad(small());
  bad.add(uneven);
  CHECK_FALSE(bad.as_document().ok());
}

TEST_CASE("cells may take several rows and columns", "[compose]") {
  Table table;
  TableCell tall("tall", look());
  tall.rows = 2;
  TableCell wide("wide", look());
  wide.columns = 2;
  table.rows = {{{tall, wide}, {}}, {{{"b", look()}, {"c", look()}}, {}}};
  Flow flow(small());
  flow.add(table);
  const Document document = flow.as_document().value();
  const PageWords words = PageWords::of(document.page(0).value()).value();
  const auto place = [&](const std::string& word) {
    const std::size_t at = words.text().find(word);
    REQUIRE(at != std::string::npos);
    return words.quads(at, at + word.size())[0][0];
  };
  CHECK(place("wide").x == Approx(place("b").x).margin(0.01));
  CHECK(place("c").x > place("b").x);
  CHECK(place("tall").x < place("b").x);
  CHECK(place("b").y > place("wide").y);
  CHECK(place("tall").y == Approx(place("wide").y).margin(0.01));
}

TEST_CASE("a cell of several rows goes on over the end of a page", "[compose]") {
  for (const int count : {90, 20}) {  // lines of the cell; the rows alone are as high as 40
    Table table{.columns = {{.width = 100}, {.width = 100}}, .head_rows = 1, .padding_along = 0};
    table.rows.push_back({.cells = {{"Bridge", look()}, {"Point", look()}}});
    TableCell wide(lines(count));
    wide.rows = 40;
    table.rows.push_back({.cells = {wide, {"P 1", look()}}});
    for (int i = 2; i <= 40; ++i)
      table.rows.push_back({.cells = {{"P " + std::to_string(i), look()}}});
    table.rows.push_back({.cells = {{"next", look()}, {"P 41", look()}}});
    Flow flow(small());
    flow.add(table);
    const Document document = flow.as_document().value();
    std::string all;
    for (int i = 0; i < document.page_count(); ++i) {
      const PageWords words = PageWords::of(document.page(i).value()).value();
      for (std::size_t w = 0; w < words.word_count(); ++w) {
        const Rect place = bounds_of(words.word(w).quad);
        CAPTURE(i, w);
        CHECK(place.top < 276);  // the margin begins at 275
        CHECK(place.bottom > 24);
      }
      all += words.text() + "\n";
    }
    for (int i = 1; i <= count; ++i)
      CHECK(all.find("line " + std::to_string(i)) != std::string::npos);
    CHECK(all.find("P 41") != std::string::npos);
    CHECK(lines_in(all) == count);
  }
}

TEST_CASE("a row that is higher than a page goes on over several", "[compose]") {
  Table table;
  std::string text;
  for (int i = 0; i < 50; ++i) text += (i > 0 ? "\nline " : "line ") + std::to_string(i + 1);
  table.rows = {{{{text, look()}, {"beside", look()}}, {}}};
  Flow flow(small());
  flow.add(table);
  const auto pages = texts_of(flow);
  CHECK(pages.size() == 3);
  int all = 0;
  for (const std::string& page : pages) all += lines_in(page);
  CHECK(all == 50);
}

TEST_CASE("pictures, charts, lists and spaces take their room", "[compose]") {
  Flow flow(small());
  flow.add_list({Paragraph("one", look()), Paragraph("two", look())}, true, 3);
  flow.add(Picture::of_rows(Bytes(40 * 20), 40, 20, Picture::Pixels::gray).value(), 1000,
           "a dark bar");
  Chart chart{.labels = {"a", "b"}, .series = {{"", {1, 2}}}};
  chart.series[0].values.push_back(std::numeric_limits<double>::infinity());
  flow.add(chart, 120);
  flow.add_page_break();
  flow.add_space(30);
  flow.add(lines(1));
  std::vector<Finding> findings;
  const Document document = flow.as_document(&findings).value();
  CHECK(findings.size() == 1);
  REQUIRE(document.page_count() == 3);
  CHECK(texts_of(document)[0].find("3.") != std::string::npos);
  const auto words = PageWords::of(document.page(2).value()).value();
  CHECK(words.word(0).quad[0].y > 25 + 30);
  // What is higher than a page is told.
  Flow high(small());
  high.add(Drawing(100, 400), "high");
  CHECK_THAT(high.as_document().error().message(), Catch::Contains("400"));
  FlowOptions none = small();
  none.margins = {150, 150, 150, 150};
  CHECK_FALSE(Flow(none).as_document().ok());
}

TEST_CASE("a background and a letterhead lie below every page, and are no content", "[compose]") {
  Drawing head(300, 300);
  head.write("Ostrel Valley", {30, 20}, look());
  const Document letter = head.as_document().value();
  FlowOptions options = small();
  options.background = Color::rgb(1, 1, 0);
  options.letterhead = letter.page(0).value();
  Flow flow(options);
  flow.add(lines(30));
  const Document document = flow.as_document().value();
  CHECK(document.page_count() == 2);
  for (int i = 0; i < 2; ++i) {
    CHECK(texts_of(document)[static_cast<std::size_t>(i)].starts_with("Ostrel Valley"));
    CHECK(render(document.page(i).value())->at(5, 5) == PixelColor{255, 255, 0, 255});
  }
  std::string heard;
  for (const auto& part : tagged_text(document).value()) heard += part.text;
  CHECK(heard.find("Ostrel") == std::string::npos);
}

TEST_CASE("notes stand at the foot of the column that their numbers are in", "[compose]") {
  Flow flow(small());
  for (int i = 0; i < 40; ++i) {
    Paragraph line("line " + std::to_string(i) + ".", look());
    if (i % 8 == 3) line.add_note("the note of " + std::to_string(i), look());
    flow.add(line);
  }
  const Document document = flow.as_document().value();
  CHECK(document.findings().empty());
  int notes = 0;
  for (int page = 0; page < document.page_count(); ++page) {
    const PageWords words = PageWords::of(document.page(page).value()).value();
    const std::string& text = words.text();
    double lowest = 0;  // of the lines
    for (int i = 0; i < 40; ++i) {
      const std::string own = "line " + std::to_string(i) + ".";
      const std::size_t at = text.find(own);
      if (at == std::string::npos) continue;
      lowest = std::max(lowest, words.quads(at, at + 4)[0][2].y);
      if (i % 8 != 3) continue;
      CAPTURE(i, page);
      CHECK(text.find("the note of " + std::to_string(i)) != std::string::npos);
      CHECK(text.find(own + std::to_string(i / 8 + 1)) != std::string::npos);
    }
    for (std::size_t at = text.find("the note"); at != std::string::npos;
         at = text.find("the note", at + 1)) {
      ++notes;
      const Quad quad = words.quads(at, at + 3)[0];
      CHECK(quad[0].y > lowest);
      CHECK(quad[2].y < 276);
    }
  }
  CHECK(notes == 5);
  // A number leads to its note.
  const auto links = document.page(0)->annotations().value();
  REQUIRE_FALSE(links.empty());
  CHECK(links[0].destination->page == 0);
  std::string heard;
  for (const auto& part : tagged_text(document).value()) heard += part.role + "|";
  CHECK(heard.find("Note") != std::string::npos);
  // Elsewhere they are refused, not lost.
  CHECK_THAT(Paragraph("a", look()).add_note("b", look()).set(100).error().message(),
             Catch::Contains("notes"));
}

TEST_CASE("paragraphs and lists tell the pages of headings", "[compose]") {
  Flow flow(small());
  flow.add(Paragraph("See page ", look()).add_page_of("costs", look()).add(".", look()));
  flow.add_list({Paragraph("costs: ", look()).add_page_of("costs", look())});
  flow.add(lines(60));
  flow.add_heading("Costs", 1, "costs");
  const Document document = flow.as_document().value();
  const auto pages = texts_of(document);
  const auto costs = std::find_if(pages.begin(), pages.end(), [](const std::string& text) {
    return text.find("Costs") != std::string::npos;
  });
  const std::string number = std::to_string(costs - pages.begin() + 1);
  CHECK(number != "1");
  CHECK_THAT(pages[0], Catch::Contains("See page " + number + "."));
  CHECK_THAT(pages[0], Catch::Contains("costs: " + number));
  CHECK(document.page(0)->annotations()->size() == 2);  // which lead there
  Flow nowhere(small());
  nowhere.add(Paragraph("See page ", look()).add_page_of("coasts", look()));
  CHECK_THAT(nowhere.as_document().error().message(), Catch::Contains("'coasts'"));
  CHECK(Paragraph().add_page_of("costs", look()).set(100).error().code() ==
        ErrorCode::invalid_argument);
}

TEST_CASE("cells tell the pages of headings", "[compose]") {
  Flow flow(small());
  Table register_of_parts;
  for (const char* name : {"costs", "lamps"})
    register_of_parts.rows.push_back(
        {{{Paragraph(name, look())}, {Paragraph("page ", look()).add_page_of(name, look())}}, {}});
  flow.add(register_of_parts);
  flow.add(lines(60));
  flow.add_heading("Costs", 1, "costs");
  flow.add(lines(60));
  flow.add_heading("Lamps", 1, "lamps");
  const auto pages = texts_of(flow);
  for (const std::string name : {"Costs", "Lamps"}) {
    const auto found = std::find_if(pages.begin(), pages.end(), [&](const std::string& text) {
      return text.find(name) != std::string::npos;
    });
    REQUIRE(found != pages.end());
    CHECK_THAT(pages[0], Catch::Contains("page " + std::to_string(found - pages.begin() + 1)));
  }
  Flow wrong(small());
  Table source{.columns = {{.width = 100}}};
  source.more_rows = [](std::size_t row) -> Result<std::optional<TableRow>> {
    if (row > 0) return std::optional<TableRow>();
    return std::optional(TableRow{{{Paragraph().add_page_of("costs", look())}}, {}});
  };
  wrong.add(source);
  wrong.add_heading("Costs", 1, "costs");
  CHECK_THAT(wrong.as_document().error().message(), Catch::Contains("but for rows of a source"));
}

TEST_CASE("numbers of pages that make lines longer move what is behind them", "[compose]") {
  // The first number has no room in its line once it has two digits, so that the heading that it
  // tells of moves to the next page.
  const double width = Drawing::text_width("See page 9", look()).value() + 0.5;
  Flow flow({.paper = {50 + width, 300}, .margins = {25, 25, 25, 25}, .heading_size = 10});
  flow.add(Paragraph("See page ", look()).add_page_of("costs", look()));
  for (int i = 0; i < 8; ++i) flow.add(lines(20, {.keeps_together = i > 0}));
  flow.add(lines(17));
  flow.add_heading("Costs", 1, "costs");
  flow.add(Paragraph("900", look()));
  const auto pages = texts_of(flow);
  const auto costs = std::find_if(pages.begin(), pages.end(), [](const std::string& text) {
    return text.find("Costs") != std::string::npos;
  });
  CHECK_THAT(pages[0], Catch::Contains(std::to_string(costs - pages.begin() + 1) + "\n"));
}

TEST_CASE("text stands beside a picture as far as it is high", "[compose]") {
  const Picture picture =
      Picture::of_rows(Bytes(3 * 4 * 4, 200), 4, 4, Picture::Pixels::rgb).value();
  for (const Flow::Side side : {Flow::Side::left, Flow::Side::right}) {
    Flow flow(small());  // 250 points wide
    flow.add_beside(picture, side, 80, "a square");
    flow.add(lines(3));
    flow.add_list({lines(6)});
    flow.add(lines(4));
    flow.add(Paragraph("below", look()));
    const Document document = flow.as_document().value();
    REQUIRE(document.page_count() == 1);
    const PageWords words = PageWords::of(document.page(0).value()).value();
    const Rect square = picture_on(document, 0);
    CHECK(square.width() == Approx(80));
    CHECK(square.left == Approx(side == Flow::Side::left ? 25 : 195));
    int beside = 0;
    int below = 0;
    for (std::size_t i = 0; i < words.word_count(); ++i) {
      const TextWord word = words.word(i);
      const Rect place = bounds_of(word.quad);
      const std::string text = words.text().substr(word.begin, word.end - word.begin);
      CAPTURE(text, place.left, place.bottom);
      const bool is_apart =
          place.right < square.left || place.left > square.right || place.bottom > square.top;
      CHECK(is_apart);
      if (text != "line") continue;
      if (place.left < 26) ++below;
      if (place.left > square.right && place.bottom < square.top) ++beside;
    }
    if (side == Flow::Side::left) CHECK((beside > 4 && below > 3));
  }
}

TEST_CASE("a picture with text beside it is never parted from it", "[compose]") {
  const Picture picture =
      Picture::of_rows(Bytes(3 * 4 * 4, 200), 4, 4, Picture::Pixels::rgb).value();
  Flow flow(small());
  flow.add(lines(15));
  flow.add_beside(picture, Flow::Side::left, 80);
  flow.add(lines(2));
  flow.add_page_break();
  flow.add_beside(picture, Flow::Side::right, 80);
  flow.add(Table{.rows = {{{{"lamp", look()}}}}});
  const Document document = flow.as_document().value();
  REQUIRE(document.page_count() == 3);
  CHECK(lines_in(text_of(document.page(0).value()).value()) == 15);
  CHECK(lines_in(text_of(document.page(1).value()).value()) == 2);
  CHECK(picture_on(document, 1).left == Approx(25));
  // What does not stand beside it comes below.
  const Rect square = picture_on(document, 2);
  const PageWords words = PageWords::of(document.page(2).value()).value();
  CHECK(bounds_of(words.word(0).quad).bottom > square.top);
}
