// SPDX-License-Identifier: Apache-2.0
// Briefs and texts in CommonMark: what they become, and what is told about what is wrong in them.
#include "lumvet/compose/brief.h"

#include <nlohmann/json.hpp>

#include "lumvet/text/page_words.h"
#include "lumvet/text/tagged_text.h"
#include "tests/support/catch.h"
#include "tests/support/temporary_folder.h"

using namespace lumvet;

namespace {

std::string said(const Flow& flow) {
  const Document document = flow.as_document().value();
  CHECK(document.findings().empty());
  std::string all;
  for (int i = 0; i < document.page_count(); ++i)
    all += text_of(document.page(i).value()).value() + "\f";
  return all;
}

std::string said(const std::string& brief, const BriefOptions& options = {}) {
  return said(flow_of_brief(brief, options).value());
}

Error refusal(const std::string& brief, const BriefOptions& options = {}) {
  const auto flow = flow_of_brief(brief, options);
  if (flow.ok()) FAIL("taken: " + brief);
  return flow.error();
}

std::string tagged(const Flow& flow) {
  std::string all;
  for (const auto& part : tagged_text(flow.as_document().value()).value())
    all += part.role + ":" + part.text + "|";
  return all;
}

}  // namespace

TEST_CASE("a brief becomes pages", "[compose]") {
  const std::string brief = R"({
    "title": "Costs", "paper": "A5",
    "footer": {"middle": "{page} of {pages}"},
    "styles": {"body": {"size": 10}, "loud": {"based_on": "strong", "size": 14, "color": "#B52"}},
    "blocks": [
      {"heading": "Costs"},
      {"paragraph": ["Two ", {"text": "thirds", "style": "loud"}, " of it."]},
      {"list": ["lamps", "divers"], "numbered": true},
      {"table": {"columns": ["share", 50], "head": [["Measure", "Crowns"]],
                 "rows": [["Lamps", "900"], ["Divers", "5200"]]}},
      {"page_break": true},
      {"chart": {"kind": "pie", "labels": ["a", "b"], "series": [{"values": [1, 2]}]}}]})";
  const std::string text = said(brief);
  for (const char* part : {"Two thirds of it.", "2.", "Divers\t5200", "2 of 2", "67"})
    CHECK_THAT(text, Catch::Contains(part));
  const Document document = flow_of_brief(brief)->as_document().value();
  CHECK(document.metadata()->properties.title == "Costs");
  CHECK(document.page(0)->width() == Approx(419.5).margin(0.1));
  const PageWords words = PageWords::of(document.page(0).value()).value();
  for (std::size_t i = 0; i < words.word_count(); ++i) {
    const TextWord word = words.word(i);
    if (words.text().substr(word.begin, word.end - word.begin) != "thirds") continue;
    CHECK(word.size == Approx(14));
    CHECK(words.styles()[word.style].is_bold);
    CHECK(words.styles()[word.style].color == std::array<std::uint8_t, 3>{187, 85, 34});
  }
}

TEST_CASE("blocks come again for each row of the data", "[compose]") {
  const BriefOptions data{.data = R"({"sum": 6100, "bridges": [{"name": "Mill Lane", "costs": 900},
                                      {"name": "Pell {x}", "costs": "5200"}]})"};
  const std::string text = said(R"({"blocks": [
      {"paragraph": "{sum} crowns in {{braces}}"},
      {"each": "bridges", "blocks": [{"heading": "{name}", "level": 2}, {"paragraph": "{costs} of {sum}"}]},
      {"list": "at {name}", "each": "bridges"},
      {"table": {"each": "bridges", "row": ["{name}", "{costs}"]}}]})",
                                data);
  for (const char* part : {"6100 crowns in {braces}", "Mill Lane", "Pell {x}", "5200 of 6100",
                           "at Mill Lane", "Pell {x}\t5200"})
    CHECK_THAT(text, Catch::Contains(part));
  // Without data, braces are braces.
  CHECK_THAT(said(R"({"blocks": [{"paragraph": "{sum}"}]})"), Catch::Contains("{sum}"));
  CHECK_THAT(refusal(R"({"blocks": [{"paragraph": "{summ}"}]})", data).message(),
             Catch::Contains("{summ} means nothing") && Catch::Contains("{sum}"));
  CHECK_THAT(refusal(R"({"blocks": [{"each": "bridge", "blocks": []}]})", data).message(),
             Catch::Contains("'bridges'"));
  // Values that are no numbers are told by the chart.
  std::vector<Finding> findings;
  const auto flow = flow_of_brief(R"({"blocks": [{"chart": {"labels": {"each": "bridges",
      "value": "{name}"}, "series": [{"values": {"each": "bridges", "value": "{name}"}},
      {"values": {"each": "bridges", "value": "{costs}"}}]}}]})",
                                  data);
  REQUIRE(flow.value().as_document(&findings).ok());
  CHECK(findings.size() == 2);
}

TEST_CASE("what is wrong in a brief is told with its place", "[compose]") {
  struct Case {
    const char* brief;
    const char* what;
    const char* where;
  };
  for (const Case& known :
       {Case{"{\n \"blocks\": [{\"paragraf\": \"x\"}]}", "nearest is 'paragraph'",
             "line 2, column 26, at /blocks/0/paragraf"},
        Case{R"({"titel": "x"})", "nearest is 'title'", "at /titel"},
        Case{R"({"blocks": [{"heading": 7}]})", "a text is wanted", "at /blocks/0/heading"},
        Case{R"({"blocks": {}})", "a list is wanted", "at /blocks"},
        Case{R"({"paper": "Z9"})", "Z9", "at /paper"},
        Case{R"({"styles": {"a": {"color": "red"}}})", "no color", "at /styles/a/color"},
        Case{R"({"styles": {"a": {"align": "centre"}}})", "nearest is 'center'",
             "at /styles/a/align"},
        Case{R"({"styles": {"a": {"based_on": "b"}, "b": {"based_on": "a"}}})", "circle",
             "based_on"},
        Case{R"({"blocks": [{"paragraph": "x", "style": "strng"}]})", "nearest is 'strong'",
             "at /blocks/0/style"},
        Case{R"({"blocks": [{"chart": {"kind": "bar", "series": []}}]})", "nearest is 'bars'",
             "at /blocks/0/chart/kind"},
        Case{R"({"letterhead": "none.pdf"})", "none.pdf", "at /letterhead"},
        Case{R"({"blocks": [{}]})", "a block is one of", "at /blocks/0"},
        Case{R"({"blocks": [{"picture": "none.png"}]})", "none.png", "at /blocks/0/picture"},
        Case{R"({"styles": {"a": {"size": 0}}})", "a number from 0", "at /styles/a/size"},
        Case{R"({"blocks": [{"heading": "x", "level": 9}]})", "a number from 1 to 6",
             "at /blocks/0/level"},
        Case{R"({"blocks": [{"contents": 1.5}]})", "a whole number", "at /blocks/0/contents"},
        Case{R"({"blocks": [{"list": [], "first": 1e18}]})", "a number from 0",
             "at /blocks/0/first"},
        Case{R"({"blocks": [{"table": {"rows": [[{"content": "a", "columns": 2e9}]]}}]})",
             "a number from 1 to 1000", "at /blocks/0/table/rows/0/0/columns"},
        Case{R"({"margins": [1, 2]})", "left, top, right and bottom", "at /margins"}}) {
    CAPTURE(known.brief);
    const std::string message = refusal(known.brief).message();
    CHECK_THAT(message, Catch::Contains(known.what) && Catch::Contains(known.where));
  }
  const Error broken = refusal("{\"title\": \"x\",\n \"blocks\": [}");
  CHECK(broken.code() == ErrorCode::malformed);
  CHECK_THAT(broken.message(), Catch::Contains("line 2, column 13"));
  std::string deep = R"({"blocks": [)";
  for (int i = 0; i < 30; ++i) deep += R"({"each": "r", "blocks": [)";
  for (int i = 0; i < 30; ++i) deep += "]}";
  CHECK(refusal(deep + "]}", {.data = R"({"r": [1]})"}).code() == ErrorCode::limit);
}

TEST_CASE("the schema knows every key that a brief takes", "[compose]") {
  CHECK(test::read_file(std::string(LUMVET_SOURCE_DIR) + "/docs/brief.schema.json") ==
        brief_schema());
  const auto schema = nlohmann::json::parse(brief_schema());
  std::size_t blocks = 0;
  // What the reader says there is, by its own message.
  const std::string all = refusal(R"({"blocks": [{}]})").message();
  for (const auto& block : schema["$defs"]["block"]["oneOf"]) {
    const std::string kind = block["required"][0];
    CHECK_THAT(all, Catch::Contains(kind));
    ++blocks;
  }
  CHECK(blocks == 10);
  for (const auto& [key, value] : schema["properties"].items()) {
    const auto flow = flow_of_brief("{\"" + key + "\": null}");
    REQUIRE_FALSE(flow.ok());
    CHECK_THAT(flow.error().message(), !Catch::Contains("means nothing"));
  }
  for (const auto& [key, value] : schema["$defs"]["style"]["properties"].items()) {
    const auto flow = flow_of_brief("{\"styles\": {\"a\": {\"" + key + "\": null}}}");
    REQUIRE_FALSE(flow.ok());
    CHECK_THAT(flow.error().message(), !Catch::Contains("means nothing"));
  }
}

TEST_CASE("CommonMark becomes headings, lists, quotes and code", "[compose]") {
  const std::string text =
      "# Bearings\n\nA *loose* post, **two** boards and `12.4 mm`,\nsee [the office]"
      "(https://example.org).\n\n1. one\n2. two\n   - below\n3. three\n\n> quoted\n\n```\na  "
      "b\n```\n\n---\n\n<b>html</b>\n";
  const Flow flow = flow_of_commonmark(text).value();
  const std::string all = said(flow);
  for (const char* part : {"A loose post, two boards and 12.4 mm, see the office.", "1.", "3.",
                           "below", "quoted", "a b"})
    CHECK_THAT(all, Catch::Contains(part));
  const Document document = flow.as_document().value();
  CHECK(document.outline()->at(0).title == "Bearings");
  CHECK(document.page(0)->annotations()->at(0).actions.at(0).target == "https://example.org");
  const std::string parts = tagged(flow);
  CHECK_THAT(parts, Catch::StartsWith("H1:Bearings|P:A loose"));
  CHECK_THAT(parts, Catch::Contains("LBody:two|") && Catch::Contains("Lbl:3.|"));
  CHECK_THAT(
      said(flow_of_commonmark("text", R"({"title": "T", "footer": {"left": "{title}!"}})").value()),
      Catch::Contains("T!"));
  CHECK_FALSE(flow_of_commonmark("![x](none.png)").ok());
  CHECK_FALSE(flow_of_commonmark("x", "{").ok());
  // However deep things lie within each other.
  CHECK(flow_of_commonmark(std::string(20'000, '>') + "x").ok());
  std::string lists;
  for (int i = 0; i < 500; ++i) lists += "- ";
  CHECK_THAT(said(flow_of_commonmark(lists + "deep").value()), Catch::Contains("deep"));
}

TEST_CASE("looks of CommonMark within each other go together", "[compose]") {
  const Flow flow =
      flow_of_commonmark("> gray *slanted* [**both**](https://example.org) ***all***\n", {})
          .value();
  const PageWords words = PageWords::of(flow.as_document()->page(0).value()).value();
  const auto style = [&](const std::string& word) {
    for (std::size_t i = 0; i < words.word_count(); ++i)
      if (words.text().substr(words.word(i).begin, word.size()) == word)
        return words.styles()[words.word(i).style];
    FAIL("no " + word);
    return WordStyle();
  };
  CHECK(style("slanted").color == style("gray").color);
  CHECK(style("slanted").is_italic);
  CHECK(style("both").is_bold);
  CHECK_FALSE(style("both").color == style("gray").color);
  CHECK((style("all").is_bold && style("all").is_italic));
}

TEST_CASE("headings of CommonMark keep the looks and links within them", "[compose]") {
  const Flow flow = flow_of_commonmark("## The *Mill* [`12`](https://example.org)\n", {}).value();
  const Document document = flow.as_document().value();
  const PageWords words = PageWords::of(document.page(0).value()).value();
  const auto style = [&](std::size_t word) { return words.styles()[words.word(word).style]; };
  REQUIRE(words.word_count() == 3);
  CHECK_FALSE(style(0).is_italic);
  CHECK(style(1).is_italic);
  CHECK(words.word(1).size == words.word(0).size);
  CHECK(style(2).font.find("Mono") != std::string::npos);
  CHECK(document.page(0)->annotations()->at(0).actions.at(0).target == "https://example.org");
  CHECK(document.outline()->at(0).title == "The Mill 12");
}

TEST_CASE("what is told of parts of a heading is told on top of how headings look", "[compose]") {
  const Flow flow = flow_of_brief(R"({"heading_font": "Liberation Serif", "heading_size": 30,
      "styles": {"warning": {"color": "#C02020", "size": 22}},
      "blocks": [{"heading": ["The ", {"text": "Mill ", "style": "emphasis"},
                              {"text": "Lane", "style": "warning"}]}]})")
                        .value();
  const PageWords words = PageWords::of(flow.as_document()->page(0).value()).value();
  REQUIRE(words.word_count() == 3);
  const auto style = [&](std::size_t word) { return words.styles()[words.word(word).style]; };
  CHECK_THAT(style(1).font, Catch::Contains("Serif") && Catch::Contains("Italic"));
  CHECK(style(2).font == style(0).font);
  CHECK(style(2).color == std::array<std::uint8_t, 3>{0xC0, 0x20, 0x20});
  CHECK(words.word(1).size == Approx(30));
  CHECK(words.word(2).size == Approx(60));  // twice the body's 11
}

TEST_CASE("rows of CSV are data", "[compose]") {
  const auto rows = [](const std::string& csv) {
    return nlohmann::json::parse(data_of_csv(csv).value());
  };
  const auto plain = rows("name,costs\r\n\"Mill, \"\"Lane\"\"\",900\r\n\r\nPell,\"5\n200\"\r\n");
  REQUIRE(plain.size() == 2);
  CHECK(plain[0]["name"] == "Mill, \"Lane\"");
  CHECK(plain[1]["costs"] == "5\n200");
  CHECK(rows("\xEF\xBB\xBF"
             "a;b\n1,5;2\n")[0]["a"] == "1,5");
  CHECK(rows("").empty());
  CHECK(rows("a,b\n").empty());
  CHECK_THAT(data_of_csv("a,b\n1,2\n3\n").error().message(), Catch::Contains("line 3"));
  CHECK_THAT(data_of_csv("a\n\"x").error().message(), Catch::Contains("line 2"));
  CHECK_THAT(said(R"({"blocks": [{"table": {"each": "rows", "row": ["{a}"]}}]})",
                  {.data = data_of_csv("a\nseen\n").value()}),
             Catch::Contains("seen"));
}
