// SPDX-License-Identifier: Apache-2.0
#include "lumvet/assemble/assembly.h"
#include "lumvet/assemble/inputs.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"
#include "tests/support/temporary_folder.h"

using namespace lumvet;
using test::PdfBuilder;

namespace {

std::vector<int> pages(const std::string& text, int count) {
  std::vector<int> from_one = PageSelection::parse(text).value().in(count).value();
  for (int& page : from_one) ++page;
  return from_one;
}

// Pages that share an image; page i shows "i" and links to the next page, the last to the first.
std::string book(int count, const std::string& mark, const std::string& catalog = "") {
  PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R" + catalog + ">>");
  std::string kids;
  for (int i = 0; i < count; ++i) {
    const std::string page = std::to_string(10 + 3 * i);
    const std::string next = std::to_string(10 + 3 * ((i + 1) % count));
    kids += page + " 0 R ";
    pdf.object(10 + 3 * i, "<</Type/Page/Parent 2 0 R/Contents " + std::to_string(11 + 3 * i) +
                               " 0 R/Annots[" + std::to_string(12 + 3 * i) + " 0 R]>>");
    pdf.stream(11 + 3 * i, "", mark + std::to_string(i + 1));
    pdf.object(12 + 3 * i, "<</Type/Annot/Subtype/Link/Rect[0 0 9 9]/Dest[" + next + " 0 R/Fit]>>");
  }
  pdf.object(2, "<</Type/Pages/Kids[" + kids + "]/Count " + std::to_string(count) +
                    "/MediaBox[0 0 100 100]/Resources<</XObject<</P 5 0 R>>>>>>");
  pdf.stream(
      5, "/Type/XObject/Subtype/Image/Width 1/Height 1/ColorSpace/DeviceGray/BitsPerComponent 8",
      "image of " + mark);
  pdf.object(6, "<</Title(Book " + mark + ")>>");
  return pdf.finish("/Root 1 0 R/Info 6 0 R");
}

Document bound(const Assembly& assembly, SaveReport* report = nullptr) {
  BufferSink sink;
  const auto saved = assembly.save(sink);
  REQUIRE(saved.ok());
  if (report != nullptr) *report = *saved;
  return Document::open(sink.take()).value();
}

std::string texts(const Document& document) {
  std::string all;
  for (int i = 0; i < document.page_count(); ++i) {
    const Bytes content = document.page(i)->content().value();
    all += std::string(as_text(content));
    all.back() = ' ';
  }
  return all;
}

int count_streams(const Document& document, const std::string& text) {
  int found = 0;
  for (std::uint32_t n = 1; n < 500; ++n) {
    const auto bytes = document.decoded(Object(ObjectId{n, 0}));
    if (bytes.ok() && as_text(bytes->view()) == text) ++found;
  }
  return found;
}

}  // namespace

TEST_CASE("page selections name pages as people do", "[assemble]") {
  CHECK(pages("1-4,8,last", 9) == std::vector{1, 2, 3, 4, 8, 9});
  CHECK(pages("4-1", 9) == std::vector{4, 3, 2, 1});
  CHECK(pages("7-", 9) == std::vector{7, 8, 9});
  CHECK(pages("-3", 9) == std::vector{1, 2, 3});
  CHECK(pages("odd", 5) == std::vector{1, 3, 5});
  CHECK(pages("even", 5) == std::vector{2, 4});
  CHECK(pages("even", 1).empty());
  CHECK(pages("all, 1", 2) == std::vector{1, 2, 1});
  CHECK(pages("3last-last", 9) == std::vector{7, 8, 9});
  CHECK(pages("last-1", 3) == std::vector{3, 2, 1});
  CHECK(pages(" 2 , 3 - 2 ", 3) == std::vector{2, 3, 2});
  CHECK(PageSelection().in(3).value() == std::vector{0, 1, 2});
  CHECK(PageSelection::of({4, 0}).in(5).value() == std::vector{4, 0});
}

TEST_CASE("page selections that make no sense say where", "[assemble]") {
  for (const char* text :
       {"", "x", "1-", "0", "1,,2", "0last", "2last~", "1 2", "-", "3-4-5", "99999999999999"}) {
    const auto selection = PageSelection::parse(text);
    CAPTURE(text);
    if (std::string(text) == "1-") {
      CHECK(selection.ok());
      continue;
    }
    REQUIRE_FALSE(selection.ok());
    CHECK(selection.error().code() == ErrorCode::invalid_argument);
    CHECK_THAT(selection.error().message(), Catch::Contains("at character"));
  }
  CHECK_THAT(PageSelection::parse("2-9").value().in(5).error().message(),
             Catch::Contains("page 9") && Catch::Contains("5 pages"));
  CHECK_THAT(PageSelection::parse("8last").value().in(5).error().message(),
             Catch::Contains("before the first"));
}

TEST_CASE("natural order puts 2 before 10 and is a strict order", "[assemble]") {
  const std::vector<std::string> sorted = {"a",        "sheet 1",   "Sheet 2", "sheet 02b",
                                           "sheet 10", "sheet 10a", "z9",      "z10"};
  for (std::size_t i = 0; i < sorted.size(); ++i)
    for (std::size_t j = 0; j < sorted.size(); ++j) {
      CAPTURE(sorted[i], sorted[j]);
      CHECK(natural_less(sorted[i], sorted[j]) == (i < j));
    }
  CHECK(natural_less("a01", "a1") != natural_less("a1", "a01"));
}

TEST_CASE("a folder gives its documents in natural order and passes over the rest", "[assemble]") {
  const test::TemporaryFolder folder;
  for (const char* name : {"s10.pdf", "s2.PDF", ".hidden.pdf", "notes.txt"})
    test::write_file(folder / name, "x");
  test::write_file(folder / "noext", "%PDF-1.4 …");
  std::filesystem::create_directory(folder / "s1.pdf");
  const FolderListing listing = list_folder(folder.path()).value();
  std::vector<std::string> names;
  for (const auto& path : listing.documents) names.push_back(path.filename());
  CHECK(names == std::vector<std::string>{"noext", "s2.PDF", "s10.pdf"});
  REQUIRE(listing.passed_over.size() == 1);
  CHECK(list_folder(folder / "none").error().code() == ErrorCode::io);
}

TEST_CASE("pages of several documents are bound in the order chosen", "[assemble]") {
  const Document a = test::open(book(5, "a")).value();
  const Document b = test::open(book(40, "b")).value();
  Assembly assembly;
  REQUIRE(assembly.add(a, PageSelection::parse("3-1").value()).ok());
  REQUIRE(assembly.add(b, PageSelection::parse("39-,1").value()).ok());
  REQUIRE(assembly.add(a, PageSelection::parse("5").value()).ok());
  CHECK(assembly.page_count() == 7);
  const Document book = bound(assembly);
  CHECK(texts(book) == "a3 a2 a1 b39 b40 b1 a5 ");
  CHECK(book.info().value().title == "Book a");
  CHECK(book.page(6)->media_box() == Rect{0, 0, 100, 100});
  CHECK(book.findings().empty());
}

TEST_CASE("shared resources are written once, however often their document is added",
          "[assemble]") {
  const Document a = test::open(book(5, "a")).value();
  Assembly assembly;
  for (const char* text : {"1-2", "2-5", "1"})
    REQUIRE(assembly.add(a, PageSelection::parse(text).value()).ok());
  CHECK(count_streams(bound(assembly), "image of a") == 1);
}

TEST_CASE("streams that several documents have alike are written once", "[assemble]") {
  const auto with_font = [](char byte) {
    PdfBuilder pdf;
    pdf.page("", "/MediaBox[0 0 9 9]/Font 5 0 R").stream(5, "/Length1 5", std::string(1000, byte));
    return test::open(pdf.finish()).value();
  };
  Assembly assembly;
  for (const char byte : {'f', 'f', 'g', 'f'}) REQUIRE(assembly.add(with_font(byte)).ok());
  const Document bound_pages = bound(assembly);
  CHECK(count_streams(bound_pages, std::string(1000, 'f')) == 1);
  CHECK(count_streams(bound_pages, std::string(1000, 'g')) == 1);
  const auto font = [&](int page) { return bound_pages.page(page)->dict()["Font"]; };
  CHECK(font(0) == font(3));
  CHECK_FALSE(font(0) == font(2));
}

TEST_CASE("binding all, then selecting, gives back the parts", "[assemble]") {
  const Document a = test::open(book(3, "a")).value();
  const Document b = test::open(book(70, "b")).value();
  Assembly whole;
  REQUIRE(whole.add(a).ok());
  REQUIRE(whole.add(b).ok());
  const Document merged = bound(whole);
  CHECK(texts(merged) == texts(a) + texts(b));
  Assembly part;
  REQUIRE(part.add(merged, PageSelection::parse("4-").value()).ok());
  CHECK(texts(bound(part)) == texts(b));
}

TEST_CASE("links follow their pages, and links to pages left behind are counted", "[assemble]") {
  const Document a = test::open(book(5, "a")).value();
  Assembly assembly;
  REQUIRE(assembly.add(a, PageSelection::parse("2-3").value()).ok());
  SaveReport report;
  const Document merged = bound(assembly, &report);
  const Page first = merged.page(0).value();
  REQUIRE(first.dict()["Annots"].as_array().size() == 1);
  const Object link = merged.resolve(first.dict()["Annots"].as_array()[0]).value();
  CHECK(link.as_dict()["Dest"].as_array()[0].as_reference() == merged.page(1)->id());
  CHECK_FALSE(merged.page(1)->dict().contains("Annots"));
  REQUIRE(report.findings.size() == 1);
  CHECK_THAT(report.findings[0].what, Catch::Contains("1 link"));
  // No page came in behind the links.
  CHECK(count_streams(merged, "a1") == 0);
}

TEST_CASE("outlines come along with their pages unless they are left out", "[assemble]") {
  PdfBuilder pdf;
  std::string bytes = book(3, "a", "/Outlines<</First 90 0 R>>");
  pdf.bytes() = bytes;
  pdf.object(90, "<</Title(First)/Dest[10 0 R/Fit]/First 91 0 R/Next 92 0 R>>");
  pdf.object(91, "<</Title(Below)/Dest[13 0 R/Fit]>>")
      .object(92, "<</Title(Third)/Dest[16 0 R/Fit]>>");
  const Document a =
      test::open(pdf.finish("/Root 1 0 R/Prev " + std::to_string(bytes.rfind("xref\n0 1"))))
          .value();
  REQUIRE(a.outline().value().size() == 3);
  Assembly assembly;
  REQUIRE(assembly.add(a, PageSelection::parse("3,2").value()).ok());
  const auto outline = bound(assembly).outline().value();
  REQUIRE(outline.size() == 2);
  CHECK(outline[0].title == "Below");
  CHECK(outline[0].depth == 0);
  CHECK(outline[0].page == 1);
  CHECK(outline[1].page == 0);
  Assembly without;
  REQUIRE(without.add(a, {}, {.outlines = false, .metadata = false}).ok());
  CHECK(bound(without).outline().value().empty());
  CHECK(bound(without).info().value().title.empty());
}

TEST_CASE("asking for pages that are not there adds nothing", "[assemble]") {
  Assembly assembly;
  const Document a = test::open(book(5, "a")).value();
  const Status added = assembly.add(a, PageSelection::parse("1,9").value());
  CHECK_THAT(added.error().to_string(), Catch::Contains("page 9"));
  CHECK(assembly.page_count() == 0);
  BufferSink sink;
  CHECK(assembly.save(sink).error().code() == ErrorCode::invalid_argument);
  CHECK(sink.bytes().empty());
}
