// SPDX-License-Identifier: Apache-2.0
// Marks are written with an appearance that is what would be drawn without it, and are read back
// equal, however the document is saved.
#include "lumvet/annotate/annotations.h"

#include <functional>
#include <random>

#include "annotate/annotation_entries.h"
#include "lumvet/annotate/mark_list.h"
#include "lumvet/draw/picture.h"
#include "lumvet/render/render.h"
#include "tests/support/catch.h"
#include "tests/support/every_mark.h"
#include "tests/support/saved.h"

using namespace lumvet;
using Kind = Annotation::Kind;

namespace {

Document blank(const std::string& more = "", int pages = 1) {
  test::PdfBuilder pdf;
  std::string kids;
  for (int i = 0; i < pages; ++i) {
    kids += std::to_string(10 + i) + " 0 R ";
    pdf.object(10 + i, "<</Type/Page/Parent 2 0 R/MediaBox[0 0 300 400]" + more + ">>");
  }
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R>>");
  pdf.object(2, "<</Type/Pages/Kids[" + kids + "]/Count " + std::to_string(pages) + ">>");
  return test::open(pdf.finish()).value();
}

Bytes pixels(const Page& page, double dpi = 72) {
  const Raster raster = render(page, {.dpi = dpi}).value();
  Bytes all;
  for (int y = 0; y < raster.height(); ++y)
    all.insert(all.end(), raster.row(y), raster.row(y) + 4 * raster.width());
  return all;
}

int most_different(const Bytes& a, const Bytes& b) {
  REQUIRE(a.size() == b.size());
  int most = 0;
  for (std::size_t i = 0; i < a.size(); ++i) most = std::max(most, std::abs(a[i] - b[i]));
  return most;
}

std::string entries_of(const Annotation& mark) {
  return to_text(Object(annotate::with_entries({}, mark)));
}

// All kinds, as a page that has them tells them.
std::vector<NewMark> every_mark() {
  const Document document = test::open(test::marked_page(test::every_made_mark())).value();
  std::vector<NewMark> marks;
  for (Annotation& mark : document.page(0)->annotations().value()) {
    MarkParts parts;
    if (mark.kind == Kind::file_attachment)
      parts.file = NewAttachment{.name = "photo.txt", .bytes = {1, 2, 3}};
    mark.author = "Ilse Marren";
    mark.subject = "Prüfung";
    mark.created = "2026-10-14 09:30:00 +02:00";
    marks.push_back({0, std::move(mark), std::move(parts)});
  }
  return marks;
}

Document saved_as(EditableDocument& edited, const SaveOptions& options) {
  BufferSink sink;
  REQUIRE(edited.save(sink, options).ok());
  return Document::open(sink.take()).value();
}

}  // namespace

TEST_CASE("what is written for a mark is what is drawn without it, to the pixel", "[annotate]") {
  const int rotation = GENERATE(0, 90, 180, 270);
  const std::string turned = "/Rotate " + std::to_string(rotation);
  const Document without = test::open(test::marked_page(test::every_made_mark(), turned)).value();
  EditableDocument edited = EditableDocument::of(blank(turned));
  REQUIRE(add_annotations(edited, every_mark()).ok());
  const Document written = edited.now().value();
  const auto annotations = written.page(0)->annotations().value();
  REQUIRE(annotations.size() == test::every_made_mark().size());
  for (const Annotation& mark : annotations) {
    CAPTURE(mark.type);
    CHECK(mark.appearance_states == std::vector<std::string>{""});
    CHECK_FALSE(mark.name.empty());
  }
  for (const double dpi : {72.0, 190.0})
    CHECK(most_different(pixels(written.page(0).value(), dpi),
                         pixels(without.page(0).value(), dpi)) <= 1);
}

TEST_CASE("marks are read back equal, however the document is saved", "[annotate]") {
  test::PdfBuilder pdf;
  pdf.page("", "/MediaBox[0 0 300 400]");
  const std::string opened = pdf.finish();
  EditableDocument edited = EditableDocument::of(test::open(opened).value());
  REQUIRE(add_annotations(edited, every_mark()).ok());
  std::vector<std::string> expected;
  for (const Annotation& mark : edited.now()->page(0)->annotations().value())
    expected.push_back(entries_of(mark));
  const Bytes shown = pixels(edited.now()->page(0).value());
  const auto check = [&](const Document& document) {
    const auto marks = document.page(0)->annotations().value();
    REQUIRE(marks.size() == expected.size());
    for (std::size_t i = 0; i < marks.size(); ++i) CHECK(entries_of(marks[i]) == expected[i]);
    CHECK(pixels(document.page(0).value()) == shown);
    for (const Finding& finding : document.findings()) FAIL_CHECK(finding.what);
  };
  check(saved_as(edited, {}));
  check(saved_as(edited, {.layout = FileLayout::linearized}));
  BufferSink locked;
  REQUIRE(edited.save(locked, {.protection = NewProtection{.user_password = "ostrel"}}).ok());
  check(Document::open(locked.take(), {.password = "ostrel"}).value());
  Bytes whole(opened.begin(), opened.end());
  const Bytes tail = edited.appended().value();
  whole.insert(whole.end(), tail.begin(), tail.end());
  check(Document::open(std::move(whole)).value());
}

TEST_CASE("marks made of what is seen lie there, however the page is turned", "[annotate]") {
  const int rotation = GENERATE(0, 90, 180, 270);
  const Document document =
      blank("/CropBox[20 30 280 380]/UserUnit 2/Rotate " + std::to_string(rotation));
  const Page page = document.page(0).value();
  EditableDocument edited = EditableDocument::of(document);
  const PageArea area{100, 60, 80, 40};
  Annotation square = mark_in(page, Kind::square, area);
  square.interior_color = square.color = {0, 0, 1};
  REQUIRE(add_annotation(edited, 0, square).ok());
  REQUIRE(add_annotation(edited, 0, ink(page, {{{220, 100}, {260, 100}}})).ok());
  const Quad line{Point{100, 150}, {200, 150}, {200, 170}, {100, 170}};
  REQUIRE(add_annotation(edited, 0, text_mark(page, Kind::highlight, {line})).ok());
  const Page marked = edited.now()->page(0).value();
  const PageArea back = shown_area(marked, marked.annotations().value()[0].rect);
  CHECK(page_rect(marked, area) == square.rect);
  CHECK(back.left == Approx(100));
  CHECK(back.top == Approx(60));
  CHECK(back.width == Approx(80));
  CHECK(back.height == Approx(40));
  const Annotation pin = mark_in(page, Kind::file_attachment, area);
  const PageArea pinned = mark_area(page, pin);
  CHECK(mark_rect(page, pin, pinned) == pin.rect);
  CHECK((pinned.left == Approx(100) && pinned.top == Approx(60)));
  CHECK((pinned.width == Approx(80) && pinned.height == Approx(40)));
  const Raster raster = render(marked, {.dpi = 72}).value();
  CHECK(raster.at(140, 80).blue > 200);
  CHECK(raster.at(140, 80).red < 50);
  CHECK(raster.at(90, 80).red == 255);
  CHECK(raster.at(140, 110).red == 255);
  CHECK(raster.at(240, 100).green < 100);
  CHECK(raster.at(150, 160).blue < 150);
  CHECK(raster.at(150, 175).blue == 255);
}

TEST_CASE("marks are changed, moved, raised, answered and taken away, each a step", "[annotate]") {
  EditableDocument edited = EditableDocument::of(blank());
  const Page page = edited.now()->page(0).value();
  Annotation red = mark_in(page, Kind::square, {50, 50, 60, 60});
  red.interior_color = red.color = {1, 0, 0};
  Annotation blue = mark_in(page, Kind::square, {80, 80, 60, 60});
  blue.interior_color = blue.color = {0, 0, 1};
  const ObjectId first = add_annotation(edited, 0, red).value();
  const ObjectId second = add_annotation(edited, 0, blue).value();
  const auto at = [&](int x, int y) {
    return render(edited.now()->page(0).value(), {.dpi = 72})->at(x, y);
  };
  CHECK(at(95, 95).blue == 255);
  REQUIRE(raise_annotation(edited, first).ok());
  CHECK(at(95, 95).red == 255);
  REQUIRE(lower_annotation(edited, first).ok());
  CHECK(at(95, 95).blue == 255);
  REQUIRE(change_annotation(edited, second, transformed(blue, Matrix::translation(100, 0))).ok());
  CHECK(at(95, 95).red == 255);
  CHECK(at(195, 95).blue == 255);
  CHECK(at(195, 95).red == 0);

  Annotation answer{.kind = Kind::text, .contents = "Seen."};
  answer.in_reply_to = first;
  const ObjectId reply = add_annotation(edited, 0, answer).value();
  Annotation state{.kind = Kind::text};
  state.in_reply_to = reply;
  state.review_model = "Review";
  state.review_state = "Accepted";
  REQUIRE(add_annotation(edited, 0, state).ok());
  Annotation popup{.kind = Kind::popup, .rect = {0, 0, 100, 50}};
  popup.popup_of = first;
  REQUIRE(add_annotation(edited, 0, popup).ok());
  CHECK(edited.now()->page(0)->annotations()->size() == 5);
  CHECK(edited.now()->page(0)->annotations().value()[3].review_state == "Accepted");
  REQUIRE(remove_annotations(edited, {first}).ok());
  const auto left = edited.now()->page(0)->annotations().value();
  REQUIRE(left.size() == 1);
  CHECK(left[0].id == second);
  CHECK(edited.steps().back() == "removed 4 annotations");
  edited.undo();
  CHECK(edited.now()->page(0)->annotations()->size() == 5);
  while (edited.can_undo()) edited.undo();
  CHECK(edited.now()->page(0)->annotations()->empty());
  while (edited.can_redo()) edited.redo();
  CHECK(edited.now()->page(0)->annotations()->size() == 1);
}

TEST_CASE("a drawing is the look of a mark, and a file goes with it", "[annotate]") {
  EditableDocument edited = EditableDocument::of(blank());
  const Page page = edited.now()->page(0).value();
  Drawing look(40, 20);
  look.fill(box({0, 0, 20, 20}), Color::rgb(1, 0, 0));
  look.fill(box({20, 0, 20, 20}), Color::rgb(0, 1, 0));
  REQUIRE(add_annotation(edited, 0, mark_in(page, Kind::stamp, {100, 100, 80, 40}), {.look = look})
              .ok());
  const Raster raster = render(edited.now()->page(0).value(), {.dpi = 72}).value();
  CHECK(raster.at(120, 120).red == 255);
  CHECK(raster.at(120, 120).green == 0);
  CHECK(raster.at(160, 120).green == 255);
  Annotation file = note_at(page, {10, 10}, "the photo");
  file.kind = Kind::file_attachment;
  file.icon = "Paperclip";
  REQUIRE(add_annotation(edited, 0, file,
                         {.file = NewAttachment{.name = "photo.txt", .bytes = {65, 66}}})
              .ok());
  const Document document = saved_as(edited, {});
  CHECK(document.page(0)->annotations().value()[1].file == "photo.txt");
  REQUIRE(document.attachments()->size() == 1);
  CHECK(document.attachments().value()[0].name == "photo.txt");
}

TEST_CASE("marks are upright on turned pages as they are on others", "[annotate]") {
  const auto drawn = [](const Document& document) {
    EditableDocument edited = EditableDocument::of(document);
    const Page page = document.page(0).value();
    Drawing look(80, 40);
    look.fill(box({0, 0, 30, 40}), Color::rgb(1, 0, 0));
    std::vector<NewMark> marks{
        {.annotation = mark_in(page, Kind::stamp, {20, 20, 80, 40}), .parts = {.look = look}},
        {.annotation = mark_in(page, Kind::stamp, {120, 20, 120, 40})},
        {.annotation = mark_in(page, Kind::free_text, {20, 100, 100, 30})},
        {.annotation = mark_in(page, Kind::caret, {20, 150, 20, 20})},
        {.annotation = mark_in(page, Kind::file_attachment, {60, 150, 20, 20})},
        {.annotation = note_at(page, {100, 150}, "")}};
    marks[2].annotation.contents = "Look";
    marks[4].parts.file = NewAttachment{.name = "a"};
    for (const auto& [from, to] : {std::pair<Point, Point>{{20, 250}, {120, 250}},
                                   {{260, 250}, {160, 250}},
                                   {{200, 280}, {200, 380}}}) {
      Annotation line = mark_through(page, Kind::line, {from, to});
      line.has_caption = true;
      line.contents = "4 m";
      marks.push_back({.annotation = line});
    }
    for (NewMark& mark : marks) mark.annotation.name = std::to_string(&mark - marks.data());
    REQUIRE(add_annotations(edited, marks).ok());
    const std::string list = marks_as_json(edited.now().value()).value();
    EditableDocument again = EditableDocument::of(document);
    std::vector<NewMark> read = read_marks(list, document).value().marks;
    CHECK(read.size() == marks.size() - 1);  // without the file
    read[0].parts = marks[0].parts;
    read.push_back(marks[4]);
    REQUIRE(add_annotations(again, read).ok());
    CHECK(most_different(pixels(again.now()->page(0).value()),
                         pixels(edited.now()->page(0).value())) == 0);
    return pixels(edited.now()->page(0).value(), 144);
  };
  const Bytes upright = drawn(blank());
  const int rotation = GENERATE(90, 180, 270);
  test::PdfBuilder pdf;
  pdf.page("",
           (rotation == 180 ? "/MediaBox[0 0 300 400]/Rotate " : "/MediaBox[0 0 400 300]/Rotate ") +
               std::to_string(rotation));
  const Bytes turned = drawn(test::open(pdf.finish()).value());
  REQUIRE(turned.size() == upright.size());
  std::size_t differing = 0;
  for (std::size_t i = 0; i < upright.size(); ++i)
    differing += std::abs(upright[i] - turned[i]) > 64 ? 1 : 0;
  CHECK(differing < upright.size() / 10'000);
}

TEST_CASE("a look stays while nothing that can be seen changes but its place", "[annotate]") {
  EditableDocument edited = EditableDocument::of(blank());
  const Page page = edited.now()->page(0).value();
  Drawing look(40, 20);
  look.fill(box({0, 0, 40, 20}), Color::rgb(1, 0, 0));
  const ObjectId stamp =
      add_annotation(edited, 0, mark_in(page, Kind::stamp, {100, 100, 80, 40}), {.look = look})
          .value();
  const ObjectId pen =
      add_annotation(edited, 0, ink(page, {{{20, 20}, {60, 40}}}), {.look = look}).value();
  const auto red_at = [&](int x, int y) {
    const Raster raster = render(edited.now()->page(0).value(), {.dpi = 72}).value();
    return raster.at(x, y).red == 255 && raster.at(x, y).green == 0;
  };
  const auto change = [&](ObjectId id, const auto& how) {
    for (Annotation mark : edited.now()->page(0)->annotations().value()) {
      if (mark.id != id) continue;
      how(mark);
      REQUIRE(change_annotation(edited, id, mark).ok());
    }
  };
  change(stamp, [&](Annotation& mark) {
    mark = transformed(mark, Matrix{2, 0, 0, 2, -mark.rect.left, -mark.rect.bottom});
    mark.contents = "checked again";
  });
  CHECK(red_at(180, 130));
  change(pen, [](Annotation& mark) { mark = transformed(mark, Matrix::translation(0.1, -100)); });
  CHECK(red_at(24, 136));
  change(pen, [](Annotation& mark) { mark.color = {0, 0, 1}; });
  CHECK_FALSE(red_at(24, 136));
  change(stamp, [](Annotation& mark) { mark.icon = "Final"; });
  CHECK_FALSE(red_at(180, 130));
}

TEST_CASE("pictures of stamps are as opaque as these, and stay when that or a color changes",
          "[annotate]") {
  Drawing page_of_its_own(40, 20);
  page_of_its_own.fill(box({0, 0, 40, 20}), Color::rgb(1, 0, 0));
  Drawing around(40, 20);
  around.draw(page_of_its_own, {0, 0});
  Drawing picture(40, 20);
  picture.draw(Picture::of_rows(Bytes{255, 0, 0}, 1, 1, Picture::Pixels::rgb).value(),
               {0, 0, 40, 20}, Drawing::Fit::stretched);
  Drawing with_a_part(40, 20);  // opaque by its own words
  with_a_part.draw(around, {0, 0});
  {
    const auto scope = with_a_part.scope();
    with_a_part.set_opacity(1);
    with_a_part.fill(box({0, 0, 4, 4}), Color::rgb(1, 0, 0));
  }
  for (const Drawing& look : {around, picture, with_a_part})
    for (const double before : {1.0, 0.4}) {
      EditableDocument edited = EditableDocument::of(blank());
      Annotation mark = mark_in(edited.now()->page(0).value(), Kind::stamp, {100, 100, 80, 40});
      mark.opacity = before;
      const ObjectId id = add_annotation(edited, 0, mark, {.look = look}).value();
      const auto color = [&] {
        return render(edited.now()->page(0).value(), {.dpi = 72}).value().at(140, 120);
      };
      CHECK(color().red == 255);
      CHECK(color().green == Approx(255 * (1 - before)).margin(2));
      for (const double after : {0.4, 0.2, 0.8}) {
        mark.opacity = after;
        mark.color = {0, 0, after};
        REQUIRE(change_annotation(edited, id, mark).ok());
        CHECK(color().red == 255);
        CHECK(color().green == Approx(255 * (1 - after)).margin(2));
      }
    }
}

TEST_CASE("words of stamps have the color that is said", "[annotate]") {
  EditableDocument edited = EditableDocument::of(blank());
  Annotation mark = mark_in(edited.now()->page(0).value(), Kind::stamp, {100, 100, 80, 40});
  mark.opacity = 0.5;
  const ObjectId id = add_annotation(edited, 0, mark).value();
  mark.color = {0, 0, 1};
  REQUIRE(change_annotation(edited, id, mark).ok());
  EditableDocument other = EditableDocument::of(blank());
  REQUIRE(add_annotation(other, 0, mark).ok());
  CHECK(most_different(pixels(edited.now()->page(0).value()),
                       pixels(other.now()->page(0).value())) == 0);
}

TEST_CASE("the look of a mark goes with it into another document", "[annotate]") {
  EditableDocument edited = EditableDocument::of(blank());
  const Page page = edited.now()->page(0).value();
  Drawing look(40, 20);
  look.write("SEEN", {2, 15}, {.size = 14});
  look.draw(Picture::of_rows(Bytes(3 * 4, 99), 2, 2, Picture::Pixels::rgb).value(),
            {20, 0, 20, 20});
  const Annotation stamp = mark_in(page, Kind::stamp, {100, 100, 80, 40});
  REQUIRE(add_annotation(edited, 0, stamp, {.look = look}).ok());
  const Document first = saved_as(edited, {});
  const Object form = look_of(first, first.page(0)->annotations()->front().id).value();
  EditableDocument other = EditableDocument::of(blank());
  REQUIRE(add_annotation(other, 0, stamp, {.form = form}).ok());
  CHECK(render(saved_as(other, {}).page(0).value(), {}).value() ==
        render(first.page(0).value(), {}).value());
  CHECK(look_of(first, ObjectId{1, 0}).error().code() == ErrorCode::invalid_argument);
  CHECK(add_annotation(other, 0, stamp, {.form = Object(Dict())}).error().code() ==
        ErrorCode::invalid_argument);
}

TEST_CASE("a callout ends in what was asked for, on whichever side it was said", "[annotate]") {
  for (const std::array<std::string, 2>& ends : {std::array<std::string, 2>{"OpenArrow", "None"},
                                                 {"OpenArrow", ""},
                                                 {"None", "OpenArrow"}}) {
    EditableDocument edited = EditableDocument::of(blank());
    const Page page = edited.now()->page(0).value();
    Annotation callout = mark_in(page, Kind::free_text, {150, 100, 100, 40});
    callout.vertices = {page_point(page, {50, 120}), page_point(page, {150, 120})};
    callout.line_ends = ends;
    REQUIRE(add_annotation(edited, 0, callout).ok());
    CHECK(edited.now()->page(0)->annotations().value()[0].line_ends[1] == "OpenArrow");
    const Raster raster = render(edited.now()->page(0).value(), {.dpi = 288}).value();
    int dark = 0;  // beside the line, near its end
    for (int y = 4 * 114; y < 4 * 119; ++y)
      for (int x = 4 * 50; x < 4 * 60; ++x) dark += raster.at(x, y).green < 128 ? 1 : 0;
    CHECK(dark > 10);
  }
}

TEST_CASE("links lead to pages, places and addresses", "[annotate]") {
  EditableDocument edited = EditableDocument::of(blank("", 3));
  const Page page = edited.now()->page(0).value();
  Annotation link = mark_in(page, Kind::link, {10, 10, 80, 20});
  link.destination = Destination{.page = 2, .view = Destination::View::fit};
  REQUIRE(add_annotation(edited, 0, link).ok());
  link.destination.reset();
  link.actions = {{.kind = Action::Kind::uri, .target = "https://ostrel.example/"}};
  REQUIRE(add_annotation(edited, 0, link).ok());
  const auto links = saved_as(edited, {}).page(0)->annotations().value();
  REQUIRE(links.size() == 2);
  CHECK(links[0].destination->page == 2);
  CHECK(links[1].actions.at(0).target == "https://ostrel.example/");
  CHECK(pixels(edited.now()->page(0).value()) == pixels(page));  // no frame
  link.destination = Destination{.page = 7};
  CHECK_THAT(add_annotation(edited, 0, link).error().to_string(), Catch::Contains("page 8"));
}

TEST_CASE("what makes no sense is refused, and nothing is changed", "[annotate]") {
  EditableDocument edited = EditableDocument::of(blank());
  const Page page = edited.now()->page(0).value();
  const auto refused = [&](const Status& status, const char* why) {
    REQUIRE_FALSE(status.ok());
    CHECK_THAT(status.error().to_string(), Catch::Contains(why));
  };
  const auto adding = [&](int at, const Annotation& mark) -> Status {
    const auto added = add_annotation(edited, at, mark);
    return added.ok() ? Status(Done{}) : Status(added.error());
  };
  refused(adding(4, mark_in(page, Kind::square, {0, 0, 10, 10})), "page 5");
  refused(adding(0, {.kind = Kind::widget}), "field");
  refused(adding(0, {}), "kind");
  refused(adding(0, mark_through(page, Kind::line, {{1, 2}})), "two points");
  refused(adding(0, ink(page, {})), "strokes");
  refused(adding(0, note_at(page, {}, "a").kind == Kind::text
                        ? Annotation{.kind = Kind::file_attachment}
                        : Annotation{}),
          "file");
  Annotation named = note_at(page, {}, "a");
  named.kind = Kind::file_attachment;
  named.file = "photo.jpg";  // only a name
  refused(adding(0, named), "file");
  CHECK_FALSE(can_be_made(Kind::movie));
  CHECK(can_be_made(Kind::stamp));
  refused(adding(0, {.kind = Kind::movie}), "Movie");
  refused(remove_annotations(edited, {{99, 0}}), "object 99");
  refused(remove_annotations(edited, {}), "no annotation");
  refused(raise_annotation(edited, {1, 0}), "object 1");
  CHECK(edited.steps().empty());
  Annotation locked = mark_in(page, Kind::square, {0, 0, 10, 10});
  locked.flags |= 1 << 7;
  const ObjectId id = add_annotation(edited, 0, locked).value();
  refused(change_annotation(edited, id, locked), "locked");
}

TEST_CASE("certificates say what may be marked", "[annotate]") {
  for (const int level : {0, 1, 2, 3}) {
    test::PdfBuilder pdf;
    pdf.page("", "/MediaBox[0 0 300 400]");
    const std::string limit = level == 0 ? "" : "/P " + std::to_string(level);
    pdf.object(1, "<</Type/Catalog/Pages 2 0 R/Perms<</DocMDP 9 0 R>>>>");
    pdf.object(
        9, "<</Type/Sig/Reference[<</TransformMethod/DocMDP/TransformParams<<" + limit + ">>>>]>>");
    EditableDocument edited = EditableDocument::of(test::open(pdf.finish()).value());
    const Page page = edited.now()->page(0).value();
    const auto added = add_annotation(edited, 0, mark_in(page, Kind::square, {0, 0, 10, 10}));
    CAPTURE(level);
    CHECK(added.ok() == (level == 3));
    if (!added.ok()) CHECK(added.error().code() == ErrorCode::unsupported);
  }
}

TEST_CASE("flattened pages look as before, and have no marks", "[annotate]") {
  const int rotation = GENERATE(0, 90, 270);
  const std::string turned = "/Rotate " + std::to_string(rotation);
  // With appearances, and without.
  EditableDocument written = EditableDocument::of(blank(turned));
  REQUIRE(add_annotations(written, every_mark()).ok());
  const Document made = test::open(test::marked_page(test::every_made_mark(), turned)).value();
  for (const Document& document : {written.now().value(), made}) {
    EditableDocument edited = EditableDocument::of(document);
    const Bytes before = pixels(document.page(0).value(), 100);
    CHECK(flatten_annotations(edited, {}).value() ==
          static_cast<int>(test::every_made_mark().size()) - 2);
    for (const Annotation& mark : edited.now()->page(0)->annotations().value())
      CHECK(mark.kind == Kind::link);
    CHECK(most_different(before, pixels(edited.now()->page(0).value(), 100)) <= 1);
    CHECK(most_different(before, pixels(saved_as(edited, {}).page(0).value(), 100)) <= 1);
    edited.undo();
    CHECK(flatten_annotations(edited, {}, {.kinds = {Kind::stamp, Kind::ink}}).value() == 2);
    CHECK(most_different(before, pixels(edited.now()->page(0).value(), 100)) <= 1);
  }
}

TEST_CASE("any order of changes can be taken back", "[annotate]") {
  std::mt19937 random(GENERATE(1, 2, 3, 4));
  const auto below = [&](std::size_t limit) { return static_cast<std::size_t>(random() % limit); };
  EditableDocument edited = EditableDocument::of(blank("", 3));
  std::vector<Document> states = {edited.now().value()};
  const std::vector<NewMark> marks = every_mark();
  const auto all_of = [](const Document& document) {
    std::vector<std::string> all;
    for (int page = 0; page < document.page_count(); ++page)
      for (const Annotation& mark : document.page(page)->annotations().value())
        all.push_back(std::to_string(page) + to_text(Object(mark.id)) + entries_of(mark));
    return all;
  };
  for (int step = 0; step < 40; ++step) {
    const auto page = static_cast<int>(below(3));
    const auto there = edited.now()->page(page)->annotations().value();
    Status done = Done{};
    switch (there.empty() ? 0 : below(6)) {
      case 0: {
        const NewMark& mark = marks[below(marks.size())];
        const auto added = add_annotation(edited, page, mark.annotation, mark.parts);
        if (!added.ok()) done = added.error();
        break;
      }
      case 1: done = remove_annotations(edited, {there[below(there.size())].id}); break;
      case 2: done = raise_annotation(edited, there[below(there.size())].id); break;
      case 3: done = lower_annotation(edited, there[below(there.size())].id); break;
      case 4: {
        const Annotation& mark = there[below(there.size())];
        done = change_annotation(edited, mark.id, transformed(mark, Matrix::translation(3, -2)));
        break;
      }
      default: {
        const auto count =
            flatten_annotations(edited, PageSelection::of({page}), {.kinds = {Kind::ink}});
        if (!count.ok()) done = count.error();
      }
    }
    INFO((done.ok() ? std::string() : done.error().to_string()));
    REQUIRE(done.ok());
    states.push_back(edited.now().value());
  }
  const auto last = all_of(states.back());
  CHECK(all_of(saved_as(edited, {})).size() == last.size());
  for (std::size_t i = states.size() - 1; i-- > 0;) {
    edited.undo();
    CHECK(all_of(edited.now().value()) == all_of(states[i]));
  }
  while (edited.can_redo()) edited.redo();
  CHECK(all_of(edited.now().value()) == last);
}

TEST_CASE("marks that go leave nothing in the structure", "[annotate]") {
  // A link alone in its element, and a square in one that also has text; the link leads to page 2.
  test::PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R/StructTreeRoot 20 0 R/MarkInfo<</Marked true>>>>")
      .object(2, "<</Type/Pages/Kids[3 0 R 4 0 R]/Count 2/MediaBox[0 0 99 99]>>")
      .object(3, "<</Type/Page/Parent 2 0 R/StructParents 0/Contents 5 0 R/Annots[10 0 R 11 0 R]>>")
      .object(4, "<</Type/Page/Parent 2 0 R>>")
      .stream(5, "", "/P<</MCID 0>>BDC EMC")
      .object(10, "<</Subtype/Link/Rect[1 1 9 9]/StructParent 1/Dest[4 0 R/Fit]>>")
      .object(11, "<</Subtype/Square/Rect[20 20 40 40]/StructParent 2>>")
      .object(20, "<</Type/StructTreeRoot/K[21 0 R 22 0 R]/ParentTree 23 0 R>>")
      .object(21, "<</S/Link/P 20 0 R/Pg 3 0 R/K<</Type/OBJR/Obj 10 0 R>>>>")
      .object(22, "<</S/P/P 20 0 R/Pg 3 0 R/K[0<</Type/OBJR/Obj 11 0 R>>]>>")
      .object(23, "<</Nums[0[22 0 R]1 21 0 R 2 22 0 R]>>");
  const Document tagged = test::open(pdf.finish()).value();
  const auto left = [&](const std::function<void(EditableDocument&)>& edit) {
    EditableDocument edited = EditableDocument::of(tagged);
    edit(edited);
    const Document saved = test::saved(edited);
    std::string text;
    const Structure structure = saved.structure().value();
    for (const StructureElement& element : structure.elements)
      text += element.type + std::to_string(element.parts.size()) + ' ';
    return text;
  };
  CHECK(left([](EditableDocument&) {}) == "Link1 P2 ");
  CHECK(left([](EditableDocument& edited) {
          REQUIRE(remove_annotations(edited, {ObjectId{10, 0}}).ok());
        }) == "P2 ");
  CHECK(left([](EditableDocument& edited) {
          REQUIRE(flatten_annotations(edited, {}, {.kinds = {Kind::square}}).ok());
        }) == "Link1 P1 ");
  CHECK(left([](EditableDocument& edited) {
          REQUIRE(edited.drop(PageSelection::parse("2").value()).ok());
        }) == "P2 ");
}
