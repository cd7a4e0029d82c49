// SPDX-License-Identifier: Apache-2.0
// A report with a chart, a table over several pages and a page for its contents.
#include <lumvet/compose/flow.h>

#include <iostream>
#include <string>

int main(int argc, char** argv) {
  if (argc != 2) {
    std::cerr << "usage: 16_report_pages OUTPUT\n";
    return 2;
  }
  try {  // value() throws what went wrong
    lumvet::Flow report({.title = "Measures and costs",
                         .language = "en",
                         .header = {.right = "{chapter}"},
                         .footer = {.left = "{title}", .right = "{page} of {pages}"}});
    const lumvet::TextStyle body{.size = 11};
    report.add_heading("Measures and costs");
    report.add(lumvet::Paragraph("Two thirds of it are for the Quarry bridge.", body));
    report.add_contents();
    report.add_heading("By year");
    lumvet::Chart chart{.value_title = "crowns", .labels = {"2024", "2025", "2026"}};
    chart.series = {{"hangers", {12000, 9500, 27500}}, {"painting", {8000, 9000, 9700}}};
    report.add(chart);
    report.add_heading("All measures");
    lumvet::Table table{.columns = {{.share = 1}, {}}, .head_rows = 1};
    table.rows.push_back({.cells = {{"Measure", body}, {"Crowns", body}}});
    for (int i = 1; i <= 100; ++i)
      table.rows.push_back({.cells = {{"Replace hanger " + std::to_string(i), body},
                                      {std::to_string(270 + i % 7), body}}});
    report.add(table);
    std::cout << report.save(argv[1]).value().pages << " pages\n";
  } catch (const std::exception& error) {
    std::cerr << error.what() << '\n';
    return 1;
  }
}
