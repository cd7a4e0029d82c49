// SPDX-License-Identifier: Apache-2.0
// What is found where one page ends and the next begins, by a search of pages, of documents and of
// an index alike.
#include <numeric>

#include "lumvet/text/document_search.h"
#include "lumvet/text/text_index.h"
#include "tests/support/catch.h"
#include "tests/support/gapped_source.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;

namespace {

// A page of some lines, below a head and above a number, as books have them.
std::string content_of(int number, const std::vector<std::string>& lines) {
  std::string content = "BT /F 8 Tf 50 380 Td (" +
                        std::string(number % 2 == 0 ? "Ostrel Valley" : "The bridge") +
                        ") Tj ET BT /F 10 Tf 14 TL 50 300 Td ";
  for (const std::string& line : lines) content += "(" + line + ") Tj T* ";
  return content + "ET BT /F 8 Tf 190 20 Td (" + std::to_string(number + 1) + ") Tj ET";
}

std::string book(const std::vector<std::vector<std::string>>& pages) {
  test::PdfBuilder pdf;
  std::string kids;
  for (std::size_t i = 0; i < pages.size(); ++i) kids += std::to_string(10 + 2 * i) + " 0 R ";
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R>>");
  pdf.object(2, "<</Type/Pages/Kids[" + kids + "]/Count " + std::to_string(pages.size()) +
                    "/MediaBox[0 0 400 400]/Resources<</Font<</F<</Type/Font/Subtype/Type1"
                    "/BaseFont/Helvetica>>>>>>>>");
  for (std::size_t i = 0; i < pages.size(); ++i) {
    const int number = 10 + 2 * static_cast<int>(i);
    pdf.object(number,
               "<</Type/Page/Parent 2 0 R/Contents " + std::to_string(number + 1) + " 0 R>>");
    // So far from each other that no reading of one page meets the next.
    pdf.stream(number + 1, "",
               content_of(static_cast<int>(i), pages[i]) + "%" + std::string(100'000, '.'));
  }
  return pdf.finish();
}

const std::vector<std::vector<std::string>> kPages = {
    {"The deck is painted", "once in seven years, and the old swing"},
    {"bridge is closed for it.", "Ask for the time-"},
    {"table at Hollin Mill, which is kept by the"},
    {"keeper of the swing", "bridge. All of it is"},
    {"written down."}};

// "page:hit" or "page:begin>end" of one that goes on.
std::string told(int page, std::string_view text, const std::vector<TextSpan>& hits,
                 const std::vector<HitAcross>& across, std::string_view next) {
  const auto part = [](std::string_view of, const TextSpan& span) {
    return std::string(of.substr(span.begin, span.end - span.begin));
  };
  std::string all;
  for (const TextSpan& hit : hits) all += std::to_string(page) + ":" + part(text, hit) + "|";
  for (const HitAcross& hit : across)
    all += std::to_string(page) + ":" + part(text, hit.here) + ">" + part(next, hit.next) + "|";
  return all;
}

std::string told(const PageHits& found) {
  return told(found.page, found.words.text(), found.hits, found.across,
              found.next ? found.next->text() : "");
}

// What all ways of looking find, which is the same.
std::string found(const Document& document, const std::string& wanted,
                  const SearchOptions& options = {}) {
  const TextSearch search = TextSearch::of(wanted, options).value();
  std::vector<int> pages(static_cast<std::size_t>(document.page_count()));
  std::iota(pages.begin(), pages.end(), 0);
  std::string all;
  CHECK(find_in(document, pages, search, {}, [&](const PageHits& hits) -> Status {
          all += told(hits);
          return Done{};
        }).ok());
  std::string of_documents;
  DocumentSearch looking({document}, search);
  CHECK(looking
            .go_on([&](const DocumentHits& hits) -> Status {
              of_documents += told(hits.page);
              return Done{};
            })
            .ok());
  CHECK(of_documents == all);
  CHECK(looking.hit_count() == static_cast<std::size_t>(std::count(all.begin(), all.end(), '|')));
  std::string of_index;
  CHECK(TextIndex::of(document)
            .value()
            .find(search,
                  [&](const IndexHits& hits) -> Status {
                    of_index += told(hits.page, hits.text, hits.spans, hits.across, hits.next);
                    return Done{};
                  })
            .ok());
  CHECK(of_index == all);
  return all;
}

}  // namespace

TEST_CASE("what begins on one page and ends on the next is found", "[text]") {
  const Document document = test::open(book(kPages)).value();
  CHECK(found(document, "swing bridge") == "0:swing>bridge|3:swing\nbridge|");
  CHECK(found(document, "the old SWING bridge is") == "0:the old swing>bridge is|");
  // A word that the page's end parts, with a hyphen.
  CHECK(found(document, "timetable") == "1:time->table|");
  CHECK(found(document, "the keeper") == "2:the>keeper|");
  CHECK(found(document, "the keeper", {.match_case = true, .whole_words = true}) ==
        "2:the>keeper|");
  CHECK(found(document, "he keeper", {.whole_words = true}) == "");
  CHECK(found(document, "by the k[a-z]+r", {.is_pattern = true}) == "2:by the>keeper|");
  CHECK(found(document, "is written", {.match_accents = true}) == "3:is>written|");
  // Heads and numbers stand between pages, and are found where they are.
  CHECK(found(document, "1 bridge") == "");
  CHECK(found(document, "the bridge") == "1:The bridge|3:The bridge|");
  // Nothing goes on behind the last page.
  CHECK(found(document, "down. The") == "");
}

TEST_CASE("a sentence goes on past the footnotes of its page", "[text]") {
  const auto page_ending_with = [](const std::string& lines) {
    test::PdfBuilder pdf;
    pdf.object(1, "<</Type/Catalog/Pages 2 0 R>>");
    pdf.object(2,
               "<</Type/Pages/Kids[10 0 R 12 0 R]/Count 2/MediaBox[0 0 400 400]/Resources<</Font<<"
               "/F<</Type/Font/Subtype/Type1/BaseFont/Helvetica>>>>>>>>");
    pdf.object(10, "<</Type/Page/Parent 2 0 R/Contents 11 0 R>>");
    pdf.object(12, "<</Type/Page/Parent 2 0 R/Contents 13 0 R>>");
    pdf.stream(11, "", "BT /F 10 Tf 14 TL 50 300 Td " + lines + " ET");
    pdf.stream(13, "", "BT /F 10 Tf 50 300 Td (bridge is closed for it.) Tj ET");
    return found(test::open(pdf.finish()).value(), "swing bridge");
  };
  const std::string text =
      "(The deck is painted once) Tj T* (in seven years, by the office,) Tj T* ";
  const std::string small = "0 -60 Td /F 7 Tf 9 TL ";
  CHECK(page_ending_with(text + "(and the swing) Tj " + small +
                         "(1 Which has a boat.) Tj T* (And a ladder.) Tj") == "0:swing>bridge|");
  // Small print without a sign in front belongs to the text, and so does a list below a heading.
  CHECK(page_ending_with(text + "(and the keeper) Tj " + small +
                         "(All of it by hand, or by a swing) Tj") == "0:swing>bridge|");
  CHECK(page_ending_with("/F 16 Tf (Paint) Tj 0 -20 Td /F 10 Tf (1 the deck) Tj T* (2 the rail) Tj "
                         "T* (3 the swing) Tj") == "0:swing>bridge|");
}

TEST_CASE("what pages have by themselves counts first", "[text]") {
  const Document document = test::open(book({{"aaaa bab"}, {"bab cc"}, {"c"}, {"d"}})).value();
  CHECK(found(document, "bab") == "0:bab|1:bab|");
  CHECK(found(document, "b[a b]*b", {.is_pattern = true}) == "0:bab|1:bab|");
  CHECK(found(document, "b b") == "0:b>b|");
  CHECK(found(document, "cc c") == "1:cc>c|");
}

TEST_CASE("an empty page has nothing that goes on", "[text]") {
  const Document document = test::open(book({{"swing"}, {}, {"bridge"}})).value();
  CHECK(found(document, "swing bridge") == "");
}

TEST_CASE("what goes on onto a page that arrives late is found then", "[text]") {
  const std::string bytes = book(kPages);
  const auto source = std::make_shared<test::GappedSource>(
      make_buffer_source(Bytes(bytes.begin(), bytes.end()), "book.pdf"));
  const Document document = Document::open(std::shared_ptr<const ByteSource>(source)).value();
  source->gap_begin = bytes.find("(bridge is closed");
  source->gap_end = source->gap_begin + 5;
  DocumentSearch search(
      {document},
      TextSearch::of("swing bridge|timetable|time-\ntable", {.is_pattern = true}).value(),
      {.threads = 1});
  std::vector<std::string> all;
  const auto take = [&](const DocumentHits& hits) -> Status {
    all.push_back(told(hits.page));
    return Done{};
  };
  REQUIRE(search.go_on(take).ok());
  CHECK(all == std::vector<std::string>{"3:swing\nbridge|"});
  CHECK(search.pages_left() == 1);
  source->gap_end = source->gap_begin = 0;
  REQUIRE(search.go_on(take).ok());
  CHECK(all == std::vector<std::string>{"3:swing\nbridge|", "0:swing>bridge|", "1:time->table|"});
  CHECK(search.hit_count() == 3);
  CHECK(search.pages_left() == 0);
}

TEST_CASE("pages that are looked through by themselves end where they end", "[text]") {
  const Document document = test::open(book(kPages)).value();
  const auto in = [&](const std::vector<int>& pages) {
    std::string all;
    CHECK(find_in(document, pages, TextSearch::of("swing bridge").value(), {},
                  [&](const PageHits& hits) -> Status {
                    all += told(hits);
                    return Done{};
                  })
              .ok());
    return all;
  };
  CHECK(in({0}) == "");
  CHECK(in({0, 2}) == "");
  CHECK(in({0, 1, 2, 3}) == "0:swing>bridge|3:swing\nbridge|");
  CHECK(in({3, 1, 0}) == "3:swing\nbridge|0:swing>bridge|");
}

TEST_CASE("a line of context goes over the page's end", "[text]") {
  const std::string text = "The deck and the old swing\n\n1";
  const std::string next = "The bridge\n\nbridge is closed for it.";
  const std::size_t here = text.find("swing");
  const std::size_t there = next.find("bridge is");
  const Snippet snippet = snippet_across(text, next, {{here, here + 5}, {there, there + 6}}, 16);
  CHECK(snippet.before == "and the old ");
  CHECK(snippet.hit == "swing bridge");
  CHECK(snippet.after == " is closed for");
  // Beyond the texts there is nothing.
  CHECK(snippet_across("a", "b", {{5, 9}, {7, 9}}).hit.find('c') == std::string::npos);
}

TEST_CASE("signs that are written without blanks are found over line and page ends", "[text]") {
  const auto first = [](std::string_view text, std::string_view wanted) {
    const auto hits = TextSearch::of(wanted)->in(text).value();
    return hits.empty() ? std::string("none")
                        : std::string(text.substr(hits[0].begin, hits[0].end - hits[0].begin));
  };
  CHECK(first("旧旋\n转桥梁", "旋转桥") == "旋\n转桥");
  CHECK(first("旧旋转桥梁", "旋 转桥") == "旋转桥");
  CHECK(first("第3\n章", "第3章") == "第3\n章");
  CHECK(first("用 PDF 文件", "pdf文件") == "PDF 文件");
  CHECK(first("はね\n橋、", "はね橋") == "はね\n橋");
  CHECK(first("สะ\nพาน", "สะพาน") == "สะ\nพาน");
  // Hangul is written with blanks, which count.
  CHECK(first("다리 점검", "다리점검") == "none");
  CHECK(first("다리\n점검", "다리 점검") == "다리\n점검");
}
