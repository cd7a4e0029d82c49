// SPDX-License-Identifier: Apache-2.0
// Tables: rows of cells, set to a width, broken between rows where they go over pages.
//
//   lumvet::Table costs;
//   costs.rows = {{{{"Measure", strong}, {"Crowns", strong}}}, {{{"Lamps", body}, {"900", body}}}};
//   costs.head_rows = 1;  // again at the head of each page
//   flow.add(costs);
//
//   lumvet::Table log{.columns = {{.width = 60}, {.width = 200}}};
//   log.more_rows = [&](std::size_t i) -> lumvet::Result<std::optional<lumvet::TableRow>> {
//     if (i == 100'000) return std::optional<lumvet::TableRow>();
//     return std::optional(lumvet::TableRow{{{std::to_string(i), body}, {"900", body}}});
//   };
//   flow.add(log);   // and its pages are written while it is asked for rows
//
// Threads: values. Since: 0.2
#pragma once

#include <functional>
#include <optional>
#include <vector>

#include "lumvet/draw/paragraph.h"

namespace lumvet {

struct TableCell {
  Paragraph content = Paragraph();
  int columns = 1;  // that it takes; a table has 1,000 at most
  int rows = 1;
  std::optional<Color> fill = {};
  enum class Stand { top, middle, bottom };
  Stand stand = Stand::top;

  TableCell() = default;
  TableCell(Paragraph text) : content(std::move(text)) {}
  TableCell(std::string text, const TextStyle& look, ParagraphStyle style = {})
      : content(std::move(text), look, std::move(style)) {}
};

struct TableRow {
  std::vector<TableCell> cells = {};  // places that cells of rows above take are left out
  std::optional<Color> fill = {};
};

// One row after the other, nothing behind the last: of tables that are longer than what memory
// should hold. Asked in order from 0 on; several times, unless all columns have a width in points
// and nothing in the document tells the pages of headings.
using RowSource = std::function<Result<std::optional<TableRow>>(std::size_t row)>;

// How wide a column is: so many points, or a share of what the others leave, or as its content
// needs.
struct TableColumn {
  std::optional<double> width = {};
  std::optional<double> share = {};
};

struct Table {
  std::vector<TableColumn> columns = {};  // as many as the rows have, for none by their content
  std::vector<TableRow> rows = {};
  RowSource more_rows = {};   // behind those; counted from 0 again
  int head_rows = 0;          // which come again where the table goes on
  double padding_across = 5;  // points, within cells
  double padding_along = 3;
  // Lines, in points wide; 0 for none.
  double rule_around = 0;
  double rule_between_rows = 0.5;
  double rule_between_columns = 0;
  double rule_below_head = 1;
  Color rule_color = Color::gray(0.6);
  // Whether rows may be parted by the end of a page. One that is higher than a page is anyway.
  bool parts_rows = false;
};

}  // namespace lumvet
