// SPDX-License-Identifier: Apache-2.0
// Drawings and pages laid on pages that there are. Pages over pages are held against the pages
// themselves in tests/bound_pages_test.cpp.
#include "lumvet/draw/overlay.h"

#include "assemble/page_drawing.h"
#include "lumvet/draw/new_document.h"
#include "lumvet/render/render.h"
#include "tests/support/catch.h"
#include "tests/support/marked_book.h"
#include "tests/support/saved.h"

using namespace lumvet;
using test::book;
using test::pages;
using test::parts_of;
using test::saved;

namespace {

// A shape that is like no other when it is turned.
Drawing flag(double width, double height) {
  Drawing drawing(width, height);
  drawing.fill(box({10, 20, 60, 12}), Color::rgb(0.8, 0.1, 0.1));
  drawing.fill(box({10, 20, 8, 50}), Color::rgb(0.1, 0.2, 0.7));
  return drawing;
}

Bytes pixels(const Page& page) {
  const Raster raster = render(page, {.dpi = 72}).value();
  Bytes all;
  for (int y = 0; y < raster.height(); ++y)
    all.insert(all.end(), raster.row(y), raster.row(y) + 4 * raster.width());
  return all;
}

Document blank(const std::string& entries) {
  test::PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R>>");
  pdf.object(2, "<</Type/Pages/Kids[3 0 R]/Count 1>>");
  pdf.object(3, "<</Type/Page/Parent 2 0 R/MediaBox[0 0 200 300]" + entries + ">>");
  return test::open(pdf.finish()).value();
}

}  // namespace

TEST_CASE("a drawing lies on a page as it is shown, however that is turned", "[draw]") {
  const int turn = GENERATE(0, 90, 180, 270);
  const std::string more = GENERATE("", "/CropBox[20 30 180 260]", "/UserUnit 2");
  CAPTURE(turn, more);
  EditableDocument edited = EditableDocument::of(blank("/Rotate " + std::to_string(turn) + more));
  const auto drawing_for = [](const Page& page) -> Result<Drawing> {
    return flag(page.width(), page.height());
  };
  REQUIRE(draw_on_pages(edited, {}, drawing_for).ok());
  const Page drawn = edited.now()->page(0).value();
  const Document expected = flag(drawn.width(), drawn.height()).as_document().value();
  CHECK(pixels(drawn) == pixels(expected.page(0).value()));
  // A smaller one lies in the top left corner.
  EditableDocument small = EditableDocument::of(blank("/Rotate " + std::to_string(turn) + more));
  REQUIRE(
      draw_on_pages(small, {}, [](const Page&) -> Result<Drawing> { return flag(100, 90); }).ok());
  CHECK(pixels(small.now()->page(0).value()) == pixels(drawn));
}

TEST_CASE("drawings on pages are one step, and none when one of them fails", "[draw]") {
  EditableDocument edited = EditableDocument::of(book(3));
  const auto failing = [](const Page& page) -> Result<Drawing> {
    Drawing drawing(page.width(), page.height());
    if (page.index() == 1) drawing.draw(flag(10, 10), {}, {.opacity = 2});
    if (page.index() == 2) return Error(ErrorCode::invalid_argument, "not on this one");
    return drawing;
  };
  CHECK_THAT(draw_on_pages(edited, {}, failing).error().to_string(),
             Catch::Contains("not on this one"));
  CHECK(edited.steps().empty());
  const auto flags = [](const Page& page) -> Result<Drawing> {
    return flag(page.width(), page.height());
  };
  REQUIRE(draw_on_pages(edited, pages("1-2"), flags, {.what = "flagged"}).ok());
  CHECK(edited.steps() == std::vector<std::string>{"flagged 2 pages"});
  const Bytes marked = pixels(edited.now()->page(0).value());
  edited.undo();
  CHECK(pixels(edited.now()->page(0).value()) != marked);
}

TEST_CASE("a drawing that is returned while its scopes last is whole", "[draw]") {
  const auto returned = []() -> Result<Drawing> {
    Drawing drawing(100, 90);
    const auto tag = drawing.tag("Figure");
    const auto layer = drawing.layer("flags");
    const auto scope = drawing.scope();
    drawing.draw(flag(100, 90), {});
    return drawing;
  };
  Drawing twice(100, 90);
  twice.draw(returned().value(), {});
  CHECK(pixels(twice.as_document()->page(0).value()) ==
        pixels(flag(100, 90).as_document()->page(0).value()));
  CHECK(pixels(returned()->as_document()->page(0).value()) ==
        pixels(flag(100, 90).as_document()->page(0).value()));
}

TEST_CASE("layers of drawings come beside those that a document has", "[draw]") {
  Drawing page(200, 300);
  {
    const auto scope = page.layer("plan", {.is_shown = false});
    page.fill(box({100, 100, 20, 20}), Color::gray(0));
  }
  EditableDocument edited = EditableDocument::of(page.as_document().value());
  const auto stamped = [](const Page& on) -> Result<Drawing> {
    Drawing drawing(on.width(), on.height());
    const auto scope = drawing.layer("stamp", {.is_printed = false});
    drawing.fill(box({10, 10, 20, 20}), Color::gray(0));
    return drawing;
  };
  REQUIRE(draw_on_pages(edited, {}, stamped).ok());
  const auto layers = saved(edited).layers().value();
  REQUIRE(layers.all.size() == 2);
  CHECK(layers.all[0].name == "plan");
  CHECK(layers.all[1].name == "stamp");
  CHECK(layers.initial.visible == std::vector<bool>{false, true});
  REQUIRE(layers.initial.automations.size() == 1);
  CHECK(layers.initial.automations[0].layers == std::vector<int>{1});
}

TEST_CASE("a page's own content is closed before anything is drawn above it", "[draw]") {
  EditableDocument edited = EditableDocument::of(book(1, "", "Q q q 3 0 0 3 0 0 cm "));
  REQUIRE(overlay(edited, {}, book(1), {}, {.opacity = 0.5}).ok());
  const Document document = saved(edited);
  const Bytes content = document.page(0)->content().value();
  const assemble::Balance balance = assemble::balance_of(content);
  CHECK(balance.stray.empty());
  CHECK(balance.left_open == 0);
  CHECK(parts_of(*document.page(0)) == std::vector<int>{0});
}

TEST_CASE("pages drawn over others are taken in turn, and the last goes on", "[draw]") {
  EditableDocument edited = EditableDocument::of(book(4));
  REQUIRE(overlay(edited, pages("4-2"), book(9), pages("5,7"), {.scale = 1}).ok());
  REQUIRE(overlay(edited, pages("2"), book(9), pages("9"), {.beneath = true}).ok());
  CHECK(edited.steps().size() == 2);
  const Document document = saved(edited);
  CHECK(parts_of(*document.page(0)).empty());
  CHECK(parts_of(*document.page(1)) == std::vector<int>{8, 6});
  CHECK(parts_of(*document.page(2)) == std::vector<int>{6});
  CHECK(parts_of(*document.page(3)) == std::vector<int>{4});
  edited.undo();
  CHECK(parts_of(*saved(edited).page(1)) == std::vector<int>{6});
}

TEST_CASE("overlays that make no sense are refused before anything is done", "[draw]") {
  EditableDocument edited = EditableDocument::of(book(3));
  const auto refused = [&](const Status& status, const char* why) {
    REQUIRE_FALSE(status.ok());
    CHECK(status.error().code() == ErrorCode::invalid_argument);
    CHECK_THAT(status.error().to_string(), Catch::Contains(why));
  };
  refused(overlay(edited, {}, book(2), pages("3")), "there are 2");
  refused(overlay(edited, {}, book(2), {}, {.margin = 100}), "no room");
  refused(overlay(edited, {}, book(2), {}, {.opacity = 0}), "opacity");
  refused(overlay(edited, {}, book(2), {}, {.scale = 0}), "scale");
  CHECK(edited.steps().empty());
}
