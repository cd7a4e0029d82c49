// SPDX-License-Identifier: Apache-2.0
// Makes an inspection sheet with fields, and fills it in: a sum follows from what it is made of.
#include <iostream>

#include <lumvet/draw/new_document.h>
#include <lumvet/forms/fields.h>
#include <lumvet/forms/filling.h>
#include <lumvet/forms/value_list.h>

using Kind = lumvet::FormField::Kind;

int main(int argc, char** argv) {
  if (argc != 3) {
    std::cerr << "20_form FORM.pdf FILLED.pdf\n";
    return 2;
  }
  try {
    lumvet::NewDocument sheet({.title = "Gaps of a bearing", .language = "en"});
    lumvet::Drawing& page = sheet.add_page(lumvet::PaperSize::parse("A5").value());
    const char* const labels[] = {"Bridge", "Day", "Bearing dry", "Left gap", "Right gap", "Both"};
    for (int i = 0; i < 6; ++i) page.write(labels[i], {40, 80 + 36.0 * i}, {.size = 11});

    auto form = lumvet::EditableDocument::of(sheet.as_document().value());
    const auto at = [](double top, double width) {
      return std::vector<lumvet::WidgetPlace>{{.page = 0, .area = {140, top, width, 20}}};
    };
    const lumvet::FieldFormat millimetres{.decimals = 1, .currency = " mm"};
    const lumvet::FieldFormat day{.kind = lumvet::FieldFormat::Kind::date, .pattern = "dd.mm.yyyy"};
    lumvet::add_fields(form,
                       {{.name = "bridge", .places = at(66, 220), .is_required = true},
                        {.name = "day", .places = at(102, 90), .format = day},
                        {.name = "dry", .kind = Kind::check_box, .places = at(138, 20)},
                        {.name = "gap.left", .places = at(174, 90), .format = millimetres},
                        {.name = "gap.right", .places = at(210, 90), .format = millimetres},
                        {.name = "gap.sum",
                         .places = at(246, 90),
                         .is_read_only = true,
                         .format = millimetres,
                         .reckoning = lumvet::FieldReckoning{.fields = {"gap.left", "gap.right"}}}})
        .value();
    form.save(argv[1]).value();

    const auto opened = lumvet::Document::open(argv[1]).value();
    auto filled = lumvet::EditableDocument::of(opened);
    const auto report = lumvet::fill_fields(filled, {{"bridge", {"Merrow Ford"}},
                                                     {"day", {"2026-10-14"}},
                                                     {"dry", {"on"}},
                                                     {"gap.left", {"12.4"}},
                                                     {"gap.right", {"11.9"}}})
                            .value();
    for (const lumvet::Finding& finding : report.findings) std::cout << finding.what << '\n';
    filled.save(argv[2]).value();
    std::cout << lumvet::values_as_json(
        lumvet::values_of(lumvet::Document::open(argv[2])->form().value()));
  } catch (const std::exception& error) {
    std::cerr << error.what() << '\n';
    return 1;
  }
}
