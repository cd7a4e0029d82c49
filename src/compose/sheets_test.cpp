// SPDX-License-Identifier: Apache-2.0
// What belongs to pages follows them onto sheets. What is drawn there is held against the pages
// themselves in tests/bound_pages_test.cpp.
#include "lumvet/compose/sheets.h"

#include <algorithm>

#include "lumvet/edit/editable_document.h"
#include "lumvet/render/render.h"
#include "tests/support/catch.h"
#include "tests/support/marked_book.h"
#include "tests/support/saved.h"

using namespace lumvet;
using test::book;
using test::parts_of;
using test::saved;

TEST_CASE("what leads to pages leads to where they are on a sheet", "[compose]") {
  const SheetPlan plan =
      SheetPlan::of(
          book(5), SheetLayout{.columns = 2, .rows = 1, .paper = {300, 400}, .margin = 0, .gap = 0})
          .value();
  CHECK(plan.pages() == std::vector<std::vector<int>>{{0, 1}, {2, 3}, {4}});
  const Document document = saved(plan);
  CHECK(document.page_label(0).value() == "i–ii");
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

TEST_CASE("sheets can be rotated and laid on sheets again", "[compose]") {
  const SheetLayout half{.columns = 1, .rows = 2, .paper = {200, 600}, .margin = 0, .gap = 0};
  EditableDocument sheets =
      EditableDocument::of(SheetPlan::of(book(4), half).value().document().value());
  REQUIRE(sheets.rotate({}, 90).ok());
  const SheetPlan plan =
      SheetPlan::of(
          sheets.now().value(),
          SheetLayout{.columns = 1, .rows = 2, .paper = {600, 400}, .margin = 0, .gap = 0})
          .value();
  const Document document = saved(plan);
  REQUIRE(document.page_count() == 1);
  CHECK(document.outline().value()[3].page == 0);
  const auto annotations = document.page(0)->annotations().value();
  REQUIRE(annotations.size() == 8);
  // Page 1 stands at the bottom of the first sheet; rotated to the right, that is its left.
  // (20, 30) of it is (20, 30) of the sheet, and (30, 180) then; the sheet is the upper one.
  CHECK(annotations[2].rect == Rect{30, 360, 60, 380});
}

TEST_CASE("what an annotation looks like turns with its page", "[compose]") {
  test::PdfBuilder pdf;
  pdf.page("", "/MediaBox[0 0 200 300]/Rotate 90/Annots[5 0 R]");
  pdf.object(5,
             "<</Subtype/Widget/FT/Tx/T(a)/Rect[20 30 60 40]/MK<</R 90>>/AP<</N 6 0 R>>/RD[1 2 3 "
             "4]>>");
  pdf.stream(6, "/Subtype/Form/BBox[0 0 40 10]", "1 w");
  const SheetLayout layout{.columns = 1, .rows = 1, .paper = {300, 200}, .margin = 0};
  const Document document = saved(SheetPlan::of(test::open(pdf.finish()).value(), layout).value());
  const Dict widget =
      document.resolve(document.resolve(document.page(0)->dict()["Annots"]).value().as_array()[0])
          .value()
          .as_dict();
  CHECK(document.page(0)->annotations().value()[0].rect == Rect{30, 140, 40, 180});
  CHECK(widget["MK"].as_dict()["R"].as_integer() == 0);
  const Object look =
      document.resolve(document.resolve(widget["AP"]).value().as_dict()["N"]).value();
  CHECK(to_text(look.as_dict()["Matrix"]) == "[0 -1 1 0 0 0]");
  // Left, top, right, bottom: the left side comes to the top.
  CHECK(to_text(widget["RD"]) == "[4 1 2 3]");
}

TEST_CASE("what stays upright on a turned page does so on a sheet", "[compose]") {
  test::PdfBuilder pdf;
  pdf.page("", "/MediaBox[0 0 200 300]/Rotate 90/Annots[5 0 R 6 0 R 7 0 R]");
  const std::string look = "/AP<</N 8 0 R>>";
  pdf.object(5, "<</Subtype/Stamp/Rect[20 30 60 50]/F 20" + look + ">>");
  pdf.object(6, "<</Subtype/Stamp/Rect[120 30 140 70]" + look + ">>");
  pdf.object(7,
             "<</Subtype/FreeText/Rect[100 100 130 250]/Rotate 90/Contents(Look)/DA(/Helv 9 Tf)>>");
  pdf.stream(8, "/Subtype/Form/BBox[0 0 40 20]", "1 0 0 rg 0 0 40 20 re f 0 g 0 0 9 9 re f");
  const SheetLayout layout{.columns = 1, .rows = 1, .paper = {300, 200}, .margin = 0};
  const Document guest = test::open(pdf.finish()).value();
  const Document sheets = saved(SheetPlan::of(guest, layout).value());
  CHECK(render(sheets.page(0).value(), {}).value() == render(guest.page(0).value(), {}).value());
  CHECK(sheets.page(0)->annotations().value()[2].rotation == 0);
}

TEST_CASE("the sheets of a booklet fold to pages in order", "[compose]") {
  for (int count = 1; count <= 21; ++count) {
    for (const int in_a_section : {0, 1, 2}) {
      CAPTURE(count, in_a_section);
      const BookletLayout layout{.paper = {300, 400}, .sheets_in_a_section = in_a_section};
      const SheetPlan plan = SheetPlan::of(book(count), layout).value();
      REQUIRE(plan.pages().size() % 2 == 0);
      // Reading on, one comes to the right of each sheet's front, the left of its back, and so on
      // inwards, then outwards again on the other half of each.
      const int all = static_cast<int>(plan.pages().size()) / 2;
      const int section = in_a_section == 0 ? all : in_a_section;
      std::vector<int> read;
      const Document document = saved(plan);
      for (int first = 0; first < all; first += section) {
        const int sheets = std::min(section, all - first);
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

TEST_CASE("layouts of sheets that make no sense are refused", "[compose]") {
  const auto refused = [](const Result<SheetPlan>& plan, const char* why) {
    REQUIRE_FALSE(plan.ok());
    CHECK(plan.error().code() == ErrorCode::invalid_argument);
    CHECK_THAT(plan.error().to_string(), Catch::Contains(why));
  };
  refused(SheetPlan::of(book(3), SheetLayout{.columns = 0}), "1 to 20");
  refused(SheetPlan::of(book(3), SheetLayout{.paper = {1, 600}}), "3 to 14400");
  refused(SheetPlan::of(book(3), SheetLayout{.margin = 300}), "no room");
  refused(SheetPlan::of(book(3), BookletLayout{.margin = 300}), "no room");
  refused(SheetPlan::of(book(3), BookletLayout{.sheets_in_a_section = -1}), "one sheet");
}
