// SPDX-License-Identifier: Apache-2.0
#include "lumvet/document/document.h"

#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;
using test::PdfBuilder;

namespace {

Document open(const std::string& bytes) { return test::open(bytes).value(); }

// Ten pages in a tree of two levels; the root gives a box, the second branch a rotation.
PdfBuilder tree() {
  PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R>>");
  pdf.object(2, "<</Type/Pages/Kids[3 0 R 4 0 R]/Count 10/MediaBox[0 0 200 300]>>");
  pdf.object(3, "<</Type/Pages/Parent 2 0 R/Count 4/Kids[10 0 R 11 0 R 12 0 R 13 0 R]>>");
  pdf.object(4,
             "<</Type/Pages/Parent 2 0 R/Count 6/Rotate 90/Kids[14 0 R 15 0 R 16 0 R 17 0 R 18 0 R "
             "19 0 R]>>");
  for (int i = 10; i < 20; ++i)
    pdf.object(i, "<</Type/Page/Parent 3 0 R/Mark " + std::to_string(i - 10) +
                      (i == 19 ? "/Rotate 0/MediaBox[300 0 0 400]" : "") + ">>");
  return pdf;
}

}  // namespace

TEST_CASE("pages are found by index with what they inherit", "[document]") {
  const Document document = open(tree().finish());
  REQUIRE(document.page_count() == 10);
  for (int i = 9; i >= 0; --i) {
    const Page page = document.page(i).value();
    CHECK(page.dict()["Mark"].as_integer() == i);
    CHECK(page.index() == i);
    CHECK(page.rotation() == (i >= 4 && i < 9 ? 90 : 0));
  }
  CHECK(document.page(0)->width() == 200);
  CHECK(document.page(5)->width() == 300);
  CHECK(document.page(9)->media_box() == Rect{0, 0, 300, 400});
  CHECK(document.page(10).error().code() == ErrorCode::invalid_argument);
  CHECK(document.page(-1).error().code() == ErrorCode::invalid_argument);
  CHECK(document.findings().empty());
}

TEST_CASE("a tree whose counts lie gives its pages all the same, with a finding", "[document]") {
  std::string bytes = tree().finish();
  // The same length, so that no offset moves.
  bytes.replace(bytes.find("/Count 4"), 8, "/Count 5");
  const Document document = open(bytes);
  for (int i = 0; i < 10; ++i) CHECK(document.page(i)->dict()["Mark"].as_integer() == i);
  CHECK_FALSE(document.findings().empty());
}

TEST_CASE("a page tree that leads back into itself ends", "[document]") {
  PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R>>");
  pdf.object(2, "<</Type/Pages/Kids[3 0 R 2 0 R]/Count -1>>")
      .object(3, "<</Type/Page/MediaBox[0 0 9 9]>>");
  const Document document = open(pdf.finish());
  CHECK(document.page_count() == 1);
  CHECK_FALSE(document.findings().empty());
}

// Millions of pages came out of 70 kB.
TEST_CASE("one page named again and again becomes so many pages, and no more", "[document]") {
  PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R>>");
  std::string kids;
  for (int i = 0; i < 5000; ++i) kids += "3 0 R ";
  pdf.object(2, "<</Type/Pages/Count 5000/Kids[" + kids + "]>>");
  pdf.object(3, "<</Type/Page/Parent 2 0 R/MediaBox[0 0 9 9]>>");
  const Document document = test::open(pdf.finish()).value();
  CHECK(document.page_count() == 1004);  // a thousand more than there are objects
  REQUIRE_FALSE(document.findings().empty());
  CHECK_THAT(document.findings()[0].to_string(), Catch::Contains("again and again"));
}

TEST_CASE("boxes are put in order, cut to the media box, or replaced with a finding",
          "[document]") {
  const auto [entries, crop, findings] = GENERATE(table<std::string, Rect, std::size_t>({
      {"/MediaBox[100 200 0 0]", {0, 0, 100, 200}, 0},
      {"/MediaBox[0 0 100 200]/CropBox[-10 50 60 500]", {0, 50, 60, 200}, 0},
      {"/MediaBox[0 0 100 200]/CropBox[500 500 600 600]", {0, 0, 100, 200}, 0},
      {"/MediaBox[0 0 0 200]", {0, 0, 612, 792}, 1},
      {"/MediaBox(no)", {0, 0, 612, 792}, 1},
      {"/MediaBox[0 0 50 50]/Rotate 45", {0, 0, 50, 50}, 1},
  }));
  CAPTURE(entries);
  PdfBuilder pdf;
  const Document document = open(pdf.page("", entries).finish());
  CHECK(document.page(0)->crop_box() == crop);
  CHECK(document.findings().size() == findings);
}

TEST_CASE("every rotation shows the page the right way up", "[document]") {
  for (const int rotation : {0, 90, 180, 270, -90, 450}) {
    PdfBuilder pdf;
    const Document document =
        open(pdf.page("", "/MediaBox[10 20 110 220]/Rotate " + std::to_string(rotation)).finish());
    const Page page = document.page(0).value();
    CAPTURE(rotation);
    const Rect shown = page.to_display().bounds_of(page.crop_box());
    CHECK(shown == Rect{0, 0, page.width(), page.height()});
    // The page's own top left corner goes round clockwise.
    const Point corner = page.to_display().apply({10, 220});
    const int quarter = page.rotation() / 90;
    CHECK(corner.x == ((quarter == 1 || quarter == 2) ? page.width() : 0));
    CHECK(corner.y == ((quarter == 2 || quarter == 3) ? page.height() : 0));
    // A map that mirrors would show text backwards: y turns over once, so the determinant is -1.
    CHECK(page.to_display().determinant() == -1);
  }
}

TEST_CASE("content streams are put together with a line end between them", "[document]") {
  PdfBuilder pdf;
  pdf.page("q");
  pdf.object(3, "<</Type/Page/Parent 2 0 R/MediaBox[0 0 9 9]/Contents[4 0 R 9 0 R 5 0 R]>>")
      .stream(5, "", "Q");
  const Document document = open(pdf.finish());
  CHECK(as_text(document.page(0)->content().value()) == "q\nQ\n");
  CHECK(document.findings().size() == 1);  // object 9 is missing
}

TEST_CASE("content that is lost as a whole is a finding, too", "[document]") {
  // A page of a file that was cut off was shown blank without a word.
  PdfBuilder pdf;
  pdf.page("q").object(3, "<</Type/Page/Parent 2 0 R/MediaBox[0 0 9 9]/Contents 77 0 R>>");
  const Document document = open(pdf.finish());
  CHECK(document.page(0)->content()->empty());
  REQUIRE(document.findings().size() == 1);
  CHECK(document.findings()[0].object == ObjectId{77, 0});
  PdfBuilder blank;
  blank.page("q").object(3, "<</Type/Page/Parent 2 0 R/MediaBox[0 0 9 9]>>");
  const Document empty = open(blank.finish());
  CHECK(empty.page(0)->content()->empty());
  CHECK(empty.findings().empty());
}

TEST_CASE("properties, outline, attachments and fonts are listed", "[document]") {
  PdfBuilder pdf;
  pdf.page("", "/MediaBox[0 0 9 9]/Resources<</Font<</F 20 0 R/G 21 0 R>>/XObject<</X 22 0 R>>>>");
  pdf.object(1,
             "<</Type/Catalog/Pages 2 0 R/Version/2.0/Outlines 10 0 R/Names<</EmbeddedFiles 14 0 "
             "R/Dests 17 0 R>>>>");
  pdf.object(10, "<</First 11 0 R/Last 12 0 R>>");
  pdf.object(11, "<</Title(One)/Dest[3 0 R/Fit]/Next 12 0 R/First 13 0 R>>");
  pdf.object(12, "<</Title(Two)/A<</S/GoTo/D(place)>>>>");
  pdf.object(13, "<</Title<FEFF00DF>/A<</S/URI/URI(x)>>>>");
  pdf.object(14, "<</Names[(a)15 0 R]>>");
  pdf.object(15, "<</F(old.csv)/UF(new.csv)/Desc(Readings)/EF<</F 16 0 R>>>>");
  pdf.stream(16, "/Params<</Size 3>>", "a,b");
  pdf.object(17, "<</Kids[18 0 R]>>")
      .object(18, "<</Limits[(a)(z)]/Names[(place)<</D[3 0 R/Fit]>>]>>");
  pdf.object(19, "<</Title(Day 12)/CreationDate(D:20261014)/Producer<FEFF00D6>>>");
  pdf.object(
      20,
      "<</Type/Font/Subtype/TrueType/BaseFont/ABCDEF+Arial/FontDescriptor<</FontFile2 16 0 R>>>>");
  pdf.object(
      21, "<</Type/Font/Subtype/Type0/BaseFont/Song/DescendantFonts[<</Subtype/CIDFontType0>>]>>");
  pdf.stream(22,
             "/Subtype/Form/Resources<</Font<</H<</Subtype/Type1/BaseFont/Courier>>>>/XObject<</X "
             "22 0 R>>>>",
             "");
  const Document document = open(pdf.finish("/Root 1 0 R/Info 19 0 R"));
  CHECK(document.version() == "2.0");
  CHECK(document.info().value().title == "Day 12");
  CHECK(document.info().value().created == "2026-10-14");
  CHECK(document.info().value().producer == "Ö");
  const auto outline = document.outline().value();
  REQUIRE(outline.size() == 3);
  CHECK(outline[0].title == "One");
  CHECK(outline[1].title == "ß");
  CHECK(outline[1].depth == 1);
  CHECK_FALSE(outline[1].page);
  CHECK(outline[2].page == 0);
  REQUIRE(document.attachments().value().size() == 1);
  CHECK(document.attachments().value()[0].name == "new.csv");
  CHECK(document.attachments().value()[0].size == 3);
  CHECK(document.fonts().value() == std::vector<FontUse>{{"Arial", "TrueType", true, true},
                                                         {"Courier", "Type 1", false, false},
                                                         {"Song", "CID Type 1", false, false}});
  CHECK_FALSE(document.is_linearized());
}

TEST_CASE("linearized means that the first object says so and the length fits", "[document]") {
  for (const bool appended : {false, true}) {
    PdfBuilder pdf;
    pdf.object(9, "<</Linearized 1/L 00000/N 1>>").page("");
    std::string bytes = pdf.finish();
    std::string digits = std::to_string(bytes.size());
    bytes.replace(bytes.find("00000/N"), 5, std::string(5 - digits.size(), '0') + digits);
    if (appended) bytes += "\n";
    CHECK(open(bytes).is_linearized() == !appended);
  }
}

TEST_CASE("every revision can be listed and opened as it was", "[document]") {
  PdfBuilder pdf;
  pdf.page("first");
  const std::size_t one = pdf.finish().size();
  std::string previous = std::to_string(pdf.last_table());
  pdf.stream(4, "", "second");
  const std::size_t two = pdf.finish("/Root 1 0 R/Prev " + previous).size();
  previous = std::to_string(pdf.last_table());
  pdf.stream(4, "", "third");
  const std::string bytes = pdf.finish("/Root 1 0 R/Prev " + previous);
  const Document document = open(bytes);
  const auto revisions = document.revisions().value();
  REQUIRE(revisions.size() == 3);
  CHECK(revisions[0].size == one);
  CHECK(revisions[1].size == two);
  CHECK(revisions[2].size == bytes.size());
  const auto content = [&](int index) {
    return std::string(as_text(document.revision(index)->page(0)->content().value()));
  };
  CHECK(content(0) == "first\n");
  CHECK(content(1) == "second\n");
  CHECK(content(2) == "third\n");
  CHECK(document.was_updated());
  CHECK(document.revision(0)->revisions().value().size() == 1);
  CHECK(document.revision(3).error().code() == ErrorCode::invalid_argument);
}

TEST_CASE("a document that lost its catalog or page tree shows what pages there are",
          "[document]") {
  const std::string catalog = "1 0 obj<</Type/Catalog/Pages 2 0 R>>endobj\n";
  const std::string tree = "2 0 obj<</Type/Pages/Kids[3 0 R 5 0 R]/Count 2>>endobj\n";
  const std::string pages =
      "3 0 obj<</Type/Page/Parent 2 0 R/MediaBox[0 0 3 3]/Contents 4 0 R>>endobj\n"
      "4 0 obj<</Length 9>>stream\nq 1 w 0 0 m 1 1 l S Q\nendstream endobj\n"
      "5 0 obj<</Type/Page/Parent 2 0 R/MediaBox[0 0 5 5]>>endobj\n";
  const std::string header = "%PDF-1.4\n";
  const auto check = [](const std::string& bytes, std::vector<double> widths,
                        const std::string& words) {
    CAPTURE(bytes);
    const Document document = open(bytes);
    CHECK(document.was_repaired());
    REQUIRE(document.page_count() == static_cast<int>(widths.size()));
    for (std::size_t i = 0; i < widths.size(); ++i)
      CHECK(document.page(static_cast<int>(i))->width() == widths[i]);
    bool told = false;
    for (const Finding& finding : document.findings())
      told = told || finding.what.find(words) != std::string::npos;
    CHECK(told);
  };
  check(header + catalog + tree + pages, {3, 5}, "no trailer names the catalog");
  check(header + tree + pages, {3, 5}, "the catalog is lost");
  check(header + catalog + pages, {3, 5}, "the page tree is lost");
  check(header + pages, {3, 5}, "the page tree is lost");
  check(header + pages.substr(pages.find("4 0 obj"), 70), {612}, "without its fonts");
  // A node between is lost: its page is taken back.
  check(header + catalog +
            "2 0 obj<</Type/Pages/Kids[3 0 R 6 0 R]/Count 2>>endobj\n"
            "3 0 obj<</Type/Page/Parent 2 0 R/MediaBox[0 0 3 3]>>endobj\n"
            "5 0 obj<</Type/Page/Parent 6 0 R/MediaBox[0 0 5 5]>>endobj\n",
        {3, 5}, "a part of the page tree is lost");
  const auto nothing = lumvet::Document::open(test::to_bytes(header + "1 0 obj 5 endobj"));
  CHECK_THAT(nothing.error().message(), Catch::Contains("get it again"));
}

TEST_CASE("page trees with null kids, wrong types and deep chains give their pages", "[document]") {
  PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R>>");
  pdf.object(2, "<</Kids[null 3 0 R 99 0 R 4 0 R 5 0 R 6 0 R]/Count 7>>");
  pdf.object(3, "<</MediaBox[0 0 3 3]>>").object(4, "<</Type/Pges/MediaBox[0 0 4 4]>>");
  pdf.object(5, "<</Type/Font>>").object(6, "<</Type/Pages/Kids[7 0 R]/Count -3>>");
  pdf.object(7, "<</Type/Page/MediaBox[0 0 7 7]>>");
  const Document document = open(pdf.finish());
  REQUIRE(document.page_count() == 3);
  CHECK(document.page(0)->width() == 3);
  CHECK(document.page(1)->width() == 4);
  CHECK(document.page(2)->width() == 7);
  CHECK(document.findings().size() >= 3);
  for (const int depth : {50, 150, 400}) {
    PdfBuilder deep;
    deep.object(1, "<</Type/Catalog/Pages 10 0 R>>");
    for (int i = 0; i < depth; ++i)
      deep.object(10 + i, "<</Type/Pages/Count 1/Kids[" + std::to_string(11 + i) + " 0 R]>>");
    deep.object(10 + depth, "<</Type/Page/MediaBox[0 0 9 9]>>");
    const auto opened = test::open(deep.finish());
    const bool within = depth < Limits().nesting;
    REQUIRE(opened.ok());
    CHECK(opened->page(0).ok() == within);
  }
}
