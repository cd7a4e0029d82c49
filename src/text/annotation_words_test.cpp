// SPDX-License-Identifier: Apache-2.0
// Words that annotations show, beside those of pages.
#include "lumvet/lumvet.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;

namespace {

const std::string kFont = "/Resources<</Font<</F<</Type/Font/Subtype/Type1/BaseFont/Courier>>>>>>";
constexpr WordOptions kAll{.reads_annotations = true};

// Pages that end in the words given, each with a stamp in their midst, between head and foot.
Document pages_of(const std::vector<std::string>& words) {
  test::PdfBuilder pdf;
  std::string kids;
  for (std::size_t i = 0; i < words.size(); ++i) {
    const int number = 10 + 2 * static_cast<int>(i);
    kids += std::to_string(number) + " 0 R ";
    pdf.object(number, "<</Type/Page/Parent 2 0 R/MediaBox[0 0 400 400]/Contents " +
                           std::to_string(number + 1) +
                           " 0 R/Annots[<</Type/Annot/Subtype/Stamp/Rect[40 290 240 310]"
                           "/AP<</N 90 0 R>>>>]" +
                           kFont + ">>");
    pdf.stream(number + 1, "",
               "BT /F 8 Tf 50 380 Td (Ostrel Valley) Tj /F 10 Tf 0 -80 Td (" + words[i] +
                   ") Tj /F 8 Tf 0 -280 Td (7) Tj ET");
  }
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R>>");
  pdf.object(2, "<</Type/Pages/Kids[" + kids + "]/Count " + std::to_string(words.size()) + ">>");
  pdf.stream(90, "/Type/XObject/Subtype/Form/BBox[0 0 200 20]" + kFont,
             "BT /F 12 Tf 60 5 Td (Seen by Ilse) Tj ET");
  return test::open(pdf.finish()).value();
}

}  // namespace

TEST_CASE("what annotations show stands behind the page's own words, where it is seen", "[text]") {
  const Page page = pages_of({"the swing bridge"}).page(0).value();
  const PageWords own = PageWords::of(page).value();
  CHECK(own.text() == "Ostrel Valley\n\nthe swing bridge\n\n7");
  const PageWords all = PageWords::of(page, {}, kAll).value();
  REQUIRE(all.text() == own.text() + "\n\nSeen by Ilse");
  for (std::size_t i = 0; i < all.block_count(); ++i)
    CHECK(all.block(i).is_of_annotations == (i + 1 == all.block_count()));
  const TextWord ilse = all.word(all.word_count() - 1);
  CHECK(ilse.visibility == Visibility::seen);
  CHECK(ilse.quad[0].x > 100);
  CHECK(ilse.quad[0].y > 90);
  CHECK(ilse.quad[2].y < 110);
  // A scene that was recorded with them has them too, and one without has none.
  CHECK(PageWords::of(Scene::record(page).value(), kAll).text() == all.text());
  CHECK(PageWords::of(Scene::record(page).value()).text() == own.text());
  CHECK(PageWords::of(Scene::record(page, {.annotations = false}).value(), kAll).text() ==
        own.text());
}

TEST_CASE("the snippet of a hit in a field ends with the field", "[text]") {
  // Two fields beside each other, below the page's own line.
  test::PdfBuilder pdf;
  const auto field = [](int x, const char* look) {
    return "<</Type/Annot/Subtype/Widget/Rect[" + std::to_string(x) + " 200 " +
           std::to_string(x + 90) + " 220]/AP<</N " + look + " 0 R>>>>";
  };
  pdf.page("BT /F 10 Tf 40 300 Td (Inspected by the bridge office) Tj ET",
           "/MediaBox[0 0 400 400]/Annots[" + field(40, "90") + field(200, "91") + "]" + kFont);
  pdf.stream(90, "/Type/XObject/Subtype/Form/BBox[0 0 90 20]" + kFont,
             "BT /F 12 Tf 2 5 Td (Ilse Marren) Tj ET");
  pdf.stream(91, "/Type/XObject/Subtype/Form/BBox[0 0 90 20]" + kFont,
             "BT /F 12 Tf 2 5 Td (day 12) Tj ET");
  const PageWords words =
      PageWords::of(test::open(pdf.finish())->page(0).value(), {}, kAll).value();
  const auto around = [&](const char* text) {
    const auto at = TextSearch::of(text).value().in(words).value().at(0);
    const Snippet snippet = snippet_around(words, at);
    return snippet.before + "[" + snippet.hit + "]" + snippet.after;
  };
  CHECK(around("Marren") == "Ilse [Marren]");
  CHECK(around("day") == "[day] 12");
  CHECK(around("office") ==
        snippet_around(words.text(), {24, 30}).before + "[office] Ilse Marren day 12");
}

TEST_CASE("annotations part nothing that goes on from page to page", "[text]") {
  const Document document = pages_of({"the swing", "bridge opens"});
  const auto found = [&](const char* text) {
    int hits = 0;
    CHECK(find_in(document, {0, 1}, TextSearch::of(text).value(), {.letters = kAll},
                  [&](const PageHits& page) -> Status {
                    hits += static_cast<int>(page.hits.size() + page.across.size());
                    return Done{};
                  })
              .ok());
    return hits;
  };
  CHECK(found("swing bridge") == 1);
  CHECK(found("seen by ilse") == 2);
  CHECK(found("ilse bridge") == 0);
}

TEST_CASE("a page without its heads still knows what is of annotations", "[text]") {
  const Document document = pages_of({"one", "two"});
  std::vector<PageWords> pages;
  for (int i = 0; i < 2; ++i)
    pages.push_back(PageWords::of(document.page(i).value(), {}, kAll).value());
  const PageWords left = pages[0].without_lines(running_heads(pages)[0]);
  CHECK(left.text() == "one\n\nSeen by Ilse");
  CHECK_FALSE(left.block(0).is_of_annotations);
  CHECK(left.block(1).is_of_annotations);
}
