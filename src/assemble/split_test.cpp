// SPDX-License-Identifier: Apache-2.0
#include "lumvet/assemble/split.h"

#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"
#include "tests/support/temporary_folder.h"

using namespace lumvet;
namespace fs = std::filesystem;

namespace {

// Page i shows its number and an image of its own of 3,000 bytes that do not deflate; labels are
// roman, and chapters begin at pages 2 and 5, with a section at 3.
std::string book(int count, const std::string& chapter = "Deck: new/old") {
  test::PdfBuilder pdf;
  pdf.object(
      1, "<</Type/Catalog/Pages 2 0 R/PageLabels<</Nums[0<</S/r>>]>>/Outlines<</First 4 0 R>>>>");
  std::string kids;
  unsigned state = 7;
  for (int i = 0; i < count; ++i) {
    kids += std::to_string(10 + i) + " 0 R ";
    pdf.object(10 + i, "<</Type/Page/Parent 2 0 R/Contents " + std::to_string(100 + i) +
                           " 0 R/Resources<</XObject<</P " + std::to_string(200 + i) +
                           " 0 R>>>>>>");
    pdf.stream(100 + i, "", "page " + std::to_string(i + 1));
    std::string noise;
    for (int k = 0; k < 3000; ++k)
      noise += static_cast<char>((state = state * 1664525 + 1013904223) >> 24);
    pdf.stream(200 + i, "/Subtype/Image", noise);
  }
  pdf.object(2, "<</Type/Pages/Kids[" + kids + "]/Count " + std::to_string(count) +
                    "/MediaBox[0 0 9 9]>>");
  pdf.object(4, "<</Title(" + chapter + ")/Dest[11 0 R/Fit]/First 5 0 R/Next 6 0 R>>");
  pdf.object(5, "<</Title(Boards)/Dest[12 0 R/Fit]>>");
  pdf.object(6, "<</Title(Piers)/Dest[14 0 R/Fit]>>");
  return pdf.finish();
}

using Parts = std::vector<std::vector<int>>;

Parts pages_of(const SplitRule& rule, int count = 6) {
  Parts pages;
  const auto parts = rule.parts_of(test::open(book(count)).value()).value();
  for (const SplitPart& part : parts) pages.push_back(part.pages);
  return pages;
}

std::vector<std::string> names_in(const fs::path& folder) {
  std::vector<std::string> names;
  for (const auto& entry : fs::directory_iterator(folder))
    names.push_back(entry.path().filename().string());
  std::sort(names.begin(), names.end());
  return names;
}

ErrorCode refusal(const SplitRule& rule) {
  const auto parts = rule.parts_of(test::open(book(6)).value());
  REQUIRE_FALSE(parts.ok());
  CHECK_FALSE(parts.error().message().empty());
  return parts.error().code();
}

}  // namespace

TEST_CASE("documents are cut where rules say", "[assemble]") {
  CHECK(pages_of(SplitRule::every(4)) == Parts{{0, 1, 2, 3}, {4, 5}});
  CHECK(pages_of(SplitRule::before({4, 2, 4})) == Parts{{0, 1}, {2, 3}, {4, 5}});
  CHECK(pages_of(SplitRule::at_outline(1)) == Parts{{0}, {1, 2, 3}, {4, 5}});
  CHECK(pages_of(SplitRule::at_outline(2)) == Parts{{0}, {1}, {2, 3}, {4, 5}});
  CHECK(pages_of(SplitRule::odd_and_even(), 5) == Parts{{0, 2, 4}, {1, 3}});
  CHECK(pages_of(SplitRule::at_separators([](const Page& page) {
          return page.index() == 0 || page.index() == 3 || page.index() == 4;
        })) == Parts{{1, 2}, {5}});
  for (const SplitRule& rule :
       {SplitRule::every(0), SplitRule::before({6}), SplitRule::before({-1}),
        SplitRule::at_outline(0), SplitRule::at_separators([](const Page&) { return true; })})
    CHECK(refusal(rule) == ErrorCode::invalid_argument);
}

TEST_CASE("parts by size are as long as they can be, and no longer", "[assemble]") {
  const Document document = test::open(book(23)).value();
  for (const std::uint64_t most : {2000u, 8000u, 20'000u, 1'000'000u}) {
    const auto parts = SplitRule::at_most(most).parts_of(document).value();
    const auto size = [&](const std::vector<int>& pages) {
      Assembly part;
      REQUIRE(part.add(document, PageSelection::of(pages), {.attachments = false}).ok());
      BufferSink sink;
      REQUIRE(part.save(sink).ok());
      return sink.size();
    };
    int next = 0;
    for (const SplitPart& part : parts) {
      CHECK(part.pages.front() == next);
      next = part.pages.back() + 1;
      CHECK((size(part.pages) <= most || part.pages.size() == 1));
      if (next == document.page_count()) break;
      std::vector<int> longer = part.pages;
      longer.push_back(next);
      CHECK(size(longer) > most);
    }
    CHECK(next == 23);
  }
}

TEST_CASE("parts get safe names, and only what is theirs", "[assemble]") {
  const test::TemporaryFolder folder;
  const Document document = test::open(book(6)).value();
  const auto reports = split(document, SplitRule::at_outline(),
                             {.folder = folder / "parts", .names = "{part} {title} ({label})"});
  REQUIRE(reports.ok());
  CHECK(names_in(folder / "parts") ==
        std::vector<std::string>{"1 (i).pdf", "2 Deck new old (ii).pdf", "3 Piers (v).pdf"});
  const Document deck = Document::open(folder / "parts" / "2 Deck new old (ii).pdf").value();
  CHECK(deck.page_count() == 3);
  CHECK(deck.page_label(0).value() == "ii");
  REQUIRE(deck.outline().value().size() == 2);
  CHECK(deck.outline().value()[1].title == "Boards");
  CHECK(deck.outline().value()[1].page == 1);
  CHECK(deck.file_size() < 3 * 3000 + 2500);  // its own images only
}

TEST_CASE("a part has the resources that its pages name, of many that all share", "[assemble]") {
  const auto shared = [](const std::string& form) {
    test::PdfBuilder pdf;
    std::string resources;
    for (int i = 0; i < 12; ++i) {
      resources += "/P" + std::to_string(i) + " " + std::to_string(40 + i) + " 0 R";
      pdf.stream(40 + i, "/Subtype/Image", "image " + std::to_string(i));
    }
    pdf.stream(60, form, "/P7 Do");
    pdf.object(1, "<</Type/Catalog/Pages 2 0 R>>");
    pdf.object(2,
               "<</Type/Pages/Kids[3 0 R 4 0 R]/Count 2/MediaBox[0 0 9 9]/Resources<</ColorSpace"
               "<</DefaultRGB/DeviceRGB>>/XObject<<" +
                   resources + "/F 60 0 R>>>>>>");
    pdf.object(3, "<</Type/Page/Parent 2 0 R/Contents 5 0 R>>");
    pdf.object(4, "<</Type/Page/Parent 2 0 R/Contents 6 0 R>>");
    pdf.stream(5, "", "/P3 Do /P#31 Do /F Do").stream(6, "", "/P9 Do");
    const Document document = test::open(pdf.finish()).value();
    Assembly part;
    REQUIRE(part.add(document, PageSelection::of({0})).ok());
    BufferSink sink;
    REQUIRE(part.save(sink).ok());
    const Document first = Document::open(sink.take()).value();
    const Object own = first.resolve(first.page(0)->dict()["Resources"]).value();
    CHECK(own.as_dict()["ColorSpace"].as_dict().contains("DefaultRGB"));
    std::vector<std::string> names;
    for (const auto& [name, value] : own.as_dict()["XObject"].as_dict()) names.push_back(name);
    return names;
  };
  CHECK(shared("/Subtype/Form/Resources<<>>") == std::vector<std::string>{"F", "P1", "P3"});
  CHECK(shared("/Subtype/Form").size() == 13);  // the form may use any of them
}

TEST_CASE("parts bound again are the whole", "[assemble]") {
  const test::TemporaryFolder folder;
  const Document document = test::open(book(7)).value();
  const auto reports = split(document, SplitRule::every(3), {.folder = folder.path()}).value();
  REQUIRE(reports.size() == 3);
  Assembly again;
  for (const SaveReport& report : reports)
    REQUIRE(again.add(Document::open(report.path).value()).ok());
  BufferSink sink;
  REQUIRE(again.save(sink).ok());
  const Document whole = Document::open(sink.take()).value();
  REQUIRE(whole.page_count() == 7);
  for (int i = 0; i < 7; ++i) {
    CHECK(whole.page(i)->content().value() == document.page(i)->content().value());
    CHECK(whole.page(i)->media_box() == document.page(i)->media_box());
    CHECK(whole.page_label(i).value() == document.page_label(i).value());
  }
  const auto before = document.outline().value();
  const auto after = whole.outline().value();
  REQUIRE(after.size() == before.size());
  for (std::size_t i = 0; i < after.size(); ++i) {
    CHECK(after[i].title == before[i].title);
    CHECK(after[i].page == before[i].page);
  }
}

TEST_CASE("a split that cannot be done leaves nothing behind", "[assemble]") {
  const test::TemporaryFolder folder;
  const Document document = test::open(book(6)).value();
  const SplitOptions options{.folder = folder.path(), .names = "p{part}"};
  test::write_file(folder / "p3.pdf", "mine");
  CHECK(split(document, SplitRule::every(2), options).error().code() == ErrorCode::exists);
  CHECK(names_in(folder.path()) == std::vector<std::string>{"p3.pdf"});
  SplitOptions cancelled = options;
  cancelled.folder = folder / "new";
  cancelled.save.progress = [&](std::uint64_t done, std::uint64_t) {
    if (done == 2) cancelled.save.cancel.cancel();
  };
  CHECK(split(document, SplitRule::every(2), cancelled).error().code() == ErrorCode::cancelled);
  CHECK_FALSE(fs::exists(folder / "new"));
  CHECK(split(document, SplitRule::every(2), {.folder = folder.path(), .names = "{page}"})
            .error()
            .code() == ErrorCode::invalid_argument);
}
