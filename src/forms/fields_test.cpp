// SPDX-License-Identifier: Apache-2.0
// Fields are made, moved, renamed, ordered and taken away, and the form stays whole.
#include "lumvet/forms/fields.h"

#include <map>
#include <set>

#include "lumvet/forms/filling.h"
#include "lumvet/forms/value_list.h"
#include "lumvet/render/render.h"
#include "tests/support/catch.h"
#include "tests/support/inspection_form.h"

using namespace lumvet;
using Catch::Contains;
using Kind = FormField::Kind;

namespace {

std::vector<std::string> names_of(const Document& document) {
  std::vector<std::string> names;
  const Form form = document.form().value();
  for (const FormField& field : form.fields)
    if (field.is_terminal) names.push_back(field.name);
  return names;
}

FormField field_of(const Document& document, const std::string& name) {
  const Form form = document.form().value();
  for (const FormField& field : form.fields)
    if (field.name == name) return field;
  FAIL("no field " << name);
  return {};
}

// Every widget of a form stands on one page's list, and every one of a page's list in the form.
void check_whole(const Document& document) {
  std::multiset<ObjectId> in_form;
  const Form form = document.form().value();
  for (const FormField& field : form.fields)
    for (const FieldWidget& widget : field.widgets) {
      CHECK(widget.page);
      in_form.insert(widget.id);
    }
  std::multiset<ObjectId> on_pages;
  for (int i = 0; i < document.page_count(); ++i) {
    const std::vector<Annotation> marks = document.page(i)->annotations().value();
    for (const Annotation& mark : marks)
      if (mark.kind == Annotation::Kind::widget) on_pages.insert(mark.id);
  }
  CHECK(in_form == on_pages);
}

}  // namespace

TEST_CASE("a form is made of nothing but new fields, and says what was asked", "[forms]") {
  const Document made = test::inspection_form();
  check_whole(made);
  std::vector<std::string> names;
  for (const NewField& field : test::inspection_fields()) names.push_back(field.name);
  CHECK(names_of(made) == names);
  for (const NewField& field : test::inspection_fields()) {
    CAPTURE(field.name);
    const FormField read = field_of(made, field.name);
    CHECK(read.kind == field.kind);
    CHECK(read.options.size() == field.options.size());
    CHECK(read.longest.value_or(0) == field.longest.value_or(0));
    CHECK(read.is_required() == field.is_required);
    CHECK(read.is_read_only() == field.is_read_only);
    CHECK(read.is_multiline() == field.is_multiline);
    CHECK(read.is_password() == field.is_password);
    CHECK(read.has_cells() == field.has_cells);
    CHECK(read.takes_several() == field.takes_several);
    CHECK(format_of(read) == field.format);
    CHECK(range_of(read) == field.range);
    CHECK(reckoning_of(read) == field.reckoning);
    CHECK_FALSE(has_other_scripts(read));
    CHECK(read.widgets.size() == field.places.size());
  }
  CHECK(made.form()->calculation_order.size() == 1);
  CHECK_FALSE(made.form()->needs_appearances);
}

TEST_CASE("fields stand upright where they are put, however the page is turned", "[forms]") {
  const int rotation = GENERATE(0, 90, 180, 270);
  const Document made =
      test::inspection_form("/CropBox[10 20 290 410]/Rotate " + std::to_string(rotation));
  auto form = EditableDocument::of(made);
  fill_fields(form, {{"dry", {"on"}}, {"bridge", {"||||||"}}}).value();
  const Raster raster = render(form.now()->page(0).value(), {.dpi = 72}).value();
  CAPTURE(rotation);
  // The letters are higher than they are wide, at the left end of the field.
  const PageArea bridge = test::inspection_fields()[0].places[0].area;
  int left = 0;
  int right = 0;
  for (int y = static_cast<int>(bridge.top) + 3; y < static_cast<int>(bridge.top) + 17; ++y)
    for (int x = static_cast<int>(bridge.left) + 2; x < static_cast<int>(bridge.left) + 148; ++x) {
      const bool is_dark = raster.at(x, y).green < 120;
      (x < static_cast<int>(bridge.left) + 75 ? left : right) += is_dark ? 1 : 0;
    }
  CHECK(left > 10);
  CHECK(right == 0);
  int dark = 0;
  for (int y = 63; y < 75; ++y)
    for (int x = 123; x < 135; ++x) dark += raster.at(x, y).green < 100 ? 1 : 0;
  CHECK(dark > 10);
}

TEST_CASE("a field is moved with what it shows, to another page too", "[forms]") {
  auto form = EditableDocument::of(test::inspection_form());
  form.insert_blank(1, 1, PaperSize{300, 420}).value();
  REQUIRE(move_field(form, "bridge", 0, 1, {20, 30, 100, 24}).ok());
  REQUIRE(move_field(form, "grade", 1, 0, {200, 20, 24, 24}).ok());
  for (const Document& document : test::saved_each_way(form)) {
    check_whole(document);
    CHECK(field_of(document, "bridge").widgets[0].page == 1);
    CHECK(field_of(document, "grade").widgets[1].rect.width() == Approx(24));
    const Raster raster = render(document.page(1).value(), {.dpi = 72}).value();
    int dark = 0;
    for (int y = 33; y < 51; ++y)
      for (int x = 23; x < 117; ++x) dark += raster.at(x, y).green < 120 ? 1 : 0;
    CHECK(dark > 40);
  }
  fill_fields(form, {{"grade", {"two"}}}).value();
  CHECK(field_of(form.now().value(), "grade").value() == "two");
  CHECK(move_field(form, "grade", 3, 0, {0, 0, 9, 9}).error().code() ==
        ErrorCode::invalid_argument);
  CHECK(move_field(form, "bridge", 0, 2, {0, 0, 9, 9}).error().code() ==
        ErrorCode::invalid_argument);
  CHECK(move_field(form, "bridge", 0, 0, {0, 0, 0, 9}).error().code() ==
        ErrorCode::invalid_argument);
}

TEST_CASE("a renamed field keeps its values, and sums follow it", "[forms]") {
  auto form = EditableDocument::of(test::inspection_form());
  fill_fields(form, {{"gap.left", {"3"}}, {"gap.right", {"4"}}}).value();
  REQUIRE(rename_field(form, "gap.left", "gap.upstream").ok());
  REQUIRE(rename_field(form, "gap", "crack").ok());
  REQUIRE(rename_field(form, "crack.right", "piers.one.right").ok());
  CHECK(fill_fields(form, {{"crack.upstream", {"30"}}})->reckoned == 1);
  for (const Document& document : test::saved_each_way(form)) {
    check_whole(document);
    CHECK(field_of(document, "crack.sum").value() == "34");
    CHECK(field_of(document, "piers.one.right").value() == "4");
    CHECK(format_of(field_of(document, "piers.one.right")));
  }
  CHECK_THAT(rename_field(form, "bridge", "day").error().message(), Contains("is a field already"));
  CHECK_THAT(rename_field(form, "bridge", "day.a").error().message(),
             Contains("no group of fields"));
  CHECK_FALSE(rename_field(form, "bridge", "").ok());
  CHECK_FALSE(rename_field(form, "bridge", "a..b").ok());
  CHECK_FALSE(rename_field(form, "crack", "crack.inner").ok());
}

TEST_CASE("removed fields are gone from pages and form, groups with all in them", "[forms]") {
  auto form = EditableDocument::of(test::inspection_form());
  const std::vector<std::string> before = names_of(form.now().value());
  REQUIRE(remove_fields(form, {"gap", "grade", "sign"}).ok());
  for (const Document& document : test::saved_each_way(form)) {
    check_whole(document);
    const auto names = names_of(document);
    CHECK(names.size() == before.size() - 5);
    CHECK(std::find(names.begin(), names.end(), "gap.sum") == names.end());
    CHECK(document.form()->calculation_order.empty());
  }
  form.undo();
  CHECK(names_of(form.now().value()) == before);
  CHECK_THAT(remove_fields(form, {"grad"}).error().message(), Contains("did you mean grade?"));
}

TEST_CASE("a key leads through the fields in the order that was set", "[forms]") {
  auto form = EditableDocument::of(test::inspection_form());
  REQUIRE(set_tab_order(form, 0, {"notes", "grade", "bridge"}).ok());
  for (const Document& document : test::saved_each_way(form)) {
    const Form read = document.form().value();
    std::map<ObjectId, std::string> of;
    for (const FormField& field : read.fields)
      for (const FieldWidget& widget : field.widgets) of[widget.id] = field.name;
    std::vector<std::string> order;
    const std::vector<Annotation> marks = document.page(0)->annotations().value();
    for (const Annotation& mark : marks) order.push_back(of[mark.id]);
    REQUIRE(order.size() == 16);
    CHECK(std::vector<std::string>(order.begin(), order.begin() + 7) ==
          std::vector<std::string>{"notes", "grade", "grade", "grade", "bridge", "day", "dry"});
    CHECK(document.page(0)->dict()["Tabs"].as_name() == "W");
  }
  CHECK_FALSE(set_tab_order(form, 0, {"nothing"}).ok());
  CHECK_FALSE(set_tab_order(form, 4, {"notes"}).ok());
}

TEST_CASE("what cannot be a field is refused, and nothing is added", "[forms]") {
  auto form = EditableDocument::of(test::inspection_form());
  const std::vector<WidgetPlace> place = {{.page = 0, .area = {1, 1, 9, 9}}};
  const std::vector<NewField> wrong = {
      {.name = "bridge", .places = place},
      {.name = "", .places = place},
      {.name = "new"},
      {.name = "new", .kind = Kind::group, .places = place},
      {.name = "new", .kind = Kind::list_box, .places = place},
      {.name = "new", .kind = Kind::radio_buttons, .places = place},
      {.name = "new", .places = place, .options = {{"a", "a"}}},
      {.name = "new", .places = place, .has_cells = true},
      {.name = "new", .places = {{.page = 7, .area = {1, 1, 9, 9}}}},
      {.name = "new", .places = {{.page = 0, .area = {1, 1, -9, 9}}}},
      {.name = "new", .places = place, .values = {"abc"}, .longest = 2},
      {.name = "bridge.new", .places = place},
      {.name = "new", .kind = Kind::check_box, .places = place, .format = FieldFormat()},
  };
  for (const NewField& field : wrong) {
    const auto added = add_field(form, field);
    CAPTURE(field.name);
    REQUIRE_FALSE(added.ok());
    CHECK(added.error().code() == ErrorCode::invalid_argument);
  }
  CHECK(form.steps().empty());
}
