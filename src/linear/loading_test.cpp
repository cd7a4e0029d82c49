// SPDX-License-Identifier: Apache-2.0
// What a page needs is compared with what is said to be fetched for it; the ranges with a list of
// single bytes; the times with sums done by hand.
#include "lumvet/linear/loading.h"

#include <random>
#include <set>

#include "document/inside.h"
#include "linear/fetched_source.h"
#include "lumvet/edit/editable_document.h"
#include "tests/support/catch.h"
#include "tests/support/manual.h"

using namespace lumvet;
using linear::FetchedSource;
using linear::Ranges;

namespace {

Document saved(const Document& document, const SaveOptions& options) {
  BufferSink sink;
  REQUIRE(save(document, sink, options).ok());
  return Document::open(sink.take()).value();
}

Bytes bytes_of(const Document& document) {
  Bytes bytes(document.file_size());
  REQUIRE(store_of(document).source()->read(0, bytes).ok());
  return bytes;
}

// The places of what a page of test::manual is made of, streams and all.
std::vector<std::pair<std::uint64_t, std::uint64_t>> places_of(const Document& document,
                                                               int index) {
  const Page page = document.page(index).value();
  const Dict resources = document.resolve(page.dict()["Resources"]).value().as_dict();
  const Object notes = document.resolve(page.dict()["Annots"]).value();
  std::vector<Object> parts = {Object(page.id()), page.dict()["Contents"], notes.as_array().at(0)};
  for (const auto& [name, font] : resources["Font"].as_dict()) parts.push_back(font);
  for (const auto& [name, form] : resources["XObject"].as_dict()) parts.push_back(form);
  std::vector<std::pair<std::uint64_t, std::uint64_t>> places;
  for (const Object& part : parts) {
    const std::uint64_t begin = document.place_of(part.as_reference()).value()->offset;
    const Object object = document.resolve(part).value();
    const Stream* stream = object.as_stream();
    places.emplace_back(begin, stream != nullptr ? stream->offset + stream->length : begin + 1);
  }
  return places;
}

// Pages in an odd order; each must have come with what was fetched so far.
void expect_pages_to_come(const Document& document, bool by_hints) {
  const std::vector<int> pages = {7, 0, 39, 8, 7, 20};
  const LoadingReport report = loading_of(document, {.pages = pages, .piece = 512}).value();
  CHECK(report.is_by_hints == by_hints);
  CHECK(report.because.empty());
  REQUIRE(report.pages.size() == pages.size());
  Ranges there;
  for (std::size_t i = 0; i < pages.size(); ++i) {
    CHECK(report.pages[i].page == pages[i]);
    for (const Fetch& fetch : report.pages[i].fetches) {
      const auto fresh = there.missing(fetch.offset, fetch.offset + fetch.length);
      CHECK(fresh == decltype(fresh){{fetch.offset, fetch.offset + fetch.length}});
      there.add(fetch.offset, fetch.offset + fetch.length);
    }
    for (const auto& [begin, end] : places_of(document, pages[i]))
      CHECK(there.missing(begin, end).empty());
  }
  CHECK(report.pages[4].fetches.empty());  // seen before
  CHECK(report.pages[4].seconds == 0);
}

}  // namespace

TEST_CASE("ranges that touch are one, and what they lack is told", "[save]") {
  std::mt19937 random(7);
  for (int round = 0; round < 200; ++round) {
    Ranges ranges;
    std::vector<bool> bytes(64);
    for (int i = 0; i < 8; ++i) {
      const std::uint64_t begin = random() % 60;
      const std::uint64_t end = begin + random() % 6;
      ranges.add(begin, end);
      for (std::uint64_t at = begin; at < end; ++at) bytes[at] = true;
    }
    std::vector<bool> same(64);
    for (const auto& [begin, end] : ranges.all()) {
      CHECK((begin == 0 || !bytes[begin - 1]));
      for (std::uint64_t at = begin; at < end; ++at) same[at] = true;
    }
    CHECK(same == bytes);
    std::vector<bool> rest = bytes;
    for (const auto& [begin, end] : ranges.missing(10, 50))
      for (std::uint64_t at = begin; at < end; ++at) {
        CHECK_FALSE(bytes[at]);
        rest[at] = true;
      }
    CHECK(std::count(rest.begin() + 10, rest.begin() + 50, true) == 40);
  }
}

TEST_CASE("what depends on an answer is asked for in another turn", "[save]") {
  FetchedSource source(make_buffer_source(Bytes(1000, 'x')), 100);
  CHECK(source.slice(150, 10).ok());
  CHECK(source.slice(155, 40).ok());  // has come with it
  CHECK(source.slice(190, 20).ok());
  source.begin_at(1);
  CHECK(source.slice(950, 100).ok());
  const linear::Turns turns = source.take();
  using All = std::vector<std::pair<std::uint64_t, std::uint64_t>>;
  REQUIRE(turns.size() == 2);
  CHECK(turns[0].all() == All{{100, 200}});
  CHECK(turns[1].all() == All{{200, 300}, {900, 1000}});
  CHECK(source.turns() == 0);
}

TEST_CASE("all that a page needs is fetched before it is shown", "[save]") {
  const Document document = test::manual(40);
  using lumvet::FileLayout;
  for (const FileLayout layout : {FileLayout::compact, FileLayout::classic})
    expect_pages_to_come(saved(document, {.layout = layout}), false);
  for (const FileLayout layout : {FileLayout::linearized, FileLayout::linearized_classic})
    expect_pages_to_come(saved(document, {.layout = layout}), true);
  const NewProtection locked{.owner_password = "ostrel"};
  expect_pages_to_come(saved(document, {.layout = FileLayout::linearized, .protection = locked}),
                       true);
  expect_pages_to_come(saved(document, {.protection = locked}), false);
}

TEST_CASE("a linearized file is fetched in few requests", "[save]") {
  const Document document =
      saved(test::manual(40, "/OpenAction[108 0 R/Fit]"), {.layout = FileLayout::linearized});
  const LoadingReport report = loading_of(document, {.piece = 256}).value();
  REQUIRE(report.pages.size() == 2);
  CHECK(report.pages[0].page == 2);  // where it opens
  CHECK(report.pages[1].page == 20);
  CHECK(report.pages[0].fetches.size() == 2);
  CHECK(report.pages[1].fetches.size() <= 2);  // itself and its font
  CHECK(report.pages[0].bytes + report.pages[1].bytes < document.file_size() / 2);
}

TEST_CASE("times are those of the connection", "[save]") {
  const Document document = saved(test::manual(3), {.layout = FileLayout::linearized});
  const Connection connection{.round_trip = 100, .speed = 0.008};  // 1000 bytes a second
  const LoadingReport report =
      loading_of(document, {.pages = {0}, .connection = connection, .piece = 500}).value();
  const auto& fetches = report.pages[0].fetches;
  REQUIRE(fetches.size() == 2);
  CHECK(fetches[0].begins == 0);
  CHECK(fetches[0].first_byte == Approx(0.1));
  CHECK(fetches[0].ends == Approx(0.6));
  CHECK(fetches[1].begins == Approx(0.6));
  CHECK(fetches[1].ends == Approx(0.7 + static_cast<double>(fetches[1].length) / 1000));
  CHECK(report.pages[0].seconds == fetches[1].ends);
  CHECK(report.whole_seconds == Approx(0.1 + static_cast<double>(document.file_size()) / 1000));
}

TEST_CASE("a file whose hint tables do not count is read by its cross references", "[save]") {
  const Document linearized = saved(test::manual(5), {.layout = FileLayout::linearized_classic});
  EditableDocument changes = EditableDocument::of(linearized);
  REQUIRE(changes.set_language("de").ok());
  Bytes updated = bytes_of(linearized);
  const Bytes more = changes.appended().value();
  updated.insert(updated.end(), more.begin(), more.end());
  const LoadingReport report = loading_of(Document::open(updated).value()).value();
  CHECK_FALSE(report.is_by_hints);
  CHECK(report.because == "it was updated since it was linearized");

  std::string wrong(as_text(bytes_of(linearized)));
  wrong.replace(wrong.find("/N 5"), 4, "/N 4");
  const LoadingReport other =
      loading_of(Document::open(Bytes(wrong.begin(), wrong.end())).value()).value();
  CHECK_FALSE(other.is_by_hints);
  CHECK_THAT(other.because, Catch::StartsWith("its tables are wrong: /N, the number of pages"));
}

TEST_CASE("loading needs pages that there are and a connection that is one", "[save]") {
  const Document document = test::manual(3);
  CHECK(loading_of(document, {.pages = {3}}).error().code() == ErrorCode::invalid_argument);
  CHECK(loading_of(document, {.piece = 0}).error().code() == ErrorCode::invalid_argument);
  CHECK(loading_of(document, {.connection = {.round_trip = 5, .speed = 0}}).error().code() ==
        ErrorCode::invalid_argument);
}
