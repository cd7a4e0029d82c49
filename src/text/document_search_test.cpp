// SPDX-License-Identifier: Apache-2.0
#include "lumvet/text/document_search.h"

#include "tests/support/catch.h"
#include "tests/support/gapped_source.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;

namespace {

// Pages that say "page N" and, on every second one, "rust".
std::string book(int count) {
  test::PdfBuilder pdf;
  std::string kids;
  for (int i = 0; i < count; ++i) kids += std::to_string(10 + 2 * i) + " 0 R ";
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R>>");
  pdf.object(2, "<</Type/Pages/Kids[" + kids + "]/Count " + std::to_string(count) +
                    "/MediaBox[0 0 200 200]/Resources<</Font<</F<</Type/Font/Subtype/Type1"
                    "/BaseFont/Helvetica>>>>>>>>");
  for (int i = 0; i < count; ++i) {
    const std::string said = "page " + std::to_string(i) + (i % 2 == 1 ? " has rust, rust" : "");
    pdf.object(10 + 2 * i,
               "<</Type/Page/Parent 2 0 R/Contents " + std::to_string(11 + 2 * i) + " 0 R>>");
    // So far from each other that no reading of one page meets the next.
    pdf.stream(11 + 2 * i, "",
               "BT /F 10 Tf 10 100 Td (" + said + ") Tj ET %" + std::string(100'000, '.'));
  }
  return pdf.finish();
}

}  // namespace

TEST_CASE("several documents are looked through in their order", "[text]") {
  DocumentSearch search({test::open(book(4)).value(), test::open(book(2)).value()},
                        TextSearch::of("RUST").value());
  std::vector<std::pair<std::size_t, int>> found;
  CHECK(search.pages_left() == 6);
  REQUIRE(search
              .go_on([&](const DocumentHits& hits) -> Status {
                found.emplace_back(hits.document, hits.page.page);
                CHECK(hits.page.hits.size() == 2);
                return Done{};
              })
              .ok());
  CHECK(found == std::vector<std::pair<std::size_t, int>>{{0, 1}, {0, 3}, {1, 1}});
  CHECK(search.pages_left() == 0);
  CHECK(search.hit_count() == 6);
  CHECK(search.unread().empty());
}

TEST_CASE("a search goes on when more of a document has arrived", "[text]") {
  const std::string bytes = book(6);
  const auto source = std::make_shared<test::GappedSource>(
      make_buffer_source(Bytes(bytes.begin(), bytes.end()), "book.pdf"));
  const Document document = Document::open(std::shared_ptr<const ByteSource>(source)).value();
  // The third page's content is missing, as readers meet it that look for other pages first.
  source->gap_begin = bytes.find("(page 3");
  source->gap_end = source->gap_begin + 5;
  DocumentSearch search({document}, TextSearch::of("rust").value(), {.threads = 1});
  std::vector<int> found;
  const auto take = [&](const DocumentHits& hits) -> Status {
    found.push_back(hits.page.page);
    return Done{};
  };
  REQUIRE(search.go_on(take).ok());
  CHECK(found == std::vector<int>{1, 5});
  CHECK(search.pages_left() == 1);
  CHECK(search.unread().empty());
  REQUIRE(search.go_on(take).ok());
  CHECK(search.pages_left() == 1);
  source->gap_end = source->gap_begin = 0;
  REQUIRE(search.go_on(take).ok());
  CHECK(found == std::vector<int>{1, 5, 3});
  CHECK(search.pages_left() == 0);
  CHECK(search.hit_count() == 6);
}

TEST_CASE("a search that is stopped goes on where it was", "[text]") {
  DocumentSearch search({test::open(book(8)).value()}, TextSearch::of("rust").value(),
                        {.threads = 1});
  std::vector<int> found;
  const Status stopped = search.go_on([&](const DocumentHits& hits) -> Status {
    if (hits.page.page == 3) return Error(ErrorCode::cancelled, "enough");
    found.push_back(hits.page.page);
    return Done{};
  });
  CHECK_FALSE(stopped.ok());
  CHECK(search.pages_left() == 5);
  REQUIRE(search
              .go_on([&](const DocumentHits& hits) -> Status {
                found.push_back(hits.page.page);
                return Done{};
              })
              .ok());
  CHECK(found == std::vector<int>{1, 3, 5, 7});
}

TEST_CASE("pages that cannot be read are told, and the rest is looked through", "[text]") {
  std::string bytes = book(4);
  // An expression that would run for ever on one page.
  const std::string said = "(page 1 has rust, rust)";
  bytes.replace(bytes.find(said), said.size(), "(" + std::string(said.size() - 3, 'a') + "!)");
  DocumentSearch search({test::open(bytes).value()},
                        TextSearch::of("(p?a+g?e?)+ 3", {.is_pattern = true}).value());
  std::vector<int> found;
  REQUIRE(search
              .go_on([&](const DocumentHits& hits) -> Status {
                found.push_back(hits.page.page);
                return Done{};
              })
              .ok());
  CHECK(found == std::vector<int>{3});
  CHECK(search.pages_left() == 0);
}

TEST_CASE("a page on which a pattern would take for ever is told", "[text]") {
  test::PdfBuilder pdf;
  pdf.page("BT /F 2 Tf 10 100 Td (" + std::string(3000, 'a') + "!) Tj ET",
           "/MediaBox[0 0 9000 200]/Resources<</Font<</F<</Type/Font/Subtype/Type1/BaseFont"
           "/Courier>>>>>>");
  DocumentSearch search({test::open(pdf.finish()).value()},
                        TextSearch::of("(a+)+c", {.is_pattern = true}).value());
  REQUIRE(search.go_on([](const DocumentHits&) -> Status { return Done{}; }).ok());
  REQUIRE(search.unread().size() == 1);
  CHECK(search.unread()[0].page == 0);
  CHECK(search.unread()[0].error.code() == ErrorCode::limit);
  CHECK(search.pages_left() == 0);
}
