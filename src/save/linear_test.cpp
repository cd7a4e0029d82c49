// SPDX-License-Identifier: Apache-2.0
// Linearized files against annex F: a hint table worked out by hand, and every number in the file
// against where things are.
#include <random>

#include "document/inside.h"
#include "linear/hint_tables.h"
#include "lumvet/document/document.h"
#include "lumvet/linear/linear_check.h"
#include "lumvet/save/save.h"
#include "tests/support/catch.h"
#include "tests/support/manual.h"

using namespace lumvet;
using namespace lumvet::linear;

namespace {

Bytes written_as(const Document& document, const SaveOptions& options) {
  BufferSink sink;
  REQUIRE(save(document, sink, options).ok());
  return sink.take();
}

// The numbers of the first object, by their keys.
std::uint64_t stated(std::string_view file, const char* key, int index = 0) {
  std::size_t at = file.find(key, file.find("/Linearized")) + std::string_view(key).size();
  for (int i = 0; i <= index; ++i) at = file.find_first_of("0123456789", at + (i > 0 ? 10 : 0));
  return std::stoull(std::string(file.substr(at, 10)));
}

HintTables hints_of(const Document& document, std::uint64_t at) {
  const auto source = store_of(document).source();
  const ByteSlice slice = source->slice(at, 20).value();
  const auto number = static_cast<std::uint32_t>(std::stoul(std::string(as_text(slice.view()))));
  const Object stream = document.object({number, 0}).value();
  std::vector<std::pair<char, std::uint64_t>> ranges;
  for (const char key : {'O', 'E', 'L', 'I'})
    if (const Object& place = stream.as_dict()[std::string(1, key)]; place.is_integer())
      ranges.emplace_back(key, place.as_integer());
  const ByteSlice bytes = document.decoded(stream).value();
  return read_hints(bytes.view(), static_cast<std::uint64_t>(document.page_count()),
                    static_cast<std::uint64_t>(stream.as_dict()["S"].as_integer()), ranges)
      .value();
}

}  // namespace

TEST_CASE("hint tables have the bits that annex F gives them", "[save]") {
  // Two pages: of 3 and 4 objects, 100 and 107 bytes; contents at 20 and 22 of 30 and 30 bytes; the
  // second uses shared groups 0 and 2. Three groups of 40, 60 and 25 bytes, two of the first page.
  const HintTables tables{.first_page_place = 0x1234,
                          .pages = {{3, 100, 20, 30, {}}, {4, 107, 22, 30, {0, 2}}},
                          .first_shared_object = 9,
                          .first_shared_place = 0x2345,
                          .first_page_groups = 2,
                          .shared = {{40}, {60}, {25}},
                          .ranges = {{'O', 11, 0x3456, 2, 80}}};
  const HintBytes hints = written(tables);
  const Bytes expected = {
      0,           0,           0,           3,           // least number of objects
      0,           0,           0x12,        0x34,        // place of the first page
      0,           1,                                     // bits for 0 and 1
      0,           0,           0,           100,  0, 3,  // least length; bits for 0 and 7
      0,           0,           0,           20,   0, 2,  // least content offset; bits for 0 and 2
      0,           0,           0,           30,   0, 0,  // content lengths, all the same
      0,           2,           0,           2,    0, 0,  // bits for 2 uses, group 2, no numerators
      0,           4,                                     // denominator
      0b0100'0000,                                        // objects beyond the least: 0, 1
      0b0001'1100,                                        // lengths: 000, 111
      0b0010'0000,                                        // uses: 00, 10
      0b0010'0000,                                        // groups: 00, 10
      0b0010'0000,                                        // offsets: 00, 10
      0,           0,           0,           9,           // first shared object
      0,           0,           0x23,        0x45,        // its place
      0,           0,           0,           2,           // groups of the first page
      0,           0,           0,           3,           // all groups
      0,           0,                                     // bits for numbers of objects
      0,           0,           0,           25,   0, 6,  // least length; bits for 35
      0b0011'1110, 0b0011'0000, 0b0000'0000,              // 001111 100011 000000
      0,                                                  // no signatures
      0,           0,           0,           11,   0, 0, 0x34, 0x56, 0, 0, 0, 2, 0, 0, 0, 80};
  CHECK(hints.bytes == expected);
  CHECK(hints.shared_table == 41);
  REQUIRE(hints.ranges.size() == 1);
  CHECK(hints.ranges[0].second == expected.size() - 16);
  CHECK(read_hints(hints.bytes, 2, hints.shared_table, hints.ranges).value() == tables);
  for (std::size_t cut = 0; cut < expected.size(); ++cut)
    CHECK_FALSE(
        read_hints(ByteView(expected).first(cut), 2, hints.shared_table, hints.ranges).ok());
}

TEST_CASE("hint tables of any numbers are read as they were written", "[save]") {
  std::mt19937 random(7);
  const auto up_to = [&](std::uint64_t most) { return random() % (most + 1); };
  for (int round = 0; round < 50; ++round) {
    HintTables tables;
    tables.first_page_place = up_to(1 << 30);
    for (std::uint64_t i = up_to(30); i-- > 0;)
      tables.shared.push_back({up_to(99999), 1 + up_to(5)});
    for (std::uint64_t i = 1 + up_to(40); i-- > 0;) {
      PageHint page{
          1 + up_to(300), up_to(1 << 20), up_to(999), up_to(round % 2 == 0 ? 0 : 5000), {}};
      for (std::uint64_t k = up_to(6); k-- > 0 && !tables.shared.empty();)
        page.shared.push_back(up_to(tables.shared.size() - 1));
      tables.pages.push_back(std::move(page));
    }
    const HintBytes hints = written(tables);
    CHECK(read_hints(hints.bytes, tables.pages.size(), hints.shared_table, {}).value() == tables);
  }
}

TEST_CASE("every number in a linearized file is where it says", "[save]") {
  const auto layout = GENERATE(FileLayout::linearized, FileLayout::linearized_classic);
  const int count = GENERATE(1, 2, 30);
  const int first = GENERATE(0, 1);
  if (first >= count) return;
  const bool is_locked = GENERATE(false, true);
  const Document before =
      test::manual(count, first == 0 ? "/PageMode/UseOutlines" : "/OpenAction[104 0 R/Fit]");
  SaveOptions options{.layout = layout};
  if (is_locked) options.protection = NewProtection{.user_password = "ostrel"};
  const Bytes bytes = written_as(before, options);
  if (!is_locked) CHECK(written_as(before, options) == bytes);
  const std::string_view file = as_text(bytes);
  const Document document =
      Document::open(Bytes(bytes), {.password = is_locked ? "ostrel" : ""}).value();
  CAPTURE(static_cast<int>(layout), count, first, is_locked);
  CHECK(document.is_linearized());
  CHECK(document.findings().empty());
  REQUIRE(document.page_count() == count);
  CHECK(stated(file, "/L ") == bytes.size());
  CHECK(stated(file, "/N") == static_cast<std::uint64_t>(count));
  const Page opening = document.page(first).value();
  CHECK(stated(file, "/O") == opening.id().number);
  const std::uint64_t end = stated(file, "/E");
  const std::uint64_t hints_at = stated(file, "/H");
  const std::uint64_t hints_size = stated(file, "/H", 1);
  CHECK(file.substr(hints_at + hints_size - 7, 7) == "endobj\n");
  CHECK(file.substr(end - 7, 7) == "endobj\n");
  const std::uint64_t main_at = stated(file, "/T");
  if (layout == FileLayout::linearized_classic)
    CHECK(file.substr(main_at, 21) == "\n0000000000 65535 f \n");

  const LinearCheck check = check_linearized(document).value();
  CHECK(check.state == LinearCheck::State::yes);
  CHECK(check.differences.empty());

  const HintTables hints = hints_of(document, hints_at);
  const auto real = [&](std::uint64_t place) {
    return place >= hints_at ? place + hints_size : place;
  };
  const auto offset_of = [&](const Object& reference) {
    return document.place_of(reference.as_reference()).value()->offset;
  };
  std::uint64_t at = hints.first_page_place;
  std::vector<std::uint64_t> starts(static_cast<std::size_t>(count));
  std::vector<int> order = {first};
  for (int i = 0; i < count; ++i)
    if (i != first) order.push_back(i);
  for (const int i : order) {
    const PageHint& hint = hints.pages[static_cast<std::size_t>(i)];
    const Page page = document.page(i).value();
    const std::uint64_t start = real(at);
    CHECK(document.place_of(page.id()).value()->offset == start);
    // Its own content and image are within, the content where the hint says.
    const std::uint64_t content = offset_of(page.dict()["Contents"]);
    CHECK(content == start + hint.content_offset);
    CHECK(file.substr(content + hint.content_length - 7, 7) == "endobj\n");
    const Object resources = document.resolve(page.dict()["Resources"]).value();
    const Object forms = document.resolve(resources.as_dict()["XObject"]).value();
    const std::uint64_t image = offset_of(forms.as_dict()["X"]);
    const bool is_within = image > start && image < start + hint.length;
    CHECK((is_within || i == 2));  // the third page shares its own with the first
    // The font is the page's own, in the first page's part, or in a group that the hint names.
    const Object fonts = document.resolve(resources.as_dict()["Font"]).value();
    const std::uint64_t font = offset_of(fonts.as_dict()["F"]);
    bool is_named = font < end || (font > start && font < start + hint.length);
    for (const std::uint64_t group : hint.shared) {
      const bool is_first = group < hints.first_page_groups;
      std::uint64_t place = is_first ? hints.first_page_place : hints.first_shared_place;
      for (std::uint64_t k = is_first ? 0 : hints.first_page_groups; k < group; ++k)
        place += hints.shared[k].length;
      is_named = is_named || real(place) == font;
    }
    CHECK(is_named);
    CHECK(page.content().value() == before.page(i)->content().value());
    at += hint.length;
  }
  CHECK(hints.ranges.size() == 2);  // of the outline and the information
  CHECK(document.outline().value()[0].title == "Bridges");
  CHECK(document.info().value().title == "Manual");
}

TEST_CASE("the hint of a page's content is of its streams, not of what they lead to", "[save]") {
  const std::string contents = GENERATE(as<std::string>(), "11 0 R", "[11 0 R 12 0 R]", "10 0 R");
  test::PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R>>");
  pdf.object(2, "<</Type/Pages/Kids[3 0 R 4 0 R]/Count 2/MediaBox[0 0 9 9]>>");
  pdf.object(3, "<</Type/Page/Parent 2 0 R>>");
  pdf.object(4, "<</Type/Page/Parent 2 0 R/Contents " + contents + "/Resources<<>>>>");
  pdf.object(10, "[11 0 R 12 0 R]");
  pdf.stream(11, "/Filter 20 0 R/OstrelNote 21 0 R", "3120773e");
  pdf.stream(12, "/Filter[/ASCIIHexDecode]/DecodeParms 22 0 R", "3220773e");
  pdf.object(20, "/ASCIIHexDecode").stream(21, "", "a note of some length").object(22, "[null]");
  const Bytes bytes =
      written_as(test::open(pdf.finish()).value(), {.layout = FileLayout::linearized_classic});
  const std::string_view file = as_text(bytes);
  const Document document = Document::open(Bytes(bytes)).value();
  const PageHint hint = hints_of(document, stated(file, "/H")).pages[1];
  const Page page = document.page(1).value();
  const Object list = document.resolve(page.dict()["Contents"]).value();
  const Array streams = list.is_array() ? list.as_array() : Array{page.dict()["Contents"]};
  const std::uint64_t start = document.place_of(streams.front().as_reference()).value()->offset;
  CHECK(start == document.place_of(page.id()).value()->offset + hint.content_offset);
  // One behind the other, to the end of the last.
  const std::uint64_t last = document.place_of(streams.back().as_reference()).value()->offset;
  CHECK(start + hint.content_length == file.find("endobj", last) + 7);
}

TEST_CASE("pages without numbers and trees that go in circles are linearized too", "[save]") {
  test::PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R>>");
  pdf.object(2,
             "<</Type/Pages/Kids[<</Type/Page/Contents 4 0 R>> 3 0 R 2 0 R]/Count 2/MediaBox[0 0 9 "
             "9]/Rotate 90>>");
  pdf.object(3, "<</Type/Page/Parent 2 0 R/Contents 4 0 R>>").stream(4, "", "1 w");
  const Document odd = test::open(pdf.finish()).value();
  const Document document =
      Document::open(written_as(odd, {.layout = FileLayout::linearized})).value();
  REQUIRE(document.page_count() == 2);
  CHECK(document.page(0)->dict()["Rotate"].as_integer() == 90);
  test::PdfBuilder none;
  none.object(1, "<</Type/Catalog/Pages 2 0 R>>").object(2, "<</Type/Pages/Kids[]/Count 0>>");
  BufferSink sink;
  const auto refused =
      save(test::open(none.finish()).value(), sink, {.layout = FileLayout::linearized});
  REQUIRE_FALSE(refused.ok());
  CHECK(refused.error().code() == ErrorCode::malformed);
}

TEST_CASE("a linearized page has what it must have, whatever damage left of it", "[save]") {
  test::PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R>>");
  pdf.object(2, "<</Type/Pages/Kids[3 0 R 4 0 R]/Count 2>>");
  pdf.object(3, "<</Type/Page/Parent 2 0 R/Resources 99 0 R/MediaBox 99 0 R>>");
  pdf.object(4, "<</Type/Page/Parent 2 0 R/Resources 5 0 R/MediaBox[0 0 9 9]>>");
  pdf.stream(5, "/Type/ObjStm/N 0/First 0", "");
  const Document damaged = test::open(pdf.finish()).value();
  const Document saved =
      Document::open(written_as(damaged, {.layout = FileLayout::linearized})).value();
  REQUIRE(saved.page_count() == 2);
  for (const int index : {0, 1}) {
    const Page page = saved.page(index).value();
    const Dict own = saved.object(page.id()).value().as_dict();
    CHECK(own["Resources"].is_dict());
    CHECK(own["MediaBox"].as_array().size() == 4);
  }
  CHECK(check_linearized(saved)->differences.empty());
}

TEST_CASE("the check names what a table gets wrong, and what was linearized once", "[save]") {
  const Document before = test::manual(4);
  CHECK(check_linearized(before).value().state == LinearCheck::State::no);
  const Bytes good = written_as(before, {.layout = FileLayout::linearized_classic});
  const auto changed = [&](std::string_view what, std::string_view by) {
    std::string text(as_text(good));
    const std::size_t at = text.find(what);
    REQUIRE(at != std::string::npos);
    text.replace(at, by.size(), by);
    return check_linearized(test::open(text).value()).value();
  };
  const LinearCheck wrong_object = changed("/O ", "/O 9");
  CHECK(wrong_object.state == LinearCheck::State::yes);
  REQUIRE_FALSE(wrong_object.differences.empty());
  CHECK_THAT(wrong_object.differences[0], Catch::StartsWith("/O, the first page's object: 9"));
  const LinearCheck wrong_count = changed("/N 4", "/N 5");
  CHECK_THAT(wrong_count.differences[0], Catch::Contains("/N") && Catch::Contains("4 it is"));
  const LinearCheck longer =
      check_linearized(test::open(std::string(as_text(good)) + "\n").value()).value();
  CHECK(longer.state == LinearCheck::State::was_once);
}
