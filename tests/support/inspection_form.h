// SPDX-License-Identifier: Apache-2.0
// A form with fields of every kind, made by the library itself.
#pragma once

#include "lumvet/forms/fields.h"
#include "tests/support/pdf_builder.h"
#include "tests/support/saved.h"

namespace test {

using namespace lumvet;

inline constexpr PageArea kDryBox{120, 60, 18, 18};
inline constexpr const char* kGrades[] = {"one", "two", "three"};
inline PageArea grade_box(std::size_t which) {
  return {120 + 40 * static_cast<double>(which), 90, 18, 18};
}

inline std::vector<NewField> inspection_fields() {
  using Kind = FormField::Kind;
  const auto at = [](double top, double height = 20) {
    return std::vector<WidgetPlace>{{.page = 0, .area = {120, top, 150, height}}};
  };
  const FieldFormat millimetres{.decimals = 2, .currency = " mm"};
  std::vector<NewField> fields;
  fields.push_back({.name = "bridge",
                    .places = at(10),
                    .values = {"Alder Weir"},
                    .default_values = {"Alder Weir"}});
  fields.push_back(
      {.name = "day",
       .places = at(35),
       .is_required = true,
       .format = FieldFormat{.kind = FieldFormat::Kind::date, .pattern = "dd.mm.yyyy"}});
  fields.push_back(
      {.name = "dry", .kind = Kind::check_box, .places = {{.page = 0, .area = kDryBox}}});
  NewField grade{.name = "grade", .kind = Kind::radio_buttons};
  for (std::size_t i = 0; i < 3; ++i)
    grade.places.push_back({.page = 0, .area = grade_box(i), .state = kGrades[i]});
  fields.push_back(grade);
  fields.push_back({.name = "weather",
                    .kind = Kind::combo_box,
                    .places = at(115),
                    .options = {{"dry", "dry"}, {"rain", "Light rain"}, {"snow", "snow"}}});
  fields.push_back({.name = "tools",
                    .kind = Kind::list_box,
                    .places = at(140, 45),
                    .options = {{"rope", "rope"}, {"lamp", "lamp"}, {"boat", "boat"}},
                    .takes_several = true});
  fields.push_back({.name = "notes", .places = at(190, 40), .is_multiline = true, .size = 9});
  fields.push_back({.name = "code", .places = at(235), .longest = 4, .has_cells = true});
  fields.push_back({.name = "gap.left",
                    .places = at(260),
                    .format = millimetres,
                    .range = FieldRange{.least = 0, .most = 5000}});
  fields.push_back({.name = "gap.right", .places = at(285), .format = millimetres});
  fields.push_back({.name = "gap.sum",
                    .places = at(310),
                    .is_read_only = true,
                    .format = millimetres,
                    .reckoning = FieldReckoning{.fields = {"gap.left", "gap.right"}}});
  fields.push_back(
      {.name = "print", .kind = Kind::push_button, .places = at(335), .caption = "Print"});
  fields.push_back({.name = "sign", .kind = Kind::signature, .places = at(360)});
  fields.push_back({.name = "secret", .places = at(385), .is_password = true});
  return fields;
}

// Opened from the bytes that were saved.
inline Document inspection_form(const std::string& more = "") {
  PdfBuilder pdf;
  pdf.page("", "/MediaBox[0 0 300 420]" + more);
  auto form = EditableDocument::of(open(pdf.finish()).value());
  add_fields(form, inspection_fields()).value();
  return saved(form);
}

}  // namespace test
