// SPDX-License-Identifier: Apache-2.0
// What goes out as XFDF or FDF comes back equal, and files of others hurt nobody.
#include "lumvet/exchange/exchange.h"

#include "annotate/annotation_entries.h"
#include "crypto/base64.h"
#include "lumvet/base/bytes.h"
#include "lumvet/draw/picture.h"
#include "lumvet/forms/value_list.h"
#include "lumvet/io/byte_sink.h"
#include "lumvet/render/render.h"
#include "tests/support/catch.h"
#include "tests/support/every_mark.h"
#include "tests/support/inspection_form.h"

using namespace lumvet;
using Catch::Contains;
using Kind = Annotation::Kind;

namespace {

struct Trip {
  const char* name;
  std::string (*out)(const Document&);
  Result<Exchange> (*in)(std::string_view, const Document&);
};
const Trip kTrips[] = {
    {"XFDF", [](const Document& document) { return as_xfdf(document).value(); }, read_xfdf},
    {"FDF",
     [](const Document& document) {
       const Bytes bytes = as_fdf(document).value();
       return std::string(bytes.begin(), bytes.end());
     },
     [](std::string_view file, const Document& document) {
       return read_fdf(as_bytes(file), document);
     }}};

// A mark of each kind with all that it can say, and a thread of answers.
Document marked_drawing() {
  const Document drawing = test::open(test::marked_page({})).value();
  const Document every = test::open(test::marked_page(test::every_made_mark())).value();
  auto edited = EditableDocument::of(drawing);
  std::vector<NewMark> marks;
  const std::vector<Annotation> made = every.page(0)->annotations().value();
  for (const Annotation& mark : made) {
    NewMark one{.annotation = mark};
    one.annotation.author = "Ilse Märren <bridges>";
    one.annotation.subject = "Check & see";
    one.annotation.contents += "\nsecond \"line\"";
    one.annotation.created = "2026-10-14 09:30:00 +02:00";
    one.annotation.blend.clear();
    for (std::vector<double>* color : {&one.annotation.color, &one.annotation.interior_color})
      if (!color->empty()) *color = {0.2, 0.4, 1};
    if (mark.kind == Kind::file_attachment)
      one.parts.file = NewAttachment{
          .name = "photo \xC3\xBC.bin", .bytes = {0, 1, 255, 62}, .media_type = "image/png"};
    if (mark.kind == Kind::link)
      one.annotation.actions = {
          {.kind = Action::Kind::uri, .type = "URI", .target = "https://ostrel.example/?a=1&b=2"}};
    marks.push_back(std::move(one));
  }
  const auto answer = [&](const std::string& to, const std::string& name, bool is_grouped) {
    Annotation mark = note_at(drawing.page(0).value(), {20, 20}, "answer " + name);
    mark.name = name;
    mark.color = {0.2, 0.4, 1};
    mark.is_grouped = is_grouped;
    mark.review_model = is_grouped ? "" : "Review";
    mark.review_state = is_grouped ? "" : "Accepted";
    marks.push_back({.annotation = mark, .reply_to = to});
  };
  marks[0].annotation.name = "first";
  answer("first", "second", false);
  answer("second", "third", false);
  answer("first", "fourth", true);
  add_annotations(edited, marks).value();
  return test::saved(edited);
}

std::vector<std::string> entries_of(const Document& document) {
  std::vector<std::string> all;
  const std::vector<Annotation> marks = document.page(0)->annotations().value();
  std::map<ObjectId, std::string> names;
  for (const Annotation& mark : marks) names[mark.id] = mark.name;
  for (Annotation mark : marks) {
    const std::string of = mark.in_reply_to ? names[*mark.in_reply_to] : "";
    mark.in_reply_to.reset();
    std::string target = mark.file;
    for (const Action& action : mark.actions) target += action.target;
    all.push_back(to_text(Object(annotate::with_entries({}, mark))) + " " + of + " " + target);
  }
  std::sort(all.begin(), all.end());
  return all;
}

Exchange read_both(const std::string& xfdf, const Document& document) {
  const auto read = read_xfdf(xfdf, document);
  CAPTURE(read.ok() ? "" : read.error().to_string());
  REQUIRE(read.ok());
  return *read;
}

std::string in_xfdf(const std::string& marks) {
  return "<?xml version=\"1.0\"?><xfdf xmlns=\"http://ns.adobe.com/xfdf/\"><annots>" + marks +
         "</annots></xfdf>";
}

}  // namespace

TEST_CASE("marks of every kind come back equal, with their files, answers and states",
          "[exchange]") {
  const Document marked = marked_drawing();
  const Document drawing = test::open(test::marked_page({})).value();
  for (const Trip& trip : kTrips) {
    CAPTURE(trip.name);
    const std::string file = trip.out(marked);
    const auto read = trip.in(file, drawing);
    REQUIRE(read.ok());
    for (const Finding& finding : read->findings) FAIL_CHECK(finding.what);
    auto edited = EditableDocument::of(drawing);
    REQUIRE(add_annotations(edited, read->marks).ok());
    const Document again = test::saved(edited);
    const std::vector<std::string> expected = entries_of(marked);
    const std::vector<std::string> entries = entries_of(again);
    REQUIRE(entries.size() == expected.size());
    for (std::size_t i = 0; i < entries.size(); ++i) CHECK(entries[i] == expected[i]);
    for (const Attachment& attachment : again.attachments().value())
      CHECK(Bytes(again.attached_bytes(attachment)->bytes.view().begin(),
                  again.attached_bytes(attachment)->bytes.view().end()) == Bytes{0, 1, 255, 62});
    CHECK(again.attachments()->size() == 1);
    CHECK(trip.out(again).size() == file.size());
  }
}

TEST_CASE("what stamps and pens look like comes back to the pixel", "[exchange]") {
  const Document drawing = test::open(test::marked_page({})).value();
  const Page page = drawing.page(0).value();
  Drawing look(40, 20);
  look.write("r\xC3\xA4um", {1, 12}, {.size = 12, .color = Color::rgb(0, 0, 1)});
  look.draw(Picture::of_rows(Bytes(3 * 9, 99), 3, 3, Picture::Pixels::rgb).value(),
            {28, 4, 10, 10});
  Annotation pen = ink(page, {{{100, 100}, {140, 120}, {180, 100}}});
  pen.border.width = 9;
  auto edited = EditableDocument::of(drawing);
  add_annotations(
      edited,
      {{.annotation = mark_in(page, Kind::stamp, {20, 20, 80, 40}), .parts = {.look = look}},
       {.annotation = pen, .parts = {.look = pressed_ink(pen, {{0.1, 1, 0.2}})}}})
      .value();
  BufferSink locked;
  edited.save(locked, {.protection = NewProtection{.owner_password = "stones"}}).value();
  const Document marked = Document::open(locked.take()).value();
  for (const Trip& trip : kTrips) {
    CAPTURE(trip.name);
    const std::string file = trip.out(marked);
    const Exchange read = trip.in(file, drawing).value();
    CHECK(read.findings.empty());
    auto again = EditableDocument::of(drawing);
    add_annotations(again, read.marks).value();
    CHECK(render(again.now()->page(0).value(), {}).value() ==
          render(marked.page(0).value(), {}).value());
    CHECK(trip.out(test::saved(again)).size() == file.size());
  }
}

TEST_CASE("a look in which everything is shared ends with a limit", "[exchange]") {
  constexpr int kLevels = 40;
  test::PdfBuilder pdf;
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R>>");
  pdf.object(2, "<</Type/Pages/Kids[3 0 R]/Count 1>>");
  pdf.object(3, "<</Type/Page/Parent 2 0 R/MediaBox[0 0 99 99]/Annots[4 0 R]>>");
  pdf.object(4, "<</Subtype/Stamp/Rect[1 1 9 9]/AP<</N 10 0 R>>>>");
  for (int i = 0; i < kLevels; ++i) {
    const std::string next = std::to_string(11 + i) + " 0 R";
    pdf.stream(
        10 + i,
        "/Subtype/Form/BBox[0 0 9 9]/Resources<</XObject<</A " + next + "/B " + next + ">>>>",
        "/A Do");
  }
  const Document hostile = test::open(pdf.finish()).value();
  CHECK(as_xfdf(hostile).error().code() == ErrorCode::limit);
  CHECK(as_fdf(hostile).error().code() == ErrorCode::limit);
}

TEST_CASE("looks that others wrote as XML are read, and what is none is told", "[exchange]") {
  const Document drawing = test::open(test::marked_page({})).value();
  const auto marks_with = [&](const std::string& xml) {
    return read_both(in_xfdf("<stamp page='0' rect='10,10,50,50'><appearance>" +
                             crypto::base64(as_bytes(xml)) + "</appearance></stamp>"),
                     drawing);
  };
  const std::string box =
      "<ARRAY KEY='BBox'><INT VAL='0'/><FIXED VAL='0.0'/><INT VAL='10'/><INT VAL='10'/></ARRAY>";
  const Exchange read = marks_with(
      "<DICT KEY='AP'><STREAM KEY='N'><NAME KEY='Subtype' VAL='Form'/>" + box +
      "<NAME KEY='Filter' VAL='FlateDecode'/><DATA MODE='FILTERED' ENCODING='ASCII'>1 0 0 rg 0 0 "
      "10 10 re f</DATA></STREAM></DICT>");
  CHECK(read.findings.empty());
  auto edited = EditableDocument::of(drawing);
  add_annotations(edited, read.marks).value();
  const Raster raster = render(edited.now()->page(0).value(), {.dpi = 72}).value();
  const auto seen = raster.at(30, raster.height() - 30);
  CHECK((seen.red == 255 && seen.green == 0));
  std::string deep = "<DICT><STREAM KEY='N'>";
  for (int i = 0; i < 100'000; ++i) deep += "<ARRAY KEY='a'>";
  for (const std::string& xml : {std::string("<DICT/>"), std::string("no XML"), deep,
                                 "<DICT><STREAM KEY='N'>" + box + "</STREAM></DICT>"}) {
    const Exchange none = marks_with(xml);
    REQUIRE(none.findings.size() == 1);
    CHECK_THAT(none.findings[0].what, Contains("its look could not be read"));
    CHECK(none.marks.size() == 1);
  }
}

TEST_CASE("values of a form come back equal, in groups, in lists and in boxes", "[exchange]") {
  const Document form = test::inspection_form();
  auto filled = EditableDocument::of(form);
  fill_fields(filled, {{"bridge", {"Merrow <Ford> & \xC3\xBC"}},
                       {"day", {"2026-04-12"}},
                       {"dry", {"on"}},
                       {"grade", {"two"}},
                       {"tools", {"rope", "boat"}},
                       {"notes", {"first\nsecond"}},
                       {"gap.left", {"2.5"}}})
      .value();
  const Document given = test::saved(filled);
  const std::string expected = values_as_json(values_of(given.form().value()));
  for (const Trip& trip : kTrips) {
    CAPTURE(trip.name);
    const auto read = trip.in(trip.out(given), form);
    REQUIRE(read.ok());
    CHECK(values_as_json(read->values) == expected);
    auto again = EditableDocument::of(form);
    REQUIRE(fill_fields(again, read->values, {.fills_read_only = true}).ok());
    CHECK(values_as_json(values_of(again.now()->form().value())) == expected);
  }
}

TEST_CASE("what does not fit the next issue of a drawing is told, and the rest comes",
          "[exchange]") {
  const Document marked = marked_drawing();
  test::PdfBuilder small;
  small.page("", "/MediaBox[0 0 60 60]");
  const Document next = test::open(small.finish()).value();
  for (const Trip& trip : kTrips) {
    CAPTURE(trip.name);
    const auto read = trip.in(trip.out(marked), next);
    REQUIRE(read.ok());
    std::size_t beyond = 0;
    for (const Finding& finding : read->findings)
      beyond += finding.what.find("lies beyond the edges of page 1") != std::string::npos ? 1 : 0;
    CHECK(beyond > 3);
    CHECK(read->marks.size() + beyond == entries_of(marked).size());
    auto edited = EditableDocument::of(next);
    CHECK((read->marks.empty() || add_annotations(edited, read->marks).ok()));
  }
  const std::string note = "<text page=\"4\" rect=\"1,1,9,9\" name=\"a\"/>";
  const std::string answer = "<text page=\"0\" rect=\"1,1,9,9\" name=\"b\" inreplyto=\"a\"/>";
  const Exchange read = read_both(in_xfdf(answer + note), next);
  REQUIRE(read.marks.size() == 1);
  CHECK(read.marks[0].reply_to.empty());
  REQUIRE(read.findings.size() == 2);
  CHECK_THAT(read.findings[0].what, Contains("mark 2 (text) is of page 5"));
  CHECK_THAT(read.findings[1].what, Contains("mark 1 (text) answers 'a', which is not there"));
}

TEST_CASE("answers come behind what they answer, also in circles", "[exchange]") {
  const Document drawing = test::open(test::marked_page({})).value();
  const auto note = [](const std::string& name, const std::string& to) {
    return "<text page=\"0\" rect=\"10,10,20,20\" name=\"" + name + "\" inreplyto=\"" + to + "\"/>";
  };
  const Exchange read =
      read_both(in_xfdf(note("c", "b") + note("b", "a") + note("a", "")), drawing);
  REQUIRE(read.marks.size() == 3);
  for (std::size_t i = 0; i < 3; ++i)
    CHECK(read.marks[i].annotation.name == std::string(1, static_cast<char>('a' + i)));
  auto edited = EditableDocument::of(drawing);
  CHECK(add_annotations(edited, read.marks).ok());

  const Exchange circle =
      read_both(in_xfdf(note("x", "y") + note("y", "x") + note("z", "z")), drawing);
  CHECK(circle.marks.size() == 3);
  CHECK(circle.findings.size() == 2);
  CHECK(add_annotations(edited, circle.marks).ok());
}

TEST_CASE("entities are told, and neither expanded nor fetched", "[exchange]") {
  const Document drawing = test::open(test::marked_page({})).value();
  const std::string file =
      "<?xml version=\"1.0\"?><!DOCTYPE x [<!ENTITY a \"aaaa\"><!ENTITY b \"&a;&a;\">"
      "<!ENTITY f SYSTEM \"file:///etc/hostname\">]><xfdf><annots>"
      "<text page=\"0\" rect=\"10,10,20,20\"><contents>&b; &f;</contents></text>"
      "</annots></xfdf>";
  const Exchange read = read_both(file, drawing);
  REQUIRE(read.marks.size() == 1);
  CHECK(read.marks[0].annotation.contents == "&b; &f;");
  REQUIRE(read.findings.size() == 1);
  CHECK_THAT(read.findings[0].what, Contains("declares entities, which are not expanded"));
}

TEST_CASE("damaged marks are told with their place, and files that are none refused",
          "[exchange]") {
  const Document drawing = test::open(test::marked_page({})).value();
  struct Case {
    const char* mark;
    const char* told;
    std::size_t marks;
  };
  const Case cases[] = {
      {"<text rect='1,1,9,9'/>", "mark 1 (text) has no page", 0},
      {"<text page='-1' rect='1,1,9,9'/>", "has no page", 0},
      {"<text page='0.5' rect='1,1,9,9'/>", "has no page", 0},
      {"<text page='0' rect='1,1,9'/>", "has no rect", 0},
      {"<text page='0' rect='1,nan,9,9'/>", "has numbers that could not be read", 0},
      {"<text page='0' rect='1,1e99,9,9'/>", "has numbers that could not be read", 0},
      {"<ink page='0' rect='1,1,9,9'><inklist><gesture>1,1;x</gesture></inklist></ink>",
       "'gesture' has numbers", 1},
      {"<sound page='0' rect='1,1,9,9'/>", "mark 1 (sound) is of a kind that is not made", 0},
      {"<fileattachment page='0' rect='1,1,9,9' file='a'><data encoding='hex'>0g</data>"
       "</fileattachment>",
       "has a file, which did not come along", 0},
  };
  for (const Case& one : cases) {
    CAPTURE(one.mark);
    const Exchange read = read_both(in_xfdf(one.mark), drawing);
    CHECK(read.marks.size() == one.marks);
    REQUIRE_FALSE(read.findings.empty());
    CHECK_THAT(read.findings[0].what, Contains(one.told));
  }
  CHECK(read_both(in_xfdf("<text page='0' rect='1,1,9,9' color='#12'/>"), drawing).marks.size() ==
        1);
  CHECK(read_both(in_xfdf("<popup page='0' rect='1,1,9,9'/>"), drawing).findings.empty());

  const auto none = read_xfdf("<xfdf><annots></xfdf>", drawing);
  REQUIRE_FALSE(none.ok());
  CHECK(none.error().code() == ErrorCode::malformed);
  CHECK_THAT(none.error().message(), Contains("line 1, column"));
  CHECK_FALSE(read_xfdf("", drawing).ok());
  CHECK_THAT(read_xfdf("<html/>", drawing).error().message(), Contains("this is no XFDF"));
  for (const char* file :
       {"", "%FDF-1.2", "%PDF-1.4\n1 0 obj<</Type/Catalog>>endobj trailer<</Root 1 0 R>>"})
    CHECK(read_fdf(as_bytes(std::string_view(file)), drawing).error().code() ==
          ErrorCode::malformed);
}

TEST_CASE("an FDF of others is read: answers by reference, fields by flat names", "[exchange]") {
  const Document drawing = test::open(test::marked_page({})).value();
  const std::string file =
      "%FDF-1.2\n1 0 obj<</FDF<</F(drawing.pdf)/Annots[2 0 R 3 0 R 4 0 R]"
      "/JavaScript<</Doc[]>>/Fields[<</T(a.b)/V(x)>><</T(c)/Kids[<</T(d)/V/Yes>>5 0 R]>>5 0 "
      "R]>>>>endobj\n"
      "2 0 obj<</Subtype/Text/Rect[10 10 20 20]/Page 0/IRT 3 0 R/Contents(no)>>endobj\n"
      "3 0 obj<</Subtype/Square/Rect[10 10 20 20]/Page 0/Popup 4 0 "
      "R/A<</S/JavaScript/JS(x)>>>>endobj\n"
      "4 0 obj<</Subtype/Popup/Rect[10 10 20 20]/Page 0/Parent 3 0 R>>endobj\n"
      "5 0 obj<</T(e)/Kids[5 0 R]/V[(p)(q)]>>endobj\n"
      "trailer<</Root 1 0 R>>\n%%EOF";
  const auto read = read_fdf(as_bytes(std::string_view(file)), drawing);
  REQUIRE(read.ok());
  CHECK(read->file == "drawing.pdf");
  REQUIRE(read->marks.size() == 2);
  CHECK(read->marks[0].annotation.kind == Kind::square);
  CHECK(read->marks[1].reply_to == read->marks[0].annotation.name);
  CHECK(read->values ==
        std::vector<FieldValue>{{"a.b", {"x"}}, {"c.d", {"Yes"}}, {"c.e", {"p", "q"}}});
  REQUIRE(read->findings.size() == 1);
  CHECK_THAT(read->findings[0].what, Contains("has scripts"));
  auto edited = EditableDocument::of(drawing);
  REQUIRE(add_annotations(edited, read->marks).ok());
  BufferSink sink;
  edited.save(sink).value();
  const Bytes bytes = sink.take();
  CHECK(std::string(bytes.begin(), bytes.end()).find("JavaScript") == std::string::npos);
}
