// SPDX-License-Identifier: Apache-2.0
// Marks tell what they measure, in the units of a drawing.
#include "lumvet/annotate/measuring.h"

#include <numbers>

#include "lumvet/annotate/mark_list.h"
#include "lumvet/render/render.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"
#include "tests/support/saved.h"

using namespace lumvet;
using Catch::Contains;
using Kind = Annotation::Kind;

namespace {

Annotation through(Kind kind, std::vector<Point> points) {
  Annotation mark;
  mark.kind = kind;
  mark.vertices = std::move(points);
  return mark;
}
Annotation within(Kind kind, const Rect& rect) {
  Annotation mark;
  mark.kind = kind;
  mark.rect = rect;
  return mark;
}

MeasureUnit unit(const std::string& label, double factor) {
  return {.label = label, .factor = factor};
}

Document blank() {
  test::PdfBuilder pdf;
  pdf.page("",
           "/MediaBox[0 0 200 200]/VP[<</BBox[0 0 200 200]/Measure<</R(1 in = 4 ft)/X[<</U(ft)/C "
           ".0555556>>]/D[<</U(ft)/C 1>><</U(in)/C 12/F/F/D 8>>]/A[<</U(sq ft)/C 1>>]>>>>]");
  return test::open(pdf.finish()).value();
}

}  // namespace

TEST_CASE("lengths and areas are those of what is drawn", "[annotate]") {
  CHECK(length_of(through(Kind::line, {{0, 0}, {3, 4}})) == Approx(5));
  CHECK(length_of(through(Kind::polyline, {{0, 0}, {3, 4}, {3, 14}})) == Approx(15));
  CHECK(length_of(through(Kind::polygon, {{0, 0}, {3, 0}, {3, 4}})) == Approx(12));
  CHECK(area_of(through(Kind::polygon, {{0, 0}, {3, 0}, {3, 4}})) == Approx(6));
  CHECK(area_of(through(Kind::polygon, {{0, 0}, {3, 4}, {3, 0}})) == Approx(6));
  CHECK(area_of(through(Kind::polyline, {{0, 0}, {3, 4}, {3, 0}})) == 0);
  CHECK(area_of(through(Kind::polyline, {{0, 0}, {3, 4}, {3, 0}, {0, 0}})) == Approx(6));
  CHECK(length_of(within(Kind::square, {0, 0, 10, 20})) == Approx(60));
  CHECK(area_of(within(Kind::circle, {0, 0, 10, 10})) == Approx(25 * std::numbers::pi));
  CHECK(length_of(within(Kind::circle, {0, 0, 10, 10})) == Approx(10 * std::numbers::pi));
  Annotation free = within(Kind::square, {0, 0, 12, 12});
  free.inset = {1, 1, 1, 1};
  CHECK(area_of(free) == Approx(100));
  CHECK(length_of(within(Kind::text, {0, 0, 10, 20})) == 0);
}

TEST_CASE("numbers are written in one unit or several", "[annotate]") {
  const std::vector<MeasureUnit> feet = {
      unit("ft", 1),
      {.label = "in", .factor = 12, .fraction = MeasureUnit::Fraction::fraction, .precision = 8}};
  CHECK(in_units(3.375, feet) == "3 ft 4 1/2 in");
  CHECK(in_units(0.5, feet) == "6 in");
  CHECK(in_units(2, feet) == "2 ft 0 in");
  CHECK(in_units(1234.567, {unit("m", 1)}) == "1,234.57 m");
  CHECK(in_units(-1.5, {unit("m", 1)}) == "-1.5 m");
  MeasureUnit kept = unit("m", 1);
  kept.is_kept = true;
  kept.thousands = ".";
  kept.decimal_sign = ",";
  CHECK(in_units(1234.5, {kept}) == "1.234,50 m");
  MeasureUnit whole = unit("kg", 1);
  whole.fraction = MeasureUnit::Fraction::rounded;
  CHECK(in_units(2.6, {whole}) == "3 kg");
  whole.fraction = MeasureUnit::Fraction::truncated;
  CHECK(in_units(2.6, {whole}) == "2 kg");
  MeasureUnit before = unit("Kr", 1);
  before.label_first = true;
  CHECK(in_units(2.5, {before}) == "Kr 2.5");
  CHECK(in_units(2, {}).empty());
}

TEST_CASE("a scale measures what the drawing stands for", "[annotate]") {
  const Measure half = drawing_scale(50, "m");
  CHECK(half.scale == "1:50");
  // 72 points are an inch on paper, and 1.27 m of what is drawn.
  CHECK(measured_text(through(Kind::line, {{0, 0}, {72, 0}}), half) == "1.27 m");
  CHECK(measured_text(within(Kind::square, {0, 0, 72, 144}), half) == "3.23 m²");
  CHECK(measured_text(through(Kind::line, {{0, 0}, {72, 0}}), drawing_scale(1, "in")) == "1 in");
  CHECK(measured_text(within(Kind::text, {0, 0, 9, 9}), half).empty());
  CHECK(measured_text(through(Kind::line, {{0, 0}, {72, 0}}), Measure{.kind = Measure::Kind::map})
            .empty());
}

TEST_CASE("measures are written with their marks, and the page's own are found", "[annotate]") {
  const Document document = blank();
  const Page page = document.page(0).value();
  Annotation line = mark_through(page, Kind::line, {{20, 100}, {20 + 60, 100}});
  const auto own = measure_of(page, line).value();
  REQUIRE(own);
  CHECK(measured_text(line, *own) == "3 ft 4 in");
  line.measure = std::make_shared<const Measure>(*own);
  line.contents = measured_text(line, *own);
  line.has_caption = true;
  auto edited = EditableDocument::of(document);
  REQUIRE(add_annotation(edited, 0, line).ok());
  for (const Document& saved : test::saved_each_way(edited)) {
    const Annotation read = saved.page(0)->annotations()->at(0);
    REQUIRE(read.measure);
    CHECK(*read.measure == *own);
    CHECK(read.contents == "3 ft 4 in");
  }
}

TEST_CASE("a list measures by its scale, and says what came out", "[annotate]") {
  const Document document = blank();
  const auto read = read_marks(
      R"([{"page":1,"kind":"line","points":[[10,10],[82,10]],"measure":{"scale":50,"unit":"m"}},
          {"page":1,"kind":"polygon","points":[[10,10],[82,10],[82,82]],
           "measure":{"scale":100,"unit":"m","decimals":1}}])",
      document);
  REQUIRE(read.ok());
  CHECK(read->marks[0].annotation.contents == "1.27 m");
  CHECK(read->marks[1].annotation.contents == "3.2 m²");
  auto edited = EditableDocument::of(document);
  REQUIRE(add_annotations(edited, read->marks).ok());
  const std::string list = marks_as_json(edited.now().value()).value();
  CHECK_THAT(list, Contains("\"measured\": \"1.27 m\"") && Contains("\"scale\": \"1:50\""));
  const auto again = read_marks(list, document);
  REQUIRE(again.ok());
  auto twice = EditableDocument::of(document);
  REQUIRE(add_annotations(twice, again->marks).ok());
  CHECK(marks_as_json(twice.now().value()).value() == list);
}

TEST_CASE("ink is as wide as the pen was pressed", "[annotate]") {
  const Document document = blank();
  const Page page = document.page(0).value();
  Annotation line = ink(page, {{{20, 50}, {100, 50}, {180, 50}}});
  line.border.width = 20;
  line.rect = page_rect(page, {10, 30, 180, 40});
  line.color = {0};
  auto edited = EditableDocument::of(document);
  MarkParts parts;
  parts.look = pressed_ink(line, {{0.1, 1, 0.1}});
  REQUIRE(add_annotation(edited, 0, line, parts).ok());
  const Raster raster = render(edited.now()->page(0).value(), {.dpi = 72}).value();
  const auto width_at = [&](int x) {
    int dark = 0;
    for (int y = 0; y < raster.height(); ++y) dark += raster.at(x, y).green < 128 ? 1 : 0;
    return dark;
  };
  CHECK(width_at(100) == Approx(20).margin(1.5));
  CHECK(width_at(30) < 8);
  CHECK(width_at(60) == Approx(width_at(140)).margin(1.5));
  CHECK(width_at(60) > 6);
  CHECK(width_at(60) < 16);
  CHECK(edited.now()->page(0)->annotations()->at(0).strokes.at(0).size() == 3);
}
