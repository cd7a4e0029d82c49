// SPDX-License-Identifier: Apache-2.0
#include "lumvet/text/running_heads.h"

#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;

namespace {

const std::string kEntries =
    "/MediaBox[0 0 400 400]/Resources<</Font<</F<</Type/Font/Subtype/Type1/BaseFont/Helvetica"
    ">>>>>>";

PageWords words_of(const std::string& content) {
  test::PdfBuilder pdf;
  pdf.page(content, kEntries);
  return PageWords::of(test::open(pdf.finish())->page(0).value()).value();
}

std::string page(const std::string& head, const std::string& body, const std::string& foot) {
  return "BT /F 8 Tf 50 380 Td (" + head + ") Tj ET BT /F 10 Tf 14 TL 50 300 Td " + body +
         " ET BT /F 8 Tf 190 20 Td (" + foot + ") Tj ET";
}

std::vector<std::string> said_without(const std::vector<PageWords>& pages) {
  const auto heads = running_heads(pages);
  std::vector<std::string> said;
  for (std::size_t i = 0; i < pages.size(); ++i)
    said.push_back(pages[i].without_lines(heads[i]).text());
  return said;
}

}  // namespace

TEST_CASE("heads and page numbers that come again are told apart from what pages say", "[text]") {
  const std::string lines = "(one) Tj T* (two) Tj T* (three) Tj T* (four) Tj T* (five) Tj";
  // Left and right pages have heads of their own.
  const std::vector<PageWords> pages = {
      words_of(page("Ostrel Valley", lines, "7")), words_of(page("2 Cables", lines, "8")),
      words_of(page("Ostrel Valley", "(other) Tj", "9")),
      words_of(page("2 Cables", "(more) Tj T* (of it) Tj", "10"))};
  const std::string kept = "one\ntwo\nthree\nfour\nfive";
  CHECK(said_without(pages) == std::vector<std::string>{kept, kept, "other", "more\nof it"});
  // A single page has none.
  CHECK(running_heads({pages[0]})[0].empty());
  // What is alike in the middle of pages stays, and so does what stands elsewhere.
  CHECK(said_without({words_of(page("a", lines, "b")), words_of(page("c", lines, "d"))})[0] ==
        "a\n\none\ntwo\nthree\nfour\nfive\n\nb");
}

TEST_CASE("what the document marks as no content is a head by itself", "[text]") {
  const PageWords words = words_of(
      "/Artifact<</Type/Pagination>>BDC BT /F 8 Tf 50 380 Td (Ostrel Valley) Tj ET EMC "
      "BT /F 10 Tf 50 300 Td (body) Tj ET");
  CHECK(said_without({words})[0] == "body");
}

TEST_CASE("a page without some lines is a page like any other", "[text]") {
  const PageWords whole = words_of(page("head", "(one two) Tj T* (three) Tj", "foot"));
  const std::size_t head = whole.text().find("head");
  const PageWords rest = whole.without_lines({{head, head + 4}});
  CHECK(rest.text() == "one two\nthree\n\nfoot");
  CHECK(rest.block_count() == 2);
  CHECK(rest.line_count() == 3);
  REQUIRE(rest.word_count() == 4);
  for (std::size_t i = 0; i < rest.word_count(); ++i) {
    const TextWord word = rest.word(i);
    const TextWord same = whole.word(i + 1);
    CHECK(rest.text().substr(word.begin, word.end - word.begin) ==
          whole.text().substr(same.begin, same.end - same.begin));
    CHECK(word.quad == same.quad);
    CHECK(rest.quads(word.begin, word.end) == whole.quads(same.begin, same.end));
    const TextLine line = rest.line(word.line);
    CHECK((line.first_word <= i && i < line.words_end));
  }
  CHECK(whole.without_lines({}).text() == whole.text());
  CHECK(whole.without_lines({{0, whole.text().size()}}).text().empty());
}
