// SPDX-License-Identifier: Apache-2.0
#include "lumvet/document/document.h"
#include "tests/support/catch.h"
#include "tests/support/pdf_builder.h"

using namespace lumvet;
using test::PdfBuilder;

namespace {

using Kind = FormField::Kind;

// The form is the catalog's; the page is object 3.
PdfBuilder with_form(const std::string& form, const std::string& annotations = "") {
  PdfBuilder pdf;
  pdf.page("", "/MediaBox[0 0 100 100]/Annots[" + annotations + "]");
  return pdf.object(1, "<</Type/Catalog/Pages 2 0 R/AcroForm<<" + form + ">>>>");
}

}  // namespace

TEST_CASE("fields are a tree of full names with inherited properties", "[document]") {
  const Document document =
      test::open(with_form("/Fields[11 0 R]/DA(/Helv 9 Tf)/CO[13 0 R]", "13 0 R 14 0 R 15 0 R")
                     .object(11, "<</T(inspection)/Kids[12 0 R 13 0 R]/FT/Tx/Ff 2/V(as above)>>")
                     .object(12, "<</T(bridge)/Parent 11 0 R/Kids[14 0 R 15 0 R]/MaxLen 40/Q 2>>")
                     .object(13,
                             "<</T(notes)/Parent 11 0 R/Ff 4097/V(Two cracks)/DV(none)/TU(Notes of "
                             "the day)/TM(n)/DA(/F 7 Tf)/Subtype/Widget/Rect[5 6 1 2]"
                             "/AA<</V<</S/JavaScript/JS(check\\(\\))>>>>>>")
                     .object(14, "<</Parent 12 0 R/Subtype/Widget/Rect[0 0 9 9]>>")
                     .object(15, "<</Parent 12 0 R/Subtype/Widget/Rect[0 10 9 19]/P 3 0 R>>")
                     .finish())
          .value();
  const Form form = document.form().value();
  REQUIRE(form.fields.size() == 3);
  CHECK(form.default_appearance == "/Helv 9 Tf");
  CHECK(form.calculation_order == std::vector<int>{2});
  const FormField& top = form.fields[0];
  CHECK(top.name == "inspection");
  CHECK_FALSE(top.is_terminal);
  CHECK(top.widgets.empty());
  const FormField& bridge = form.fields[1];
  CHECK(bridge.name == "inspection.bridge");
  CHECK(bridge.kind == Kind::text);
  CHECK(bridge.is_terminal);
  CHECK(bridge.parent == 0);
  CHECK(bridge.depth == 1);
  CHECK(bridge.is_required());
  CHECK(bridge.value() == "as above");
  CHECK(bridge.longest == 40);
  CHECK(bridge.alignment == FormField::Alignment::right);
  CHECK(bridge.default_appearance == "/Helv 9 Tf");
  REQUIRE(bridge.widgets.size() == 2);
  CHECK(bridge.widgets[1].page == 0);
  CHECK(bridge.widgets[1].rect == Rect{0, 10, 9, 19});
  const FormField& notes = form.fields[2];
  CHECK(notes.label == "Notes of the day");
  CHECK(notes.export_name == "n");
  CHECK((notes.is_multiline() && notes.is_read_only() && notes.is_exported()));
  CHECK_FALSE((notes.is_required() || notes.is_password() || notes.has_cells()));
  CHECK(notes.value() == "Two cracks");
  CHECK(notes.default_values == std::vector<std::string>{"none"});
  CHECK(notes.default_appearance == "/F 7 Tf");
  REQUIRE(notes.widgets.size() == 1);
  CHECK(notes.widgets[0].rect == Rect{1, 2, 5, 6});
  REQUIRE(notes.triggers.size() == 1);
  CHECK(notes.triggers[0].event == "value changed");
  CHECK(document.findings().empty());
}

TEST_CASE("every kind of field is told by its type and flags", "[document]") {
  const auto [entries, kind] = GENERATE(table<std::string, Kind>({
      {"/FT/Btn", Kind::check_box},
      {"/FT/Btn/Ff 32768", Kind::radio_buttons},
      {"/FT/Btn/Ff 65536", Kind::push_button},
      {"/FT/Tx", Kind::text},
      {"/FT/Ch", Kind::list_box},
      {"/FT/Ch/Ff 131072", Kind::combo_box},
      {"/FT/Sig", Kind::signature},
      {"", Kind::group},
      {"/FT/Zz", Kind::group},
  }));
  CAPTURE(entries);
  const Form form =
      test::open(with_form("/Fields[11 0 R]").object(11, "<</T(f)" + entries + ">>").finish())
          ->form()
          .value();
  REQUIRE(form.fields.size() == 1);
  CHECK(form.fields[0].kind == kind);
  CHECK_FALSE(form.fields[0].is_editable());
}

TEST_CASE("a combo box says whether it takes other texts", "[document]") {
  const auto [flags, is_editable] =
      GENERATE(table<std::string, bool>({{"131072", false}, {"393216", true}, {"262144", false}}));
  CAPTURE(flags);
  const Form form =
      test::open(
          with_form("/Fields[11 0 R]").object(11, "<</T(f)/FT/Ch/Ff " + flags + ">>").finish())
          ->form()
          .value();
  CHECK(form.fields[0].is_editable() == is_editable);
}

TEST_CASE("choices, boxes and signatures have their values", "[document]") {
  const Form form =
      test::open(
          with_form("/Fields[11 0 R 12 0 R 13 0 R 14 0 R]/NeedAppearances true/SigFlags 3"
                    "/XFA[(a)9 0 R]",
                    "12 0 R")
              .object(11, "<</T(state)/FT/Ch/Ff 2097152/Opt[(good)[(b)(bad)]]/V[(good)(b)]>>")
              .object(12,
                      "<</T(done)/FT/Btn/V/Yes/AS/Yes/Subtype/Widget/Rect[0 0 1 1]"
                      "/AP<</N<</Yes 9 0 R/Off 9 0 R>>>>>>")
              .object(13, "<</T(sign)/FT/Sig/V 15 0 R>>")
              .object(14, "<</T(long)/FT/Tx/V 16 0 R>>")
              .object(15, "<</Type/Sig/Name(Mira)>>")
              .stream(16, "", "a stream of text")
              .finish())
          ->form()
          .value();
  REQUIRE(form.fields.size() == 4);
  CHECK((form.needs_appearances && form.has_signatures && form.append_only && form.has_xfa));
  CHECK(form.fields[0].options == std::vector<FieldOption>{{"good", "good"}, {"b", "bad"}});
  CHECK(form.fields[0].values == std::vector<std::string>{"good", "b"});
  CHECK(form.fields[0].takes_several());
  CHECK(form.fields[1].value() == "Yes");
  REQUIRE(form.fields[1].widgets.size() == 1);
  CHECK(form.fields[1].widgets[0].on_state == "Yes");
  CHECK(form.fields[1].widgets[0].state == "Yes");
  CHECK(form.fields[2].signature.as_reference() == ObjectId{15, 0});
  CHECK(form.fields[2].values.empty());
  CHECK(form.fields[3].value() == "a stream of text");
}

TEST_CASE("a form that leads back into itself ends", "[document]") {
  const Document document = test::open(with_form("/Fields[11 0 R 11 0 R 7 null]")
                                           .object(11, "<</T(a)/Kids[12 0 R 11 0 R]>>")
                                           .object(12, "<</T(b)/Kids[11 0 R 12 0 R]>>")
                                           .finish())
                                .value();
  CHECK(document.form().value().fields.size() == 2);
  CHECK(document.findings().size() >= 1);
}

TEST_CASE("a form of many levels meets the limit", "[document]") {
  PdfBuilder pdf = with_form("/Fields[11 0 R]");
  for (int i = 11; i < 500; ++i) pdf.object(i, "<</T(f)/Kids[" + std::to_string(i + 1) + " 0 R]>>");
  const Document document = test::open(pdf.finish()).value();
  const Result<Form> form = document.form();
  REQUIRE_FALSE(form.ok());
  CHECK(form.error().code() == ErrorCode::limit);
  CHECK_THAT(form.error().message(), Catch::Contains("Limits::nesting"));
}
