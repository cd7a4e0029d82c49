// SPDX-License-Identifier: Apache-2.0
#include "lumvet/text/text_index.h"

#include "lumvet/edit/editable_document.h"
#include "tests/support/catch.h"

using namespace lumvet;

namespace {

Document producer(const std::string& name) {
  return Document::open(std::string(LUMVET_SOURCE_DIR) + "/demo/producers/" + name).value();
}

Bytes saved(const TextIndex& index) {
  BufferSink sink;
  REQUIRE(index.save(sink).ok());
  return sink.take();
}

std::string found(const TextIndex& index, const std::string& wanted,
                  const SearchOptions& options = {}) {
  std::string all;
  const auto status =
      index.find(TextSearch::of(wanted, options).value(), [&](const IndexHits& hits) -> Status {
        for (const TextSpan& span : hits.spans)
          all += std::to_string(hits.page) + ":" +
                 std::string(hits.text.substr(span.begin, span.end - span.begin)) + "|";
        return Done{};
      });
  return status.ok() ? all : status.error().message();
}

}  // namespace

TEST_CASE("an index finds what the pages have, also once it was kept", "[text]") {
  for (const char* name : {"loads.pdf", "tariff.pdf", "notice.pdf", "drawing.pdf"}) {
    CAPTURE(name);
    const Document document = producer(name);
    const TextIndex made = TextIndex::of(document).value();
    const TextIndex index = TextIndex::load(saved(made)).value();
    REQUIRE(index.page_count() == document.page_count());
    for (int i = 0; i < index.page_count(); ++i)
      CHECK(index.text(i) == text_of(document.page(i).value()).value());
    for (const char* wanted : {"bridge", "THE", "e", "crowns", "nowhere at all", "metres. for"}) {
      for (const SearchOptions& options :
           {SearchOptions{}, SearchOptions{.match_case = true}, SearchOptions{.whole_words = true},
            SearchOptions{.match_accents = true}, SearchOptions{.is_pattern = true}}) {
        std::string expected;
        const TextSearch search = TextSearch::of(wanted, options).value();
        for (int i = 0; i < document.page_count(); ++i) {
          const std::string text = text_of(document.page(i).value()).value();
          for (const TextSpan& span : search.in(text).value())
            expected +=
                std::to_string(i) + ":" + text.substr(span.begin, span.end - span.begin) + "|";
        }
        CHECK(found(index, wanted, options) == expected);
      }
    }
    CHECK(index.memory() <
          4 * (index.text(0).size() + 200) * static_cast<std::size_t>(index.page_count()) + 4096);
  }
}

TEST_CASE("an index knows the document that it was made of", "[text]") {
  const Document document = producer("loads.pdf");
  const TextIndex index = TextIndex::of(document).value();
  CHECK(index.is_of(document).value());
  CHECK_FALSE(index.is_of(producer("tariff.pdf")).value());
  auto edited = EditableDocument::of(document);
  REQUIRE(edited.rotate(PageSelection::parse("1").value(), 90).ok());
  BufferSink sink;
  REQUIRE(edited.save(sink).ok());
  CHECK_FALSE(index.is_of(Document::open(sink.take()).value()).value());
}

TEST_CASE("an index that is damaged anywhere is not used", "[text]") {
  const Bytes good = saved(TextIndex::of(producer("tariff.pdf")).value());
  for (std::size_t at = 0; at < good.size(); at += 7) {
    Bytes bad = good;
    bad[at] ^= 0x10;
    CAPTURE(at);
    CHECK_FALSE(TextIndex::load(bad).ok());
    CHECK_FALSE(
        TextIndex::load(Bytes(good.begin(), good.begin() + static_cast<std::ptrdiff_t>(at))).ok());
  }
  Bytes later = good;
  later[7] = '9';
  CHECK(TextIndex::load(later).error().code() == ErrorCode::unsupported);
  CHECK(TextIndex::load({}).error().code() == ErrorCode::malformed);
}

TEST_CASE("an error of who takes hits ends the search", "[text]") {
  const TextIndex index = TextIndex::of(producer("loads.pdf")).value();
  int calls = 0;
  const Status status = index.find(TextSearch::of("e").value(), [&](const IndexHits&) -> Status {
    ++calls;
    return Error(ErrorCode::cancelled, "enough");
  });
  CHECK(status.error().code() == ErrorCode::cancelled);
  CHECK(calls == 1);
}
