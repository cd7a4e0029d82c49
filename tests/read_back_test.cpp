// SPDX-License-Identifier: Apache-2.0
// Text that we set is read back as it was set, where it was set.
#include <cmath>

#include "lumvet/lumvet.h"
#include "tests/support/blank.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;

namespace {

constexpr double kWidth = 400;
constexpr double kHeight = 300;
constexpr double kMargin = 28;

PageWords read_back(const PageText& text) {
  const Document empty = test::open(test::blank(2, "0 0 400 300")).value();
  EditableDocument edited = EditableDocument::of(empty);
  write_on_pages(edited, PageSelection::parse("2").value(), text).value();
  BufferSink sink;
  edited.save(sink).value();
  const Document saved = Document::open(sink.take()).value();
  CHECK(PageWords::of(saved.page(0).value())->text().empty());
  return PageWords::of(saved.page(1).value()).value();
}

// The box around all of it.
Rect box_of(const PageWords& words) {
  Rect box = Rect::nothing();
  for (const Quad& quad : words.quads(0, words.text().size()))
    for (const Point corner : quad) box.include(corner);
  return box;
}

}  // namespace

TEST_CASE("text set onto a page is read back equal, in every script that is set", "[text]") {
  for (const char* text : {"Page 12 of 300", "Prüfung der Brücken – «Stahl»", "Мосты долины",
                           "Γέφυρες της κοιλάδας", "office affluent fjord", "1 000,5 m²"}) {
    CAPTURE(text);
    const PageWords words = read_back({.text = text, .size = 14, .font = "DejaVu Sans"});
    CHECK(words.text() == text);
    CHECK(words.unknown_count() == 0);
    for (std::size_t i = 0; i < words.word_count(); ++i) {
      CHECK(words.word(i).size == Approx(14));
      CHECK(words.word(i).visibility == Visibility::seen);
    }
  }
}

TEST_CASE("text is read back where its anchor put it", "[text]") {
  struct Case {
    Anchor anchor;
    int side_across;  // -1 left, 0 middle, 1 right
    int side_down;    // -1 above, 0 middle, 1 below
  };
  for (const Case& known :
       {Case{Anchor::top_left, -1, -1}, Case{Anchor::top, 0, -1}, Case{Anchor::top_right, 1, -1},
        Case{Anchor::left, -1, 0}, Case{Anchor::center, 0, 0}, Case{Anchor::right, 1, 0},
        Case{Anchor::bottom_left, -1, 1}, Case{Anchor::bottom, 0, 1},
        Case{Anchor::bottom_right, 1, 1}}) {
    const Rect box =
        box_of(read_back({.text = "{page} of {pages}", .anchor = known.anchor, .size = 12}));
    CAPTURE(known.side_across, known.side_down, box.left, box.bottom, box.right, box.top);
    constexpr double kSame = 0.6;
    if (known.side_across < 0) CHECK(box.left == Approx(kMargin).margin(kSame));
    if (known.side_across > 0) CHECK(box.right == Approx(kWidth - kMargin).margin(kSame));
    if (known.side_across == 0)
      CHECK((box.left + box.right) / 2 == Approx(kWidth / 2).margin(kSame));
    // What a line takes above and below its letters is the font's own.
    constexpr double kLine = 6;
    const double middle = (box.bottom + box.top) / 2;
    if (known.side_down < 0) CHECK(middle == Approx(kMargin + 6).margin(kLine));
    if (known.side_down > 0) CHECK(middle == Approx(kHeight - kMargin - 6).margin(kLine));
    if (known.side_down == 0) CHECK(middle == Approx(kHeight / 2).margin(kLine));
  }
}

TEST_CASE("turned text and the colors and fonts of text are read back", "[text]") {
  const PageWords words = read_back({.text = "DRAFT",
                                     .anchor = Anchor::center,
                                     .size = 40,
                                     .font = "DejaVu Sans:bold",
                                     .color = {1, 0, 0},
                                     .degrees = 30});
  REQUIRE(words.text() == "DRAFT");
  const Quad quad = words.word(0).quad;
  const Point side = quad[1] - quad[0];
  CHECK(std::atan2(-side.y, side.x) * 180 / 3.14159265 == Approx(30).margin(0.1));
  const WordStyle& style = words.styles().at(words.word(0).style);
  CHECK(style.is_bold);
  CHECK(style.color == std::array<std::uint8_t, 3>{255, 0, 0});
  CHECK_THAT(style.font, Catch::StartsWith("DejaVu"));
}
