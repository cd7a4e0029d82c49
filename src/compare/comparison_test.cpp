// SPDX-License-Identifier: Apache-2.0
#include "lumvet/compare/comparison.h"

#include "compare/different_places.h"
#include "lumvet/edit/editable_document.h"
#include "lumvet/render/render.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;
using test::open;
using test::PdfBuilder;

namespace {

Document with_pages(const std::vector<std::string>& contents, const std::string& more = "") {
  PdfBuilder pdf;
  std::string kids;
  for (std::size_t i = 0; i < contents.size(); ++i) kids += std::to_string(10 + i) + " 0 R ";
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R>>");
  pdf.object(2, "<</Type/Pages/Kids[" + kids + "]/Count " + std::to_string(contents.size()) +
                    "/MediaBox[0 0 200 100]" + more + ">>");
  for (std::size_t i = 0; i < contents.size(); ++i) {
    const int number = static_cast<int>(i);
    pdf.object(10 + number,
               "<</Type/Page/Parent 2 0 R/Contents " + std::to_string(40 + number) + " 0 R>>");
    pdf.stream(40 + number, "", contents[i]);
  }
  return open(pdf.finish()).value();
}

bool holds(const PageArea& outer, const PageArea& inner) {
  return outer.left <= inner.left && outer.top <= inner.top &&
         outer.left + outer.width >= inner.left + inner.width &&
         outer.top + outer.height >= inner.top + inner.height;
}

const std::string kPlain = "0 0 1 rg 20 60 30 20 re f ";

}  // namespace

TEST_CASE("what differs is found where it is, and nothing elsewhere", "[compare]") {
  const std::string turn = GENERATE("", "/Rotate 90", "/Rotate 180");
  const Document before = with_pages({kPlain, kPlain, kPlain}, turn);
  const Document after =
      with_pages({kPlain, kPlain + "150 10 4 4 re f 60 60 1 1 re f", kPlain}, turn);
  const auto pages = compare_pages(before, after).value();
  REQUIRE(pages.size() == 3);
  CHECK(pages[0].is_same());
  CHECK(pages[2].is_same());
  REQUIRE(pages[1].places.size() == 2);
  const Page page = after.page(1).value();
  for (const Rect& changed : {Rect{150, 10, 154, 14}, Rect{60, 60, 61, 61}}) {
    const PageArea area = page.shown(changed);
    int count = 0;
    for (const PageArea& place : pages[1].places) {
      count += holds(place, area) ? 1 : 0;
      CHECK(place.width < 14);
      CHECK(place.height < 14);
    }
    CHECK(count == 1);
  }
  // The other way round it is the same.
  const auto back = compare_pages(after, before).value();
  CHECK(back[1].places.size() == 2);
}

TEST_CASE("levels that nobody sees can be passed over", "[compare]") {
  const Document before = with_pages({"0.50 g 20 20 50 50 re f"});
  const Document after = with_pages({"0.51 g 20 20 50 50 re f"});
  CHECK_FALSE(compare_pages(before, after).value()[0].is_same());
  CHECK(compare_pages(before, after, {.tolerance = 8}).value()[0].is_same());
}

TEST_CASE("pages belong together by what they are, or by their numbers", "[compare]") {
  const Document before = with_pages({kPlain + "1 1 3 3 re f", kPlain + "2 2 3 3 re f",
                                      kPlain + "3 3 3 3 re f", kPlain + "4 4 3 3 re f"});
  auto edited = EditableDocument::of(before);
  REQUIRE(edited.drop(PageSelection::parse("2").value()).ok());
  REQUIRE(edited.move(PageSelection::parse("3").value(), 0).ok());
  const Document after = edited.now().value();
  const auto pages = compare_pages(before, after).value();
  REQUIRE(pages.size() == 4);
  const auto pair = [&](std::size_t i) { return std::pair(pages[i].before, pages[i].after); };
  using Pair = std::pair<std::optional<int>, std::optional<int>>;
  CHECK(pair(0) == Pair{3, 0});
  CHECK(pair(1) == Pair{0, 1});
  CHECK(pair(2) == Pair{1, std::nullopt});
  CHECK(pair(3) == Pair{2, 2});
  for (const std::size_t i : {0U, 1U, 3U}) CHECK(pages[i].is_same());
  CHECK_FALSE(pages[2].is_same());
  const auto by_number =
      compare_pages(before, after, {.pairs = CompareOptions::Pairs::by_number}).value();
  REQUIRE(by_number.size() == 4);
  CHECK_FALSE(by_number[0].is_same());
  CHECK_FALSE(by_number[3].after);
}

TEST_CASE("a page of another size differs as a whole", "[compare]") {
  const Document before = with_pages({kPlain});
  const Document after = with_pages({kPlain}, "/Rotate 90");
  const auto pages = compare_pages(before, after).value();
  REQUIRE(pages[0].places.size() == 1);
  CHECK(pages[0].places[0].width == 100);
  CHECK(pages[0].places[0].height == 200);
}

TEST_CASE("boxes hold every pixel that differs, do not overlap, and stay few", "[compare]") {
  Raster before = Raster::make(400, 300).value();
  Raster after = before;
  unsigned random = 7;
  const auto next = [&] { return (random = random * 1664525U + 1013904223U) >> 8; };
  const int count = GENERATE(1, 30, 4000);
  std::vector<std::pair<int, int>> changed;
  for (int i = 0; i < count; ++i) {
    const int x = static_cast<int>(next() % 400);
    const int y = static_cast<int>(next() % 300);
    after.row(y)[4 * x + 1] ^= 0x40;
    changed.emplace_back(x, y);
  }
  const auto boxes = compare::different_places(before, after, 0);
  CHECK(boxes.size() <= 200);
  for (const auto& [x, y] : changed) {
    if (before.at(x, y) == after.at(x, y)) continue;  // changed twice
    const int px = x;
    const int py = y;
    CHECK(std::count_if(boxes.begin(), boxes.end(), [&](const compare::PixelBox& box) {
            return px >= box.left && px < box.right && py >= box.top && py < box.bottom;
          }) == 1);
  }
  CHECK(compare::different_places(before, before, 0).empty());
}

TEST_CASE("sheets show both pages, framed where they differ", "[compare]") {
  const Document before = with_pages({kPlain, kPlain});
  const Document after = with_pages({kPlain, kPlain + "150 10 4 4 re f"});
  const auto pages = compare_pages(before, after).value();
  const Document sheets =
      side_by_side(before, after, pages, {.title = "Then and now", .notes = {"Field gap"}}).value();
  REQUIRE(sheets.page_count() == 2);
  const Raster drawn = render(sheets.page(1).value(), {.dpi = 72}).value();
  const auto painted = [&](const PixelColor& color, int from, int to) {
    int count = 0;
    for (int y = 0; y < drawn.height(); ++y)
      for (int x = from; x < to; ++x) {
        const PixelColor pixel = drawn.at(x, y);
        count += std::abs(pixel.red - color.red) < 30 && std::abs(pixel.green - color.green) < 30 &&
                         std::abs(pixel.blue - color.blue) < 30
                     ? 1
                     : 0;
      }
    return count;
  };
  const int middle = drawn.width() / 2;
  CHECK(painted({0, 0, 255}, 0, middle) > 300);  // the page's own square, on both sides
  CHECK(painted({0, 0, 255}, middle, drawn.width()) > 300);
  CHECK(painted({204, 84, 0}, 0, middle) > 10);  // frames
  CHECK(painted({0, 92, 168}, middle, drawn.width()) > 20);
  CHECK(painted({204, 84, 0}, middle, drawn.width()) == 0);
  CHECK(sheets.outline().value().size() == 2);
  // Nothing differs: one sheet that says so.
  const auto same = compare_pages(before, before).value();
  CHECK(side_by_side(before, before, same).value().page_count() == 1);
  CHECK(side_by_side(before, before, same, {.has_all_pages = true}).value().page_count() == 3);
}

TEST_CASE("comparing can be stopped, and tells how far it is", "[compare]") {
  const Document document = with_pages({kPlain, kPlain, kPlain});
  CancelToken stop;
  std::vector<std::uint64_t> told;
  const auto stopped =
      compare_pages(document, document, {.cancel = stop, .progress = [&](auto done, auto) {
                                           told.push_back(done);
                                           if (done == 2) stop.cancel();
                                         }});
  REQUIRE_FALSE(stopped.ok());
  CHECK(stopped.error().code() == ErrorCode::cancelled);
  CHECK(told == std::vector<std::uint64_t>{1, 2});
  CHECK(compare_pages(document, document, {.dpi = 0}).error().code() ==
        ErrorCode::invalid_argument);
}
