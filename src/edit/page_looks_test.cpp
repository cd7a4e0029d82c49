// SPDX-License-Identifier: Apache-2.0
// Pages cropped and resized, with what belongs to them.
#include <algorithm>

#include "assemble/page_drawing.h"
#include "lumvet/edit/editable_document.h"
#include "tests/support/catch.h"
#include "tests/support/marked_book.h"
#include "tests/support/saved.h"

using namespace lumvet;
using test::book;
using test::pages;
using test::parts_of;
using test::saved;

TEST_CASE("what is cut off is cut off where it is seen, however a page is turned", "[edit]") {
  const int stated = GENERATE(0, 90, 180, 270);
  const int turn = GENERATE(0, 90, 270, -180);
  const Document document =
      book(1, "/Rotate " + std::to_string(stated) + "/UserUnit 2/CropBox[10 20 150 260]");
  EditableDocument edited = EditableDocument::of(document);
  REQUIRE(edited.rotate(pages("1"), turn).ok());
  const Page before = saved(edited).page(0).value();
  CHECK(before.rotation() == ((stated + turn) % 360 + 360) % 360);
  REQUIRE(edited.crop(pages("1"), {.left = 6, .top = 8, .right = 10, .bottom = 12}).ok());
  const Page after = saved(edited).page(0).value();
  CHECK(after.width() == Approx(before.width() - 16));
  CHECK(after.height() == Approx(before.height() - 20));
  const Point some = before.to_display().apply({50, 60});
  const Point moved = after.to_display().apply({50, 60});
  CHECK(moved.x == Approx(some.x - 6));
  CHECK(moved.y == Approx(some.y - 8));
  CHECK(edited.crop(pages("1"), {.left = 1000}).error().code() == ErrorCode::invalid_argument);
}

TEST_CASE("a page moves onto other paper with all that is on it", "[edit]") {
  EditableDocument edited =
      EditableDocument::of(book(2, "/CropBox[0 0 100 150]/Rotate 90/UserUnit 2/TrimBox[1 1 9 9]"));
  REQUIRE(edited.resize(pages("1"), {400, 600}).ok());
  const Document document = saved(edited);
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

  EditableDocument same = EditableDocument::of(book(1));
  REQUIRE(same.resize({}, {100, 150}, false).ok());  // smaller, and not scaled: its middle
  CHECK(saved(same).page(0)->annotations().value()[0].rect == Rect{-30, -45, -10, -15});
}

TEST_CASE("the states that content leaves open, and takes back without saving, are found",
          "[edit]") {
  struct Case {
    const char* content;
    std::vector<std::size_t> stray;
    int left_open;
  };
  for (const Case& known : {Case{"q 1 w Q", {}, 0}, Case{"q q 1 w", {}, 2},
                            Case{"Q Q q", {0, 2}, 1}, Case{"(q) Tj /q gs % q\n q Q", {}, 0},
                            Case{"BI /W 1 ID q q Q Q q q EI Q", {26}, 0}, Case{"", {}, 0}}) {
    CAPTURE(known.content);
    const assemble::Balance balance = assemble::balance_of(as_bytes(known.content));
    CHECK(balance.stray == known.stray);
    CHECK(balance.left_open == known.left_open);
  }
}

TEST_CASE("a page that takes back what it never saved keeps its matrix when it is resized",
          "[edit]") {
  EditableDocument edited = EditableDocument::of(
      book(1, "/MediaBox [0 0 300 200]", "Q 2 0 0 2 5 5 cm Q 0 0 10 10 re f q"));
  REQUIRE(edited.resize({}, {600, 400}).ok());
  const Bytes content = saved(edited).page(0)->content().value();
  const std::string text(as_text(content));
  CHECK_THAT(text, Catch::Contains("2 0 0 2 5 5 cm   0 0 10 10 re f q"));
  CHECK(assemble::balance_of(content).stray.empty());
  CHECK(assemble::balance_of(content).left_open == 0);
}

TEST_CASE("sizes that make no sense are refused before anything is done", "[edit]") {
  EditableDocument edited = EditableDocument::of(book(3));
  const auto refused = [&](const Status& status, const char* why) {
    REQUIRE_FALSE(status.ok());
    CHECK(status.error().code() == ErrorCode::invalid_argument);
    CHECK_THAT(status.error().to_string(), Catch::Contains(why));
  };
  refused(edited.resize(pages("4"), {400, 600}), "there are 3");
  refused(edited.resize({}, {1, 600}), "3 to 14400");
  CHECK(edited.steps().empty());
}
