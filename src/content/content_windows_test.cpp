// SPDX-License-Identifier: Apache-2.0
// A page's content is run a window at a time. The same content in a form is run in one piece, and
// has to give the same drawing.

#include <random>

#include "content/scene_data.h"
#include "document/content_feed.h"
#include "lumvet/content/scene.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;
using test::PdfBuilder;

namespace {

// Strokes, long strings, comments, and inline images of any size, so that windows end anywhere.
std::string long_content(std::size_t bytes, unsigned seed) {
  std::mt19937 random(seed);
  std::string content;
  while (content.size() < bytes) {
    const auto kind = random() % 20;
    if (kind == 0) {
      const auto side = 1 + random() % 200;
      content += "q 9 0 0 9 " + std::to_string(random() % 90) + " 5 cm BI /W " +
                 std::to_string(side) + " /H " + std::to_string(side) + " /BPC 8 /CS /G ID ";
      for (std::size_t i = 0; i < side * side; ++i) content += static_cast<char>(random() % 200);
      content += "\nEI Q\n";
    } else if (kind == 1) {
      content += "(" + std::string(random() % 3000, 'x') + ") pop % " +
                 std::string(random() % 500, '(') + "\n";
    } else {
      content += std::to_string(random() % 100) + " " + std::to_string(random() % 100) + " m " +
                 std::to_string(random() % 100) + " " + std::to_string(random() % 100) + " l S ";
    }
  }
  return content;
}

Scene recorded(const std::string& bytes) {
  return Scene::record(test::open(bytes)->page(0).value()).value();
}

// What a scene draws, without the clips around it.
std::vector<std::pair<std::size_t, Rect>> outline(const Scene& scene) {
  std::vector<std::pair<std::size_t, Rect>> parts;
  for (const content::Operation& operation : data_of(scene).operations)
    parts.emplace_back(operation.what.index(), operation.bounds);
  return parts;
}

}  // namespace

TEST_CASE("content in windows draws what it draws in one piece", "[content]") {
  const unsigned seed = GENERATE(1u, 2u, 3u, 4u);
  const std::string content = long_content(document::ContentFeed::kWindow * 3 + 1000, seed);
  PdfBuilder whole;
  whole.page("/All Do", "/MediaBox[0 0 100 100]/Resources<</XObject<</All 9 0 R>>>>");
  whole.stream(9, "/Subtype/Form/BBox[0 0 100 100]", content);
  PdfBuilder windows;
  windows.page(content, "/MediaBox[0 0 100 100]");
  const auto wanted = outline(recorded(whole.finish()));
  REQUIRE(wanted.size() > 500);
  CHECK((outline(recorded(windows.finish())) == wanted));
}

TEST_CASE("a page's streams follow one another, and a missing one is passed over", "[content]") {
  PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R>>");
  pdf.object(2, "<</Type/Pages/Kids[3 0 R]/Count 1>>");
  pdf.object(3, "<</Type/Page/Parent 2 0 R/MediaBox[0 0 9 9]/Contents[4 0 R 7 0 R 5 0 R 6 0 R]>>");
  pdf.stream(4, "", "1 2");
  pdf.stream(5, "", std::string(100'000, ' ') + "m");
  pdf.stream(6, "", "3 4 l S");
  const auto document = test::open(pdf.finish()).value();
  document::ContentFeed feed(document.page(0).value());
  std::string all;
  std::size_t used = 0;
  do {
    REQUIRE(feed.advance(used).ok());
    all.append(feed.window().begin(), feed.window().end());
    used = feed.window().size();
  } while (feed.has_more());
  CHECK((all == "1 2\n" + std::string(100'000, ' ') + "m\n3 4 l S\n"));
  CHECK(document.findings().size() == 1);
}

TEST_CASE("what a page keeps of itself while it is drawn does not grow with its content",
          "[content]") {
  PdfBuilder pdf;
  const std::string content = long_content(5'000'000, 7);
  const auto document = test::open(pdf.page(content, "/MediaBox[0 0 9 9]").finish()).value();
  document::ContentFeed feed(document.page(0).value());
  std::size_t most = 0;
  REQUIRE(feed.advance(0).ok());
  while (feed.has_more()) {
    most = std::max(most, feed.window().size());
    REQUIRE(feed.advance(feed.window().size() - 100).ok());
  }
  CHECK(most < 2 * document::ContentFeed::kWindow);
}
