// SPDX-License-Identifier: Apache-2.0
// Forms are filled in with what their fields take, and show it in every viewer.
#include "lumvet/forms/filling.h"

#include <algorithm>
#include <random>

#include "lumvet/annotate/annotations.h"
#include "lumvet/forms/fields.h"
#include "lumvet/forms/value_list.h"
#include "lumvet/render/render.h"
#include "lumvet/text/page_words.h"
#include "tests/support/catch.h"
#include "tests/support/inspection_form.h"
#include "tests/support/saved.h"

using namespace lumvet;
using Catch::Contains;
using Kind = FormField::Kind;

namespace {

const FormField* find(const Form& form, const std::string& name) {
  for (const FormField& field : form.fields)
    if (field.name == name) return &field;
  return nullptr;
}

std::vector<std::string> values(const Document& document, const std::string& name) {
  const Form form = document.form().value();
  const FormField* field = find(form, name);
  REQUIRE(field != nullptr);
  return exported_values(*field);
}

// The words that the looks of the fields show, when they are part of the page.
std::string shown_words(const Document& document) {
  auto flat = EditableDocument::of(document);
  flatten_annotations(flat, {}, {.kinds = {Annotation::Kind::widget}}).value();
  return PageWords::of(flat.now()->page(0).value())->text();
}

ErrorCode refused(EditableDocument& document, const FieldValue& value, const std::string& why) {
  const auto steps = document.steps();
  const auto filled = fill_fields(document, {value});
  CAPTURE(value.name, value.values);
  REQUIRE_FALSE(filled.ok());
  CHECK_THAT(filled.error().message(), Contains(why));
  CHECK(document.steps() == steps);
  return filled.error().code();
}

}  // namespace

// A form whose texts are written in a font that it has in it, by a name that nobody knows.
Document with_own_font(const std::string& font) {
  const std::string program =
      test::read_file("/usr/share/fonts/truetype/liberation/LiberationSerif-Regular.ttf");
  test::PdfBuilder pdf;
  pdf.object(1,
             "<</Type/Catalog/Pages 2 0 R/AcroForm<</Fields[9 0 R]/DR<</Font<</Odd 5 0 R>>>>"
             "/DA(/Odd 12 Tf 0 g)>>>>");
  pdf.object(2, "<</Type/Pages/Kids[3 0 R]/Count 1>>");
  pdf.object(3, "<</Type/Page/Parent 2 0 R/MediaBox[0 0 300 100]/Annots[9 0 R]>>");
  pdf.object(5, font);
  pdf.object(6,
             "<</Type/Font/Subtype/CIDFontType2/BaseFont/Oddity/CIDSystemInfo<</Registry(Adobe)"
             "/Ordering(Identity)/Supplement 0>>/FontDescriptor 7 0 R>>");
  pdf.object(7, "<</Type/FontDescriptor/FontName/Oddity/Flags 32/FontFile2 8 0 R>>");
  pdf.stream(8, "/Length1 " + std::to_string(program.size()), program);
  pdf.object(9, "<</Type/Annot/Subtype/Widget/FT/Tx/T(a)/Rect[10 10 290 40]/P 3 0 R/F 4>>");
  return test::open(pdf.finish()).value();
}

TEST_CASE("what is filled in is written in the field's own font", "[forms]") {
  const std::string font = GENERATE(
      "<</Type/Font/Subtype/TrueType/BaseFont/Oddity/Encoding/WinAnsiEncoding/FontDescriptor 7 0 "
      "R>>",
      "<</Type/Font/Subtype/Type0/BaseFont/Oddity/Encoding/Identity-H/DescendantFonts[6 0 R]>>");
  auto form = EditableDocument::of(with_own_font(font));
  // Letters that it lacks are another's.
  REQUIRE(fill_fields(form, {{"a", {"Alder Weir 漢"}}}).ok());
  flatten_annotations(form, {}, {.kinds = {Annotation::Kind::widget}}).value();
  const PageWords words = PageWords::of(form.now()->page(0).value()).value();
  REQUIRE(words.word_count() >= 2);
  CHECK(words.text().starts_with("Alder Weir"));
  CHECK_THAT(words.styles()[words.word(0).style].font, Contains("LiberationSerif"));
}

TEST_CASE("each kind of field takes its values and shows them", "[forms]") {
  auto form = EditableDocument::of(test::inspection_form());
  const auto report = fill_fields(form, {{"bridge", {"Merrow Ford über 3 m"}},
                                         {"day", {"2026-04-12"}},
                                         {"dry", {"on"}},
                                         {"grade", {"three"}},
                                         {"weather", {"Light rain"}},
                                         {"tools", {"rope", "lamp"}},
                                         {"notes", {"first line\nsecond line"}},
                                         {"code", {"OV17"}},
                                         {"gap.left", {"1,250.5"}},
                                         {"gap.right", {"2"}}});
  CAPTURE(report.ok() ? "" : report.error().to_string());
  REQUIRE(report.ok());
  CHECK(report->filled == 10);
  CHECK(report->reckoned == 1);
  for (const Document& document : test::saved_each_way(form)) {
    CHECK(values(document, "bridge") == std::vector<std::string>{"Merrow Ford über 3 m"});
    CHECK(values(document, "day") == std::vector<std::string>{"12.04.2026"});
    CHECK(values(document, "dry") == std::vector<std::string>{"On"});
    CHECK(values(document, "grade") == std::vector<std::string>{"three"});
    CHECK(values(document, "weather") == std::vector<std::string>{"rain"});
    CHECK(values(document, "tools") == std::vector<std::string>{"rope", "lamp"});
    CHECK(values(document, "gap.left") == std::vector<std::string>{"1250.5"});
    CHECK(values(document, "gap.sum") == std::vector<std::string>{"1252.5"});
    const std::string words = shown_words(document);
    CHECK_THAT(words, Contains("Merrow Ford über 3 m") && Contains("12.04.2026") &&
                          Contains("Light rain") && Contains("first line") &&
                          Contains("second line") && Contains("1,252.50 mm"));
    // One box for each character, and so a gap between them.
    std::string letters = words;
    letters.erase(std::remove_if(letters.begin(), letters.end(),
                                 [](char c) { return c == ' ' || c == '\t'; }),
                  letters.end());
    CHECK_THAT(letters, Contains("\nOV17\n"));
  }
}

TEST_CASE("a box is drawn on where its value says so, and radio buttons one at a time", "[forms]") {
  auto form = EditableDocument::of(test::inspection_form());
  const auto darkness = [&](const PageArea& area) {
    const Raster raster = render(form.now()->page(0).value(), {.dpi = 72}).value();
    int dark = 0;
    for (int y = static_cast<int>(area.top) + 3; y < static_cast<int>(area.top + area.height) - 3;
         ++y)
      for (int x = static_cast<int>(area.left) + 3;
           x < static_cast<int>(area.left + area.width) - 3; ++x)
        dark += raster.at(x, y).green < 100 ? 1 : 0;
    return dark;
  };
  for (const char* on : {"on", "off", "true", "no", "On"}) {
    fill_fields(form, {{"dry", {on}}}).value();
    CAPTURE(on);
    const std::string word = on;
    CHECK((darkness(test::kDryBox) > 0) == (word == "on" || word == "true" || word == "On"));
  }
  for (std::size_t chosen = 0; chosen < 3; ++chosen) {
    fill_fields(form, {{"grade", {test::kGrades[chosen]}}}).value();
    for (std::size_t i = 0; i < 3; ++i) CHECK((darkness(test::grade_box(i)) > 0) == (i == chosen));
  }
}

TEST_CASE("what a field does not take is refused with what it takes, and nothing changes",
          "[forms]") {
  auto form = EditableDocument::of(test::inspection_form());
  const auto wrong = ErrorCode::invalid_argument;
  CHECK(refused(form, {"bridg", {"a"}}, "did you mean bridge?") == wrong);
  CHECK(refused(form, {"weather", {"hail"}},
                "does not take 'hail'; there are dry, Light rain, snow") == wrong);
  CHECK(refused(form, {"tools", {"rope", "saw"}}, "does not take 'saw'") == wrong);
  CHECK(refused(form, {"weather", {"dry", "snow"}}, "takes one value, not 2") == wrong);
  CHECK(refused(form, {"dry", {"perhaps"}}, "there are On, Off") == wrong);
  CHECK(refused(form, {"grade", {"four"}}, "one, two, three, Off") == wrong);
  CHECK(refused(form, {"bridge", {"two\nlines"}}, "takes one line") == wrong);
  CHECK(refused(form, {"code", {"OV171"}}, "takes at most 4 characters; 'OV171' has 5") == wrong);
  CHECK(refused(form, {"day", {"yesterday"}}, "takes a date, such as 12.04.2026") == wrong);
  CHECK(refused(form, {"gap.left", {"wide"}}, "takes a number, such as 1,234.50 mm") == wrong);
  CHECK(refused(form, {"gap.left", {"-1"}}, "takes numbers from 0 up to 5000, not -1") == wrong);
  CHECK(refused(form, {"gap.sum", {"1"}}, "is read-only: it is reckoned from others") ==
        ErrorCode::unsupported);
  CHECK(refused(form, {"print", {"1"}}, "is a push button") == ErrorCode::unsupported);
  CHECK(refused(form, {"sign", {"1"}}, "made by signing") == ErrorCode::unsupported);
  CHECK(refused(form, {"secret", {"1"}}, "is a password") == ErrorCode::unsupported);
  CHECK(refused(form, {"gap", {"1"}}, "is a group of fields") == ErrorCode::unsupported);

  const auto report =
      fill_fields(form, {{"bridg", {"a"}}, {"bridge", {"Merrow Ford"}}, {"weather", {"hail"}}},
                  {.skips_unfit = true});
  REQUIRE(report.ok());
  CHECK(report->filled == 1);
  REQUIRE(report->findings.size() == 3);
  CHECK_THAT(report->findings[0].what, Contains("bridge?; it was left out"));
  CHECK(report->findings[2].what == "field 'day' is required, and is empty");
}

TEST_CASE("a field tells what it would keep before anything is filled in", "[forms]") {
  const Form form = test::inspection_form().form().value();
  using Kept = std::vector<std::string>;
  CHECK(checked_values(*find(form, "day"), {"2026-04-12"}).value() == Kept{"12.04.2026"});
  CHECK(checked_values(*find(form, "weather"), {"Light rain"}).value() == Kept{"rain"});
  CHECK(checked_values(*find(form, "tools"), {"rope", ""}).value() == Kept{"rope"});
  CHECK(checked_values(*find(form, "dry"), {}).value() == Kept{"Off"});
  CHECK(checked_values(*find(form, "gap.left"), {"5001"}).error().code() ==
        ErrorCode::invalid_argument);
  CHECK(checked_values(*find(form, "sign"), {"x"}).error().code() == ErrorCode::unsupported);
}

TEST_CASE("fields are reset to what they begin with, one group or all", "[forms]") {
  auto form = EditableDocument::of(test::inspection_form());
  const std::string before = values_as_json(values_of(form.now()->form().value()));
  fill_fields(form, {{"bridge", {"Merrow Ford"}},
                     {"dry", {"on"}},
                     {"grade", {"two"}},
                     {"gap.left", {"4"}},
                     {"gap.right", {"5"}}})
      .value();
  CHECK(reset_fields(form, {"gap"})->filled == 3);
  CHECK(values(form.now().value(), "gap.left").empty());
  CHECK(values(form.now().value(), "bridge").front() == "Merrow Ford");
  CHECK(reset_fields(form)->filled == 3);
  CHECK(values(form.now().value(), "bridge").front() == "Alder Weir");
  CHECK(values(form.now().value(), "grade").front() == "Off");
  CHECK(values_as_json(values_of(form.now()->form().value())) == before);
  CHECK_FALSE(reset_fields(form, {"nothing"}).ok());
}

TEST_CASE("random values are undone and done again, and files hold what was filled in", "[forms]") {
  auto form = EditableDocument::of(test::inspection_form());
  std::mt19937 random(21);
  const auto listed = [&] { return values_as_json(values_of(form.now()->form().value())); };
  std::vector<std::string> states{listed()};
  const char* const kWeather[] = {"dry", "rain", "snow"};
  for (int i = 0; i < 30; ++i) {
    const auto at = static_cast<std::size_t>(random() % 3);
    const std::vector<FieldValue> all = {{"bridge", {"no " + std::to_string(i)}},
                                         {"weather", {kWeather[at]}},
                                         {"grade", {test::kGrades[at]}},
                                         {"gap.left", {std::to_string(random() % 5000)}},
                                         {"dry", {at == 0 ? "on" : "off"}}};
    fill_fields(form, {all[random() % all.size()], all[0]}).value();
    states.push_back(listed());
  }
  const std::string last = states.back();
  for (std::size_t i = states.size(); i-- > 0;) {
    CHECK(listed() == states[i]);
    if (i > 0) form.undo();
  }
  while (form.can_redo()) form.redo();
  CHECK(listed() == last);
  for (const Document& document : test::saved_each_way(form)) {
    CHECK(values_as_json(values_of(document.form().value())) == last);
    auto again = EditableDocument::of(document);
    fill_fields(again, read_values(last).value(), {.fills_read_only = true}).value();
    CHECK(values_as_json(values_of(again.now()->form().value())) == last);
  }
}

TEST_CASE("a form that asks for new looks gets them all, and asks no more", "[forms]") {
  test::PdfBuilder pdf;
  pdf.page("", "/MediaBox[0 0 200 200]/Annots[9 0 R 10 0 R]");
  pdf.object(1,
             "<</Type/Catalog/Pages 2 0 R/AcroForm<</Fields[9 0 R 10 0 R]/NeedAppearances true"
             "/XFA(<x/>)>>>>");
  pdf.object(9, "<</Subtype/Widget/Rect[10 10 190 30]/FT/Tx/T(a)/V(first)/F 4>>");
  pdf.object(10, "<</Subtype/Widget/Rect[10 40 190 60]/FT/Tx/T(b)/V(second)/F 4/AP<</N 11 0 R>>>>");
  pdf.stream(11, "/Subtype/Form/BBox[0 0 180 20]", "");
  auto form = EditableDocument::of(test::open(pdf.finish()).value());
  const auto report = fill_fields(form, {{"a", {"third"}}});
  REQUIRE(report.ok());
  REQUIRE(report->findings.size() == 1);
  CHECK_THAT(report->findings[0].what, Contains("XFA"));
  const Document now = form.now().value();
  CHECK_FALSE(now.form()->needs_appearances);
  CHECK_FALSE(now.form()->has_xfa);
  CHECK_THAT(shown_words(now), Contains("third") && Contains("second"));
}

TEST_CASE("what a look shows around its text stays when the field is filled in", "[forms]") {
  const auto [before, behind] =
      GENERATE(table<std::string, std::string>({{"q 1 0 0 RG 3 w 0 0 180 20 re S Q", ""},
                                                {"1 0 0 RG 3 w 0 0 180 20 re S", ""},
                                                {"", "q 1 0 0 RG 3 w 0 0 180 20 re S Q"}}));
  test::PdfBuilder pdf;
  pdf.page("", "/MediaBox[0 0 200 100]/Annots[9 0 R]");
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R/AcroForm<</Fields[9 0 R]>>>>");
  pdf.object(9, "<</Subtype/Widget/Rect[10 40 190 60]/FT/Tx/T(a)/V(old)/F 4/AP<</N 11 0 R>>>>");
  pdf.stream(11,
             "/Subtype/Form/BBox[0 0 180 20]/Resources<</Font<</F<</Type/Font/Subtype/Type1"
             "/BaseFont/Courier>>>>>>",
             before + " /Tx BMC q BT /F 9 Tf 5 5 Td (old) Tj ET Q EMC " + behind);
  auto form = EditableDocument::of(test::open(pdf.finish()).value());
  for (const char* value : {"first", "second"}) {
    REQUIRE(fill_fields(form, {{"a", {value}}}).ok());
    const Document now = form.now().value();
    CHECK(shown_words(now) == value);
    const Raster raster = render(now.page(0).value(), {.dpi = 72}).value();
    CHECK(raster.at(100, 40) == PixelColor{255, 0, 0, 255});
    CHECK(raster.at(10, 50) == PixelColor{255, 0, 0, 255});
  }
  // Of what was filled in before nothing is left, and the frame does not grow.
  const auto look = [&] {
    const Document now = form.now().value();
    const auto at = [&](const Object& from, const char* key) {
      return now.resolve(now.resolve(from)->as_dict()[key]).value();
    };
    const Object stream = at(at(Object(ObjectId{9, 0}), "AP"), "N");
    CHECK(at(at(stream, "Resources"), "XObject").as_dict().size() == 1);
    return stream.as_stream()->length;
  };
  const std::uint64_t before_again = look();
  REQUIRE(fill_fields(form, {{"a", {"third"}}}).ok());
  CHECK(look() == before_again);
}

TEST_CASE("two fields of one name are filled in together", "[forms]") {
  test::PdfBuilder pdf;
  pdf.page("", "/MediaBox[0 0 200 200]/Annots[9 0 R 10 0 R]");
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R/AcroForm<</Fields[9 0 R 10 0 R 9 0 R]>>>>");
  pdf.object(9, "<</Subtype/Widget/Rect[10 10 190 30]/FT/Tx/T(a)/F 4>>");
  pdf.object(10, "<</Subtype/Widget/Rect[10 40 190 60]/FT/Tx/T(a)/F 4>>");
  auto form = EditableDocument::of(test::open(pdf.finish()).value());
  CHECK(fill_fields(form, {{"a", {"both"}}})->filled == 1);
  const Form now = form.now()->form().value();
  for (const FormField& field : now.fields) CHECK(field.value() == "both");
  CHECK(now.fields.size() == 2);
}

TEST_CASE("who may not fill in is told so, and a script is never run but told", "[forms]") {
  test::PdfBuilder pdf;
  pdf.page("", "/MediaBox[0 0 200 200]/Annots[9 0 R]");
  pdf.object(1, "<</Type/Catalog/Pages 2 0 R/AcroForm<</Fields[9 0 R 10 0 R]/CO[10 0 R]>>>>");
  pdf.object(9, "<</Subtype/Widget/Rect[10 10 190 30]/FT/Tx/T(a)/F 4>>");
  pdf.object(10, "<</FT/Tx/T(b)/V(as it was)/AA<</C<</S/JavaScript/JS(event.value = 1)>>>>>>");
  auto form = EditableDocument::of(test::open(pdf.finish()).value());
  const auto report = fill_fields(form, {{"a", {"x"}}});
  REQUIRE(report.ok());
  REQUIRE(report->findings.size() == 1);
  CHECK_THAT(report->findings[0].what, Contains("calculated by a script, which is not run"));
  CHECK(values(form.now().value(), "b").front() == "as it was");

  CHECK(fill_fields(form, {}).error().code() == ErrorCode::invalid_argument);
  test::PdfBuilder empty;
  empty.page("");
  auto none = EditableDocument::of(test::open(empty.finish()).value());
  CHECK_THAT(fill_fields(none, {{"a", {"x"}}}).error().message(), Contains("has no fields"));
}

TEST_CASE("values go out and come in, as an object or as a table", "[forms]") {
  const std::vector<FieldValue> given = {
      {"a", {"x, \"y\"\nz"}}, {"b.c", {"1"}}, {"d", {"p", "q"}}, {"e", {}}};
  CHECK(read_values(values_as_json(given)).value() ==
        std::vector<FieldValue>{given[0], given[1], given[2], {"e", {""}}});
  const auto rows = read_value_table(values_as_table(given)).value();
  REQUIRE(rows.size() == 1);
  CHECK(rows[0] == std::vector<FieldValue>{given[0], given[1], {"d", {"p\nq"}}, {"e", {""}}});
  const std::vector<FieldValue> nested = {
      {"gap.width", {"4.5"}}, {"dry", {"on"}}, {"tools", {"rope"}}, {"day", {}}};
  CHECK(read_values(R"({"gap":{"width":4.50},"dry":true,"tools":["rope"],"day":null})").value() ==
        nested);
  CHECK(read_value_rows(R"([{"a":1},{"a":2}])")->size() == 2);
  CHECK(read_value_table("a;b\n1;\"2;3\"\n\n4;5\n").value()[0][1].values.front() == "2;3");

  CHECK_THAT(read_values("{\n\"a\": }").error().message(), Contains("line 2"));
  CHECK_THAT(read_values(R"({"a":[{}]})").error().message(), Contains("the value of 'a'"));
  CHECK_THAT(read_value_table("a,b\n1\n").error().message(), Contains("line 2"));
  CHECK_THAT(read_value_table("a,b\n\"1,2\n").error().message(), Contains("line 2, column 1"));
  CHECK_FALSE(read_value_table("a,b\n").ok());
}
