// SPDX-License-Identifier: Apache-2.0
// What belongs to pages follows them onto sheets and to other sizes. What is drawn there is held
// against the pages themselves in tests/bound_pages_test.cpp.
#include <algorithm>

#include "assemble/page_drawing.h"
#include "lumvet/assemble/arrangement.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"
#include "tests/support/saved.h"

using namespace lumvet;
using test::saved;

namespace {

// Pages of 200 × 300 points, each with an entry of the outline, a note and a link to the next, a
// label and an element of structure.
Document book(int count, const std::string& page = "", const std::string& content = "") {
  test::PdfBuilder pdf;
  std::string kids;
  std::string elements;
  const auto reference = [](int number) { return std::to_string(number) + " 0 R "; };
  for (int i = 0; i < count; ++i) {
    kids += reference(100 + i);
    elements += reference(500 + i);
    pdf.object(100 + i, "<</Type/Page/Parent 2 0 R/StructParents " + std::to_string(i) +
                            "/Contents " + reference(200 + i) + "/Annots[" + reference(300 + i) +
                            reference(400 + i) + "]" + page + ">>");
    pdf.stream(200 + i, "", content + "/P<</MCID 0>>BDC " + std::to_string(i) + " w EMC");
    pdf.object(300 + i, "<</Subtype/Text/Rect[20 30 40 60]/Contents(note " + std::to_string(i) +
                            ")/QuadPoints[20 30 40 30 20 60 40 60]>>");
    pdf.object(400 + i, "<</Subtype/Link/Rect[100 200 150 220]/Dest[" +
                            reference(100 + (i + 1) % count) + "/XYZ 50 250 2]>>");
    pdf.object(500 + i, "<</S/P/P 5 0 R/Pg " + reference(100 + i) + "/K 0>>");
    pdf.object(600 + i, "<</Title(page " + std::to_string(i) + ")/Dest[" + reference(100 + i) +
                            "/FitH 300]" + (i + 1 < count ? "/Next " + reference(601 + i) : "") +
                            ">>");
  }
  pdf.object(1,
             "<</Type/Catalog/Pages 2 0 R/Outlines<</First 600 0 R>>/StructTreeRoot 5 0 R"
             "/MarkInfo<</Marked true>>/PageLabels<</Nums[0<</S/r>>]>>>>");
  pdf.object(2, "<</Type/Pages/Kids[" + kids + "]/Count " + std::to_string(count) +
                    "/MediaBox[0 0 200 300]>>");
  pdf.object(5, "<</Type/StructTreeRoot/K[" + elements + "]>>");
  return test::open(pdf.finish()).value();
}

PageSelection pages(const std::string& text) { return PageSelection::parse(text).value(); }

// The line width that each form on a page sets, which is the number of the page it was.
std::vector<int> parts_of(const Page& page) {
  const Document document = page.document();
  const Object resources = document.resolve(page.dict()["Resources"]).value();
  const Object forms = document.resolve(resources.as_dict()["XObject"]).value();
  std::vector<int> parts;
  const Bytes content = page.content().value();
  std::string text(as_text(content));
  for (std::size_t at = text.find("/Drawn"); at != std::string::npos;
       at = text.find("/Drawn", at)) {
    const std::string name = text.substr(at + 1, text.find(' ', at) - at - 1);
    const ByteSlice own = document.decoded(forms.as_dict()[name]).value();
    const std::string_view its = as_text(own.view());
    parts.push_back(its.find("BDC") == std::string_view::npos
                        ? -1
                        : std::stoi(std::string(its.substr(its.find("BDC") + 4))));
    at += name.size();
  }
  return parts;
}

}  // namespace

TEST_CASE("what leads to pages leads to where they are on a sheet", "[assemble]") {
  Arrangement arrangement(book(5));
  REQUIRE(arrangement
              .lay_on_sheets({.columns = 2, .rows = 1, .paper = {300, 400}, .margin = 0, .gap = 0})
              .ok());
  CHECK(arrangement.page_count() == 3);
  CHECK(arrangement.pages()->at(2).sources == std::vector<int>{4});
  CHECK(arrangement.pages()->at(0).label == "i–ii");
  const Document document = saved(arrangement);
  REQUIRE(document.page_count() == 3);
  // Two pages of 2:3 side by side on 400 × 300 stand in their size.
  CHECK(document.page(0)->width() == 400);
  CHECK(document.page(0)->height() == 300);
  CHECK(parts_of(*document.page(1)) == std::vector<int>{2, 3});
  CHECK(document.page_label(1).value() == "iii–iv");
  CHECK(document.page_label(2).value() == "v");

  const auto outline = document.outline().value();
  REQUIRE(outline.size() == 5);
  CHECK(outline[3].page == 1);
  CHECK(outline[3].destination->left == 200);
  CHECK(outline[3].destination->top == 300);

  const auto annotations = document.page(0)->annotations().value();
  REQUIRE(annotations.size() == 4);  // a note and a link of each
  CHECK(annotations[0].rect == Rect{20, 30, 40, 60});
  CHECK(annotations[2].rect == Rect{220, 30, 240, 60});
  CHECK(annotations[2].contents == "note 1");
  const Object link =
      document.resolve(document.resolve(document.page(0)->dict()["Annots"]).value().as_array()[1])
          .value();
  const Object place = document.resolve(link.as_dict()["Dest"]).value();
  CHECK(place.as_array()[0].as_reference() == document.page(0)->id());  // page 1 is beside it
  CHECK(place.as_array()[2].as_number() == 250);
  CHECK(place.as_array()[3].as_number() == 250);
  CHECK(place.as_array()[4].as_number() == 2);

  // The content of elements is in the forms (14.7.5.2), and these say whose it is.
  const Object root = document.resolve(document.catalog()["StructTreeRoot"]).value();
  const Object tops = document.resolve(root.as_dict()["K"]).value();
  REQUIRE(tops.as_array().size() == 5);
  const Object second = document.resolve(tops.as_array()[1]).value();
  const Object kids = document.resolve(second.as_dict()["K"]).value();
  REQUIRE(kids.as_array().size() == 1);
  const Dict content = document.resolve(kids.as_array()[0]).value().as_dict();
  CHECK(content["Type"].is_name("MCR"));
  CHECK(content["Pg"].as_reference() == document.page(0)->id());
  const Object form = document.resolve(content["Stm"]).value();
  REQUIRE(form.is_stream());
  const std::int64_t key = form.as_dict()["StructParents"].as_integer(-1);
  const Object numbers =
      document.resolve(document.resolve(root.as_dict()["ParentTree"]).value().as_dict()["Nums"])
          .value();
  bool found = false;
  for (std::size_t i = 0; i + 1 < numbers.as_array().size(); i += 2)
    if (numbers.as_array()[i].as_integer() == key) {
      const Object elements = document.resolve(numbers.as_array()[i + 1]).value();
      found = elements.as_array()[0] == tops.as_array()[1];
    }
  CHECK(found);
  CHECK_FALSE(document.page(0)->dict().contains("StructParents"));
}

TEST_CASE("sheets can be turned, undone, and laid on sheets again", "[assemble]") {
  Arrangement arrangement(book(4));
  const SheetLayout half{.columns = 1, .rows = 2, .paper = {200, 600}, .margin = 0, .gap = 0};
  REQUIRE(arrangement.lay_on_sheets(half).ok());
  REQUIRE(arrangement.turn({}, 90).ok());
  REQUIRE(arrangement
              .lay_on_sheets({.columns = 1, .rows = 2, .paper = {600, 400}, .margin = 0, .gap = 0})
              .ok());
  const Document document = saved(arrangement);
  REQUIRE(document.page_count() == 1);
  CHECK(document.outline().value()[3].page == 0);
  const auto annotations = document.page(0)->annotations().value();
  REQUIRE(annotations.size() == 8);
  // Page 1 stands at the bottom of the first sheet; turned to the right, that is its left.
  // (20, 30) of it is (20, 30) of the sheet, and (30, 180) then; the sheet is the upper one.
  CHECK(annotations[2].rect == Rect{30, 360, 60, 380});
  arrangement.undo();
  CHECK(arrangement.page_count() == 2);
  arrangement.undo();
  arrangement.undo();
  CHECK(saved(arrangement).page_count() == 4);
  CHECK(arrangement.steps().empty());
}

TEST_CASE("what an annotation looks like turns with its page", "[assemble]") {
  test::PdfBuilder pdf;
  pdf.page("", "/MediaBox[0 0 200 300]/Rotate 90/Annots[5 0 R]");
  pdf.object(5,
             "<</Subtype/Widget/FT/Tx/T(a)/Rect[20 30 60 40]/MK<</R 90>>/AP<</N 6 0 R>>/RD[1 2 3 "
             "4]>>");
  pdf.stream(6, "/Subtype/Form/BBox[0 0 40 10]", "1 w");
  Arrangement arrangement(test::open(pdf.finish()).value());
  REQUIRE(
      arrangement.lay_on_sheets({.columns = 1, .rows = 1, .paper = {300, 200}, .margin = 0}).ok());
  const Document document = saved(arrangement);
  const Dict widget =
      document.resolve(document.resolve(document.page(0)->dict()["Annots"]).value().as_array()[0])
          .value()
          .as_dict();
  CHECK(document.page(0)->annotations().value()[0].rect == Rect{30, 140, 40, 180});
  CHECK(widget["MK"].as_dict()["R"].as_integer() == 0);
  const Object look =
      document.resolve(document.resolve(widget["AP"]).value().as_dict()["N"]).value();
  CHECK(to_text(look.as_dict()["Matrix"]) == "[0 -1 1 0 0 0]");
  CHECK(to_text(widget["RD"]) == "[2 3 4 1]");
}

TEST_CASE("the sheets of a booklet fold to pages in order", "[assemble]") {
  for (int count = 1; count <= 21; ++count) {
    for (const int in_a_fold : {0, 1, 2}) {
      CAPTURE(count, in_a_fold);
      Arrangement arrangement(book(count));
      REQUIRE(
          arrangement.lay_as_booklet({.paper = {300, 400}, .sheets_in_a_fold = in_a_fold}).ok());
      REQUIRE(arrangement.page_count() % 2 == 0);
      const auto arranged = arrangement.pages().value();
      // Reading on, one comes to the right of each sheet's front, the left of its back, and so on
      // inwards, then outwards again on the other half of each.
      const int all = arrangement.page_count() / 2;
      const int fold = in_a_fold == 0 ? all : in_a_fold;
      std::vector<int> read;
      const Document document = saved(arrangement);
      for (int first = 0; first < all; first += fold) {
        const int sheets = std::min(fold, all - first);
        std::vector<std::vector<int>> halves(static_cast<std::size_t>(sheets) * 4);
        for (int sheet = 0; sheet < sheets; ++sheet)
          for (int side = 0; side < 2; ++side) {
            const Page page = document.page(2 * (first + sheet) + side).value();
            for (const Annotation& note : page.annotations().value()) {
              if (note.contents.empty()) continue;
              const bool is_right = note.rect.left > page.width() / 2;
              const int place = side == 0 ? (is_right ? 2 * sheet : 4 * sheets - 1 - 2 * sheet)
                                          : (is_right ? 4 * sheets - 2 - 2 * sheet : 2 * sheet + 1);
              halves[static_cast<std::size_t>(place)].push_back(std::stoi(note.contents.substr(5)));
            }
          }
        for (const auto& half : halves) {
          CHECK(half.size() <= 1);
          read.insert(read.end(), half.begin(), half.end());
        }
      }
      std::vector<int> expected;
      for (int i = 0; i < count; ++i) expected.push_back(i);
      CHECK(read == expected);
    }
  }
}

TEST_CASE("a page moves onto other paper with all that is on it", "[assemble]") {
  Arrangement arrangement(book(2, "/CropBox[0 0 100 150]/Rotate 90/UserUnit 2/TrimBox[1 1 9 9]"));
  REQUIRE(arrangement.resize(pages("1"), {400, 600}).ok());
  const Document document = saved(arrangement);
  const Page page = document.page(0).value();
  CHECK(page.width() == 600);  // lies as the page does
  CHECK(page.height() == 400);
  CHECK(page.trim_box() == page.crop_box());
  // 300 × 200 points before: twice as large now.
  CHECK(page.annotations().value()[0].rect == Rect{40, 60, 80, 120});
  CHECK(document.outline().value()[0].page == 0);
  CHECK(document.outline().value()[0].destination->top == 600);
  CHECK(document.outline().value()[1].destination->top == 300);
  CHECK(document.page(1)->width() == 300);

  Arrangement same(book(1));
  REQUIRE(same.resize({}, {100, 150}, false).ok());  // smaller, and not scaled: its middle
  CHECK(saved(same).page(0)->annotations().value()[0].rect == Rect{-30, -45, -10, -15});
}

TEST_CASE("a page's own content is closed before anything is drawn above it", "[assemble]") {
  struct Case {
    const char* content;
    int taken_too_often;
    int left_open;
  };
  for (const Case& known : {Case{"q 1 w Q", 0, 0}, Case{"q q 1 w", 0, 2}, Case{"Q Q q", 2, 1},
                            Case{"(q) Tj /q gs % q\n q Q", 0, 0},
                            Case{"BI /W 1 ID q q Q Q q q EI Q", 1, 0}, Case{"", 0, 0}}) {
    CAPTURE(known.content);
    const assemble::Balance balance = assemble::balance_of(as_bytes(known.content));
    CHECK(balance.taken_too_often == known.taken_too_often);
    CHECK(balance.left_open == known.left_open);
  }
  Arrangement arrangement(book(1, "", "Q q q 3 0 0 3 0 0 cm "));
  REQUIRE(arrangement.overlay({}, book(1), {}, {.opacity = 0.5}).ok());
  const Document document = saved(arrangement);
  const Bytes content = document.page(0)->content().value();
  const assemble::Balance balance = assemble::balance_of(content);
  CHECK(balance.taken_too_often == 0);
  CHECK(balance.left_open == 0);
  CHECK(parts_of(*document.page(0)) == std::vector<int>{0});
}

TEST_CASE("pages drawn over others are taken in turn, and the last goes on", "[assemble]") {
  Arrangement arrangement(book(4));
  REQUIRE(arrangement.overlay(pages("4-2"), book(9), pages("5,7"), {.scale = 1}).ok());
  REQUIRE(arrangement.overlay(pages("2"), book(9), pages("9"), {.behind = true}).ok());
  CHECK(arrangement.steps().size() == 2);
  const Document document = saved(arrangement);
  CHECK(parts_of(*document.page(0)).empty());
  CHECK(parts_of(*document.page(1)) == std::vector<int>{8, 6});
  CHECK(parts_of(*document.page(2)) == std::vector<int>{6});
  CHECK(parts_of(*document.page(3)) == std::vector<int>{4});
  arrangement.undo();
  CHECK(parts_of(*saved(arrangement).page(1)) == std::vector<int>{6});
}

TEST_CASE("layouts that make no sense are refused before anything is done", "[assemble]") {
  Arrangement arrangement(book(3));
  const auto refused = [&](const Status& status, const char* why) {
    REQUIRE_FALSE(status.ok());
    CHECK(status.error().code() == ErrorCode::invalid_argument);
    CHECK_THAT(status.error().to_string(), Catch::Contains(why));
  };
  refused(arrangement.resize(pages("4"), {400, 600}), "there are 3");
  refused(arrangement.resize({}, {1, 600}), "3 to 14400");
  refused(arrangement.lay_on_sheets({.columns = 0}), "1 to 20");
  refused(arrangement.lay_on_sheets({.margin = 300}), "no room");
  refused(arrangement.lay_as_booklet({.margin = 300}), "no room");
  refused(arrangement.lay_as_booklet({.sheets_in_a_fold = -1}), "one sheet");
  refused(arrangement.overlay({}, book(2), pages("3")), "there are 2");
  refused(arrangement.overlay({}, book(2), {}, {.margin = 100}), "no room");
  refused(arrangement.overlay({}, book(2), {}, {.opacity = 0}), "opacity");
  refused(arrangement.overlay({}, book(2), {}, {.scale = 0}), "scale");
  CHECK(arrangement.steps().empty());
}
