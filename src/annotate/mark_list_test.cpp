// SPDX-License-Identifier: Apache-2.0
// Lists of marks go out and in again equal, onto pages that are turned too, and say where they are
// wrong.
#include "lumvet/annotate/mark_list.h"

#include <fstream>

#include "annotate/annotation_entries.h"
#include "lumvet/render/render.h"
#include "tests/support/blank.h"
#include "tests/support/catch.h"
#include "tests/support/every_mark.h"
#include "tests/support/temporary_folder.h"

using namespace lumvet;
using Kind = Annotation::Kind;

namespace {

Document marked(const std::string& more = "") {
  return test::open(test::marked_page(test::every_mark(), more)).value();
}

Document with(const Document& document, const std::string& list) {
  EditableDocument edited = EditableDocument::of(document);
  const auto marks = read_marks(list, document);
  INFO((marks.ok() ? std::string() : marks.error().to_string()));
  REQUIRE(marks.ok());
  REQUIRE(add_annotations(edited, marks->marks).ok());
  return edited.now().value();
}

}  // namespace

TEST_CASE("a list says again what it was made from", "[annotate]") {
  const int rotation = GENERATE(0, 90, 180, 270);
  const std::string turned = "/Rotate " + std::to_string(rotation);
  const Document document = marked(turned);
  test::PdfBuilder pdf;
  pdf.page("", "/MediaBox[0 0 300 400]" + turned);
  const Document copy = with(test::open(pdf.finish()).value(), marks_as_json(document).value());
  // What was added has names and rectangles that follow from what is drawn; from then on nothing
  // changes any more.
  const std::string list = marks_as_json(copy).value();
  test::PdfBuilder second;
  second.page("", "/MediaBox[0 0 300 400]" + turned);
  const Document again = with(test::open(second.finish()).value(), list);
  CHECK(marks_as_json(again).value() == list);
  const auto marks = copy.page(0)->annotations().value();
  CHECK(marks.size() == test::every_made_mark().size() - 1);  // files do not come along
  for (const Annotation& mark : marks) CHECK_FALSE(mark.appearance_states.empty());
}

TEST_CASE("lists of some kinds have the answers to them, whatever these are", "[annotate]") {
  const std::string list = R"([
    {"page": 1, "kind": "square", "name": "a", "area": [10, 10, 20, 20], "contents": "crack"},
    {"page": 1, "kind": "note", "name": "b", "area": [10, 10, 20, 20], "reply_to": "a",
     "contents": "yes"},
    {"page": 1, "kind": "note", "area": [10, 10, 20, 20], "reply_to": "b", "contents": "4 mm"},
    {"page": 1, "kind": "note", "area": [50, 50, 20, 20], "contents": "lamp"}])";
  const Document document = with(test::open(test::blank(1, "0 0 200 200")).value(), list);
  const Document other = test::open(test::blank(1, "0 0 200 200")).value();
  const auto told = [&](const std::vector<Annotation::Kind>& kinds) {
    std::string contents;
    for (const NewMark& mark :
         read_marks(marks_as_json(document, kinds).value(), other).value().marks)
      contents += mark.annotation.contents + ";";
    return contents;
  };
  CHECK(told({Annotation::Kind::square}) == "crack;yes;4 mm;");
  CHECK(told({Annotation::Kind::text}) == "lamp;");
  CHECK(told({}) == "crack;yes;4 mm;lamp;");
  CHECK_THAT(marks_as_csv(document, {Annotation::Kind::text}).value(),
             Catch::Contains("lamp") && !Catch::Contains("4 mm"));
}

TEST_CASE("answers come with what they answer", "[annotate]") {
  const std::string list = R"([
    {"page": 1, "kind": "note", "name": "a", "area": [10, 10, 20, 20], "author": "Ilse Marren",
     "contents": "A crack?", "created": "2026-10-14 09:30"},
    {"page": 1, "kind": "note", "area": [10, 10, 20, 20], "reply_to": "a", "contents": "Yes, 4 mm"},
    {"page": 1, "kind": "note", "area": [10, 10, 20, 20], "reply_to": "a", "state_model": "Review",
     "state": "Accepted"}])";
  const auto marks =
      with(test::open(test::blank(1, "0 0 200 200")).value(), list).page(0)->annotations().value();
  REQUIRE(marks.size() == 3);
  CHECK(marks[0].created == "2026-10-14 09:30:00");
  CHECK(marks[1].in_reply_to == marks[0].id);
  CHECK(marks[2].in_reply_to == marks[0].id);
  CHECK(marks[2].review_state == "Accepted");
  CHECK_THAT(marks_as_csv(with(test::open(test::blank(1, "0 0 200 200")).value(), list)).value(),
             Catch::Contains("1,note,Ilse Marren,2026-10-14 09:30:00,,A crack?\r\n") &&
                 Catch::Contains("\"Yes, 4 mm\""));
}

TEST_CASE("marks that are there already are not added again, and names are of one mark",
          "[annotate]") {
  const std::string list = R"([
    {"page": 1, "kind": "square", "name": "a", "area": [10, 10, 20, 20], "contents": "crack"},
    {"page": 1, "kind": "note", "name": "b", "area": [10, 10, 20, 20], "reply_to": "a"},
    {"page": 1, "kind": "link", "area": [80, 80, 20, 20]}])";
  const Document document = with(test::open(test::blank(1, "0 0 200 200")).value(), list);
  const ReadMarks again = read_marks(list, document).value();
  CHECK(again.marks.empty());
  REQUIRE(again.findings.size() == 2);  // none of the link
  CHECK_THAT(again.findings[0].what, Catch::Contains("is there already; it was left out"));
  // Another square of that name, and what answers it.
  const Document more = with(document, R"([
    {"page": 1, "kind": "note", "name": "c", "area": [10, 10, 20, 20], "reply_to": "a"},
    {"page": 1, "kind": "square", "name": "a", "area": [90, 10, 20, 20], "contents": "stain"}])");
  const auto marks = more.page(0)->annotations().value();
  REQUIRE(marks.size() == 5);
  CHECK(marks[0].name == "a");
  CHECK(marks[3].name == "mark-5");
  CHECK(marks[4].in_reply_to == marks[3].id);
}

TEST_CASE("marks of pages that are not there are left out and told", "[annotate]") {
  const auto read = read_marks(
      R"([{"page": 9, "kind": "square", "area": [1, 2, 3, 4]}, {"page": 1, "kind": "square", "area": [1, 2, 3, 4]}])",
      test::open(test::blank(1, "0 0 200 200")).value());
  REQUIRE(read.ok());
  CHECK(read->marks.size() == 1);
  REQUIRE(read->findings.size() == 1);
  CHECK_THAT(read->findings[0].what, Catch::Contains("mark 1"));
}

TEST_CASE("wrong lists say where they are wrong", "[annotate]") {
  const Document document = test::open(test::blank(1, "0 0 200 200")).value();
  const auto error_of = [&](const std::string& list) {
    const auto read = read_marks(list, document);
    REQUIRE_FALSE(read.ok());
    return read.error().to_string();
  };
  CHECK_THAT(error_of("[\n  {]"), Catch::Contains("line 2, column 4"));
  CHECK_THAT(error_of("{}"), Catch::Contains("array"));
  CHECK_THAT(error_of("[7]"), Catch::Contains("mark 1 is no object"));
  CHECK_THAT(error_of(R"([{"page": 1, "kind": "squere"}])"),
             Catch::Contains("did you mean square?"));
  CHECK_THAT(error_of(R"([{"page": 1, "kind": "square", "colour": "#fff"}])"),
             Catch::Contains("did you mean color?"));
  CHECK_THAT(error_of(R"([{"page": 0, "kind": "square"}])"), Catch::Contains("counted from 1"));
  CHECK_THAT(error_of(R"([{"page": "1", "kind": "square"}])"), Catch::Contains("no number"));
  CHECK_THAT(error_of(R"([{"page": 1, "kind": "square"}])"), Catch::Contains("neither area"));
  CHECK_THAT(error_of(R"([{"page": 1, "kind": "square", "area": [1, 2, 3]}])"),
             Catch::Contains("not 4 numbers"));
  CHECK_THAT(error_of(R"([{"page": 1, "kind": "ink", "strokes": [[[1]]]}])"),
             Catch::Contains("two numbers"));
  CHECK_THAT(error_of(R"([{"page": 1, "kind": "square", "area": [1,2,3,4], "color": "rot"}])"),
             Catch::Contains("color"));
  CHECK_THAT(error_of(R"([{"page": 1, "kind": "field", "area": [1,2,3,4]}])"),
             Catch::Contains("kind"));
}

TEST_CASE("lists name files of their folder, when they may", "[annotate]") {
  const test::TemporaryFolder folder;
  const auto put = [&](const char* name, const std::string& bytes) {
    std::ofstream(folder / name, std::ios::binary) << bytes;
  };
  put("notes.txt", "AB");
  put("page.pdf", [] {
    test::PdfBuilder pdf;
    pdf.page("1 0 0 rg 0 0 99 99 re f", "/MediaBox[0 0 40 20]");
    return pdf.finish();
  }());
  const Document document = test::open(test::marked_page({})).value();
  const std::string list =
      R"([{"page":1,"kind":"file-attachment","area":[10,10,20,20],"file":"notes.txt"},
          {"page":1,"kind":"stamp","area":[100,100,40,20],"picture":"page.pdf","picture_page":1}])";
  const auto told = read_marks(list, document).value();
  CHECK(told.findings.size() == 1);
  CHECK((told.marks.size() == 1 && !told.marks[0].parts.look));
  const auto read = read_marks(list, document, {.folder = folder.path()}).value();
  REQUIRE(read.marks.size() == 2);
  CHECK(read.marks[0].parts.file->bytes == Bytes{65, 66});
  EditableDocument edited = EditableDocument::of(document);
  REQUIRE(add_annotations(edited, read.marks).ok());
  const auto seen = render(edited.now()->page(0).value(), {.dpi = 72}).value().at(120, 110);
  CHECK((seen.red == 255 && seen.green == 0));
  const auto refused = [&](const char* more) {
    const auto marks = read_marks(R"([{"page":1,"area":[1,1,9,9],)" + std::string(more) + "}]",
                                  document, {.folder = folder.path()});
    return marks.ok() ? std::string() : marks.error().to_string();
  };
  CHECK_THAT(refused(R"("kind":"stamp","picture":"none.png")"),
             Catch::Contains("mark 1: none.png"));
  CHECK_THAT(refused(R"("kind":"stamp","picture":"page.pdf","picture_page":2)"),
             Catch::Contains("page"));
  CHECK_THAT(refused(R"("kind":"note","picture":"page.pdf")"),
             Catch::Contains("mark 1 has a picture"));
  CHECK_THAT(refused(R"("kind":"stamp","turned":10)"), Catch::Contains("quarter turns"));
}
