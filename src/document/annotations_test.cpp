// SPDX-License-Identifier: Apache-2.0
#include "lumvet/document/document.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;
using test::PdfBuilder;

namespace {

using Kind = Annotation::Kind;

// The one annotation is object 11.
Annotation only(const std::string& entries) {
  PdfBuilder pdf;
  pdf.page("", "/MediaBox[0 0 100 100]/Annots[11 0 R]").object(11, "<<" + entries + ">>");
  const auto annotations = test::open(pdf.finish())->page(0)->annotations().value();
  REQUIRE(annotations.size() == 1);
  return annotations[0];
}

}  // namespace

TEST_CASE("a mark tells who, when, what and how it looks", "[document]") {
  const Annotation mark = only(
      "/Subtype/Highlight/Rect[10 20 5 8]/Contents(A crack)/NM(m1)/T(Mira Holt)/Subj(Defect)"
      "/Lang(en)/M(D:20260412101500Z)/CreationDate(D:20260411)/F 4/C[1 .5 0]/CA .4"
      "/QuadPoints[1 2 3 4 5 6 7 8 9]/AP<</N 3 0 R>>/Popup 12 0 R/IRT 13 0 R/RT/Group/OC 14 0 R"
      "/StateModel(Review)/State(Accepted)");
  CHECK(mark.id == ObjectId{11, 0});
  CHECK(mark.kind == Kind::highlight);
  CHECK(mark.rect == Rect{5, 8, 10, 20});
  CHECK(mark.contents == "A crack");
  CHECK(mark.name == "m1");
  CHECK(mark.author == "Mira Holt");
  CHECK(mark.subject == "Defect");
  CHECK(mark.language == "en");
  CHECK(mark.created.substr(0, 10) == "2026-04-11");
  CHECK(mark.modified.substr(0, 16) == "2026-04-12 10:15");
  CHECK((mark.is_printed() && mark.is_shown()));
  CHECK(mark.color == std::vector<double>{1, 0.5, 0});
  CHECK(mark.opacity == 0.4);
  REQUIRE(mark.quads.size() == 1);
  CHECK(mark.quads[0][3] == Point{7, 8});
  CHECK(mark.popup == ObjectId{12, 0});
  CHECK(mark.in_reply_to == ObjectId{13, 0});
  CHECK(mark.is_grouped);
  CHECK(mark.review_model == "Review");
  CHECK(mark.review_state == "Accepted");
  CHECK(mark.layer.as_reference() == ObjectId{14, 0});
}

TEST_CASE("every kind of annotation is known by its type", "[document]") {
  const std::vector<std::string> types = {
      "Text",      "Link",     "FreeText",  "Line",      "Square",         "Circle",
      "Polygon",   "PolyLine", "Highlight", "Underline", "Squiggly",       "StrikeOut",
      "Caret",     "Stamp",    "Ink",       "Popup",     "FileAttachment", "Redact",
      "Sound",     "Movie",    "Screen",    "Widget",    "PrinterMark",    "TrapNet",
      "Watermark", "3D",       "RichMedia", "Projection"};
  for (std::size_t i = 0; i < types.size(); ++i) {
    CAPTURE(types[i]);
    const Annotation mark = only("/Subtype/" + types[i]);
    CHECK(static_cast<std::size_t>(mark.kind) == i);
    CHECK(mark.type == types[i]);
  }
  CHECK(only("/Subtype/Hologram").kind == Kind::other);
  CHECK(only("/Contents(no type)").kind == Kind::other);
}

TEST_CASE("shapes keep their points", "[document]") {
  const Annotation line = only("/Subtype/Line/L[1 2 3 4]/LE[/OpenArrow/Butt]/IC[0 1 1 0]");
  CHECK(line.vertices == std::vector<Point>{{1, 2}, {3, 4}});
  CHECK(line.line_ends == std::array<std::string, 2>{"OpenArrow", "Butt"});
  CHECK(line.interior_color == std::vector<double>{0, 1, 1, 0});
  const Annotation ink = only("/Subtype/Ink/InkList[[1 2 3 4][5 6 7]]");
  CHECK(ink.strokes == std::vector<std::vector<Point>>{{{1, 2}, {3, 4}}, {{5, 6}}});
  CHECK(only("/Subtype/Polygon/Vertices[0 0 9 0 9 9]/IT/PolygonCloud").vertices.size() == 3);
  CHECK(only("/Subtype/Square/C[1 2]").color.empty());
}

TEST_CASE("borders are read from either place", "[document]") {
  CHECK(only("/Subtype/Link").border.width == 1);
  CHECK(only("/Subtype/Link/Border[0 0 0]").border.width == 0);
  const Annotation dashed = only("/Subtype/Link/Border[0 0 2[4 1]]");
  CHECK(dashed.border.style == "D");
  CHECK(dashed.border.dash == std::vector<double>{4, 1});
  const Annotation styled = only("/Subtype/Square/BS<</W 3/S/D>>/Border[0 0 9]");
  CHECK(styled.border.width == 3);
  CHECK(styled.border.dash == std::vector<double>{3});
}

TEST_CASE("links lead, buttons have states, and nothing is done", "[document]") {
  const Annotation link = only("/Subtype/Link/Dest[3 0 R/FitV 4]/F 34");
  REQUIRE(link.destination);
  CHECK(link.destination->page == 0);
  CHECK(link.is_hidden());
  CHECK_FALSE(link.is_shown());
  const Annotation away = only("/Subtype/Link/A<</S/URI/URI(http://ostrel.example/)>>");
  REQUIRE(away.actions.size() == 1);
  CHECK(away.actions[0].kind == Action::Kind::uri);
  CHECK_FALSE(away.destination);
  const Annotation box = only(
      "/Subtype/Widget/AS/Off/AP<</N<</Off 4 0 R/Yes 4 0 R>>>>/AA<</E<</S/Named/N/Print>>>>"
      "/F 192");
  CHECK(box.appearance_state == "Off");
  CHECK(box.appearance_states == std::vector<std::string>{"Off", "Yes"});
  CHECK((box.is_locked() && box.is_read_only()));
  REQUIRE(box.triggers.size() == 1);
  CHECK(box.triggers[0].event == "pointer enters");
  CHECK(only("/Subtype/FileAttachment/FS<</F(plan.csv)>>/Name/Tag").file == "plan.csv");
}

TEST_CASE("what is no annotation is found", "[document]") {
  PdfBuilder pdf;
  pdf.page("", "/Annots[11 0 R 7<</Subtype/Link/Rect[0 0 1]>>null]").object(11, "[1]");
  const Document document = test::open(pdf.finish()).value();
  const std::size_t before = document.findings().size();
  const auto annotations = document.page(0)->annotations().value();
  REQUIRE(annotations.size() == 1);
  CHECK(annotations[0].id == ObjectId{});
  CHECK(annotations[0].rect == Rect{});
  CHECK(document.findings().size() > before);
}

TEST_CASE("annotations of all pages are those of each page, on any number of threads",
          "[document]") {
  constexpr int kPages = 150;
  PdfBuilder pdf;
  std::string kids;
  for (int i = 0; i < kPages; ++i) {
    const std::string note = std::to_string(1000 + i) + " 0 R";
    kids += std::to_string(100 + i) + " 0 R ";
    pdf.object(100 + i,
               "<</Type/Page/Parent 2 0 R/Annots[" + note + (i % 3 == 0 ? " 5 0 R" : "") + "]>>");
    pdf.object(1000 + i, "<</Subtype/Text/Rect[0 0 9 9]/Contents(no. " + std::to_string(i) + ")>>");
  }
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R>>");
  pdf.object(2, "<</Type/Pages/Kids[" + kids + "]/Count 150/MediaBox[0 0 9 9]>>");
  pdf.object(5, "<</Subtype/Square/Rect[0 0 5 5]/IC[1 1]>>");
  const Document document = test::open(pdf.finish()).value();
  for (const int threads : {1, 4, 0}) {
    const auto all = document.annotations(threads).value();
    REQUIRE(all.size() == kPages);
    for (int i = 0; i < kPages; ++i) {
      const auto& marks = all[static_cast<std::size_t>(i)];
      REQUIRE(marks.size() == (i % 3 == 0 ? 2u : 1u));
      CHECK(marks[0].contents == "no. " + std::to_string(i));
      CHECK(marks.back().id == document.page(i)->annotations()->back().id);
    }
  }
}
