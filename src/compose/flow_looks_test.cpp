// SPDX-License-Identifier: Apache-2.0
// What stands in flows in a way of its own: headings with looks, lines that run downward, notes of
// cells.
#include <algorithm>

#include "tests/support/flows.h"

using namespace test;

TEST_CASE("a heading looks as its letters do, and is told without that", "[compose]") {
  const FlowOptions options = small();
  TextStyle slanted = options.heading_look(2);
  slanted.face = Typeface::named("Liberation Serif:italic").value();
  slanted.size = 17;
  Flow flow(options);
  flow.add_contents();
  flow.add_heading(Paragraph("The ", options.heading_look(2), options.heading_style(2))
                       .add("Mill Lane", slanted)
                       .add_note("built in 1902", slanted),
                   2, "mill");
  const Document document = flow.as_document().value();
  CHECK(document.outline()->at(0).title == "The Mill Lane");
  const PageWords words = PageWords::of(document.page(0).value()).value();
  CHECK_THAT(words.text(), Catch::StartsWith("The Mill Lane"));  // in the contents
  CHECK_THAT(words.text(), Catch::Contains("1 built in 1902"));
  std::vector<TextWord> lanes;
  for (std::size_t i = 0; i < words.word_count(); ++i)
    if (words.text().substr(words.word(i).begin, 4) == "Lane") lanes.push_back(words.word(i));
  REQUIRE(lanes.size() == 2);
  CHECK_FALSE(words.styles()[lanes[0].style].is_italic);
  CHECK(words.styles()[lanes[1].style].is_italic);
  CHECK(lanes[1].size == Approx(17));
}

TEST_CASE("paragraphs that run downward stand beside each other, from the right", "[compose]") {
  const TextStyle letters{
      .face = Typeface::named("IPAGothic").value(), .size = 20, .language = "ja"};
  const ParagraphStyle down{.line_height = 1.5, .after = 10, .runs_down = true};
  std::string text;
  for (int i = 0; i < 50; ++i) text += "谷";
  Flow flow(small());
  flow.add_heading(Paragraph("川の橋", letters, down), 1, "bridge");
  flow.add(Paragraph(text, letters, down).add_note("a note", look()));
  flow.add(Paragraph("末", letters, down));
  flow.add(Paragraph("across", look()));
  const Document document = flow.as_document().value();
  REQUIRE(document.page_count() == 2);
  CHECK(document.outline()->at(0).title == "川の橋");
  std::string read;
  std::vector<std::pair<std::string, Rect>> found;
  for (int i = 0; i < 2; ++i) {
    const PageWords words = PageWords::of(document.page(i).value()).value();
    for (const char c : words.text())
      if (c != '\n' && c != ' ') read += c;
    for (const std::string wanted : {"川の橋", "末", "across", "a note"}) {
      const std::size_t at = words.text().find(wanted);
      if (at == std::string::npos) continue;
      const auto quads = words.quads(at, at + wanted.size());
      found.emplace_back(wanted, bounds_of(quads.at(0)));
      CHECK(bounds_of(quads[0]).top < 276);
    }
  }
  const std::string all = "川の橋" + text + "1";
  CHECK(read.substr(0, all.size()) == all);
  REQUIRE(found.size() == 4);
  CHECK(found[0].first == "川の橋");
  CHECK(found[0].second.left > 245);
  // The last line is left of those before it; what runs across has room on the next page.
  const auto place = [&](const std::string& wanted) {
    return std::find_if(found.begin(), found.end(),
                        [&](const auto& one) { return one.first == wanted; })
        ->second;
  };
  CHECK(place("末").right < 240);
  CHECK(place("across").left == Approx(25).margin(1));
  // A heading holds on to them.
  Flow headed(small());
  headed.add_heading("Autumn");
  headed.add(Paragraph(text, letters, down));
  CHECK(headed.as_document()->page_count() == 1);
  Flow list(small());
  list.add_list({Paragraph("Ostrel", look(), {.runs_down = true})});
  CHECK_THAT(list.as_document().error().message(), Catch::Contains("run across"));
}

TEST_CASE("cells whose lines run downward make rows high, not columns wide", "[compose]") {
  const ParagraphStyle down{.align = ParagraphStyle::Align::center, .runs_down = true};
  Table table{.head_rows = 1};
  table.rows = {{{{"Bridge", look()}, {"Load in tons\n(greatest)", look(), down}}},
                {{{"Mill", look()}, {"900", look()}}}};
  Flow flow(small());
  flow.add(table);
  const Document document = flow.as_document().value();
  CHECK(document.findings().empty());
  const PageWords words = PageWords::of(document.page(0).value()).value();
  const auto place = [&](const std::string& text) {
    const std::size_t at = words.text().find(text);
    REQUIRE(at != std::string::npos);
    return bounds_of(words.quads(at, at + text.size()).at(0));
  };
  const double length = Drawing::text_width("Load in tons", look()).value();
  const Rect load = place("Load in tons");
  CHECK(load.height() == Approx(length).margin(1));
  CHECK(load.width() < 20);
  CHECK(place("(greatest)").right < load.left + 1);
  CHECK(place("900").bottom > load.top);
  CHECK(place("900").left < load.left);
  CHECK(place("900").left - place("Bridge").right < 40);
}

TEST_CASE("notes of cells stand at the foot of the page on which their line is", "[compose]") {
  const auto cell = [](const std::string& text, const std::string& note) {
    return TableCell(Paragraph(text, look()).add_note(note, look()));
  };
  Flow flow(small());
  flow.add(Paragraph("text", look()).add_note("alpha", look()));
  Table table{.head_rows = 1};
  table.rows = {{{cell("head", "beta")}}};
  for (int i = 0; i < 15; ++i) table.rows.push_back({{TableCell("lamp", look())}});
  table.rows.push_back({{cell("last", "gamma")}});
  // One that is higher than a page, whose note is in its last line.
  std::string high = "high";
  for (int i = 0; i < 30; ++i) high += "\nline";
  table.rows.push_back({{cell(high, "delta")}});
  table.more_rows = [&](std::size_t i) -> Result<std::optional<TableRow>> {
    return i < 1 ? std::optional(TableRow{{cell("given", "epsilon")}}) : std::nullopt;
  };
  flow.add(table);
  flow.add(Paragraph("below", look()).add_note("zeta", look()));
  std::vector<std::string> pages = texts_of(flow);
  for (std::string& page : pages) std::replace(page.begin(), page.end(), '\t', ' ');
  const auto page_of = [&](const std::string& text) {
    int found = -1;
    for (std::size_t i = 0; i < pages.size(); ++i)
      if (pages[i].find(text) != std::string::npos) {
        CHECK(found == -1);  // once
        found = static_cast<int>(i);
      }
    return found;
  };
  CHECK(page_of("1 alpha") == 0);
  CHECK(page_of("2 beta") == 0);
  CHECK(page_of("3 gamma") == page_of("last3"));
  CHECK(page_of("4 delta") > page_of("high"));
  CHECK(page_of("5 epsilon") == page_of("given5"));
  CHECK(page_of("6 zeta") == page_of("below6"));
}
