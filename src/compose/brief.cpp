// SPDX-License-Identifier: Apache-2.0
#include "lumvet/compose/brief.h"

#include <cmath>
#include <cstdlib>
#include <limits>
#include <memory>

#include "compose/brief_data.h"
#include "compose/brief_styles.h"

namespace lumvet {
namespace compose {
namespace {

constexpr std::size_t kMostBlocks = 1'000'000;
constexpr int kDeepest = 16;
constexpr double kMostPoints = 14'400;
constexpr int kMostCells = 1000;  // that one takes the room of, along a row or down a column

BriefOptions without_data(BriefOptions options) {
  options.data.clear();
  return options;
}

// Stays as long as tables of its flow have rows to come.
class BriefReader : public std::enable_shared_from_this<BriefReader> {
 public:
  BriefReader(std::string text, const BriefOptions& options)
      : text_(std::move(text)),
        json_(json_of(text_, "the brief")),
        brief_(text_, json_),
        options_(without_data(options)),
        styles_(brief_, options_),
        data_(options.data),
        flow_(styles_.document()) {}

  Flow read() {
    try {
      if (const auto blocks = brief_.find("blocks")) add_all(*blocks, data_.values(), 0);
    } catch (...) {
      flow_ = Flow();  // whose tables would hold on to this
      throw;
    }
    return std::move(flow_);
  }

 private:
  void add_all(const BriefNode& blocks, const Fields& fields, int depth) {
    if (depth > kDeepest) blocks.fail("blocks lie too deep within each other", ErrorCode::limit);
    for (const BriefNode& block : blocks.items()) add(block, fields, depth);
  }

  void add(const BriefNode& block, const Fields& fields, int depth) {
    if (++count_ > kMostBlocks)
      block.fail("the brief says more than 1000000 blocks", ErrorCode::limit);
    if (block.has("heading")) return add_heading(block, fields);
    if (block.has("paragraph")) return add_paragraph(block, fields);
    if (block.has("list")) return add_list(block, fields);
    if (block.has("table")) return add_table(block, fields);
    if (block.has("picture")) return add_picture(block, fields);
    if (block.has("chart")) return add_chart(block, fields);
    if (block.has("each")) {
      block.allow({"each", "blocks"});
      return each_row(block, fields,
                      [&](const Fields& row) { add_all(member(block, "blocks"), row, depth + 1); });
    }
    if (block.has("space")) {
      block.allow({"space"});
      return flow_.add_space(block.at("space").number(0, kMostPoints));
    }
    if (block.has("page_break")) {
      block.allow({"page_break"});
      if (block.at("page_break").truth()) flow_.add_page_break();
      return;
    }
    if (block.has("contents")) {
      block.allow({"contents"});
      return flow_.add_contents(block.at("contents").integer(1, 6));
    }
    block.allow({"heading", "paragraph", "list", "table", "picture", "chart", "each", "space",
                 "page_break", "contents"});
    block.fail(
        "a block is one of heading, paragraph, list, table, picture, chart, each, space, "
        "page_break and contents");
  }

  static BriefNode member(const BriefNode& node, const char* key) {
    if (!node.has(key)) node.fail(std::string("'") + key + "' is missing here");
    return node.at(key);
  }

  std::string filled_text(const BriefNode& node, const Fields& fields) const {
    std::string text = node.text();
    if (data_.is_empty()) return text;
    const Result<std::string> out = filled(text, fields);
    if (!out.ok()) node.fail(out.error().message());
    return *out;
  }

  // Of "each": the rows of that name.
  const DataRows& rows(const BriefNode& node) const {
    const BriefNode each = node.at("each");
    const std::string name = each.text();
    const DataRows* own = data_.rows(name);
    if (own == nullptr)
      each.fail("the data has no list '" + name + "'" +
                (data_.names().empty() ? "" : "; it has " + data_.names()));
    return *own;
  }

  // With what is known outside of it.
  static Fields row(const DataRows& rows, std::size_t number, const Fields& outer) {
    Fields both = rows.row(number);
    both.insert(outer.begin(), outer.end());
    return both;
  }

  template <typename Take>
  void each_row(const BriefNode& node, const Fields& outer, const Take& take) const {
    const DataRows& all = rows(node);
    for (std::size_t i = 0; i < all.size(); ++i) take(row(all, i, outer));
  }

  const Look& look_of(const BriefNode& block, const char* otherwise = "body") const {
    if (const auto style = block.find("style")) return styles_.look(*style);
    return styles_.look(std::string(otherwise));
  }

  // A text, or a list of texts and of parts with a style or a link of their own.
  Paragraph paragraph_of(const BriefNode& node, const Look& look, const Fields& fields,
                         bool is_heading = false) const {
    const auto with = [&](const BriefNode& style) {
      if (!is_heading) return styles_.look(style).letters;
      TextStyle letters = look.letters;
      styles_.look(style);
      styles_.add(style.text(), true, letters);
      return letters;
    };
    Paragraph paragraph(look.paragraph);
    if (!node.json().is_array()) {
      paragraph.add(filled_text(node, fields), look.letters);
      return paragraph;
    }
    for (const BriefNode& part : node.items()) {
      if (!part.json().is_object()) {
        paragraph.add(filled_text(part, fields), look.letters);
        continue;
      }
      if (part.has("page_of")) {
        part.allow({"page_of", "style"});
        const auto style = part.find("style");
        paragraph.add_page_of(filled_text(part.at("page_of"), fields),
                              style ? with(*style) : look.letters);
        continue;
      }
      if (part.has("note")) {
        part.allow({"note"});
        paragraph.add_note(filled_text(part.at("note"), fields), look.letters);
        continue;
      }
      part.allow({"text", "style", "link"});
      TextStyle letters = look.letters;
      const auto link = part.find("link");
      if (const auto style = part.find("style"))
        letters = with(*style);
      else if (link && is_heading)
        styles_.add("link", true, letters);
      else if (link)
        letters = styles_.look(std::string("link")).letters;
      if (link) letters.link = filled_text(*link, fields);
      paragraph.add(filled_text(member(part, "text"), fields), letters);
    }
    return paragraph;
  }

  void add_heading(const BriefNode& block, const Fields& fields) {
    block.allow({"heading", "level", "name"});
    const auto stated = block.find("level");
    const int level = stated ? stated->integer(1, 6) : 1;
    const auto name = block.find("name");
    const FlowOptions& document = styles_.document();
    const Look look{document.heading_look(level), document.heading_style(level)};
    flow_.add_heading(paragraph_of(block.at("heading"), look, fields, true), level,
                      name ? filled_text(*name, fields) : std::string());
  }

  void add_paragraph(const BriefNode& block, const Fields& fields) {
    block.allow({"paragraph", "style"});
    flow_.add(paragraph_of(block.at("paragraph"), look_of(block), fields));
  }

  void add_list(const BriefNode& block, const Fields& fields) {
    block.allow({"list", "style", "numbered", "first", "depth", "each"});
    const Look& look = look_of(block);
    std::vector<Paragraph> items;
    if (block.has("each")) {
      // One item, for each row.
      each_row(block, fields, [&](const Fields& row) {
        items.push_back(paragraph_of(block.at("list"), look, row));
      });
    } else {
      for (const BriefNode& item : block.at("list").items())
        items.push_back(paragraph_of(item, look, fields));
    }
    const auto numbered = block.find("numbered");
    const auto first = block.find("first");
    const auto depth = block.find("depth");
    flow_.add_list(items, numbered && numbered->truth(), first ? first->integer(0, 1'000'000) : 1,
                   depth ? depth->integer(0, 20) : 0);
  }

  TableColumn column_of(const BriefNode& node) const {
    if (node.json().is_number()) return {.width = node.number(1, kMostPoints), .share = {}};
    const std::string text = node.text();
    if (text == "content") return {};
    constexpr std::string_view kShare = "share";
    if (text.starts_with(kShare)) {
      const double share =
          text.size() > kShare.size() ? std::strtod(text.c_str() + kShare.size(), nullptr) : 1;
      if (share > 0) return {.width = {}, .share = share};
    }
    node.fail("a column is so many points, \"content\", or \"share 2\"");
  }

  TableCell cell_of(const BriefNode& node, const Look& look, const Fields& fields) const {
    if (!node.json().is_object()) return TableCell(paragraph_of(node, look, fields));
    node.allow({"content", "style", "columns", "rows", "fill"});
    Look own = look;
    if (const auto style = node.find("style")) own = styles_.look(*style);
    TableCell cell(paragraph_of(member(node, "content"), own, fields));
    if (const auto columns = node.find("columns")) cell.columns = columns->integer(1, kMostCells);
    if (const auto count = node.find("rows")) cell.rows = count->integer(1, kMostCells);
    if (const auto fill = node.find("fill")) cell.fill = BriefStyles::color(*fill);
    return cell;
  }

  TableRow row_of(const BriefNode& node, const std::vector<std::string>& styles, const Look& look,
                  const Fields& fields) const {
    TableRow row;
    const auto cells = node.items();
    for (std::size_t i = 0; i < cells.size(); ++i) {
      const Look& own = i < styles.size() && !styles[i].empty() ? styles_.look(styles[i]) : look;
      row.cells.push_back(cell_of(cells[i], own, fields));
    }
    return row;
  }

  void add_table(const BriefNode& block, const Fields& fields) {
    block.allow({"table"});
    const BriefNode node = block.at("table");
    node.allow({"columns", "head", "rows", "each", "row", "style", "column_styles", "head_fill",
                "row_fill", "rules", "parts_rows"});
    Table table;
    if (const auto columns = node.find("columns"))
      for (const BriefNode& column : columns->items()) table.columns.push_back(column_of(column));
    std::vector<std::string> styles;
    if (const auto own = node.find("column_styles"))
      for (const BriefNode& name : own->items()) {
        styles_.look(name);
        styles.push_back(name.text());
      }
    if (const auto head = node.find("head")) {
      for (const BriefNode& row : head->items()) {
        table.rows.push_back(row_of(row, {}, styles_.look(std::string("table_head")), fields));
        if (const auto fill = node.find("head_fill"))
          table.rows.back().fill = BriefStyles::color(*fill);
      }
      table.head_rows = static_cast<int>(table.rows.size());
    }
    const Look& look = look_of(node);
    if (const auto rows_node = node.find("rows"))
      for (const BriefNode& row : rows_node->items())
        table.rows.push_back(row_of(row, styles, look, fields));
    std::optional<Color> fill;  // of every second row
    if (const auto own = node.find("row_fill")) fill = BriefStyles::color(*own);
    const auto heads = static_cast<std::size_t>(table.head_rows);
    for (std::size_t i = heads + 1; i < table.rows.size(); i += 2) table.rows[i].fill = fill;
    if (node.has("each")) {
      const bool is_second = (table.rows.size() - heads) % 2 == 1;
      table.more_rows = rows_later(node, styles, look, fields, is_second, fill);
    }
    if (const auto rules = node.find("rules")) read_rules(*rules, table);
    if (const auto parts = node.find("parts_rows")) table.parts_rows = parts->truth();
    flow_.add(table);
  }

  // Rows of the data, made when they are asked for.
  RowSource rows_later(const BriefNode& node, const std::vector<std::string>& styles,
                       const Look& look, const Fields& fields, bool is_second,
                       const std::optional<Color>& fill) const {
    const DataRows& all = rows(node);
    const auto made = [self = shared_from_this(), &all, of = member(node, "row"), styles, look,
                       fields, is_second, fill](std::size_t number) {
      TableRow made = self->row_of(of, styles, look, row(all, number, fields));
      if ((number % 2 == 1) != is_second) made.fill = fill;
      return made;
    };
    if (all.size() > 0) made(0);  // what is wrong with a row is told before anything is set
    return [made, &all](std::size_t number) -> Result<std::optional<TableRow>> {
      if (number >= all.size()) return std::optional<TableRow>();
      try {
        return std::optional<TableRow>(made(number));
      } catch (const ResultError& error) {
        return error.error();
      }
    };
  }

  static void read_rules(const BriefNode& node, Table& table) {
    node.allow({"around", "between_rows", "between_columns", "below_head", "color"});
    if (const auto rule = node.find("around")) table.rule_around = rule->number(0, kMostPoints);
    if (const auto rule = node.find("between_rows"))
      table.rule_between_rows = rule->number(0, kMostPoints);
    if (const auto rule = node.find("between_columns"))
      table.rule_between_columns = rule->number(0, kMostPoints);
    if (const auto rule = node.find("below_head"))
      table.rule_below_head = rule->number(0, kMostPoints);
    if (const auto color = node.find("color")) table.rule_color = BriefStyles::color(*color);
  }

  void add_picture(const BriefNode& block, const Fields& fields) {
    block.allow({"picture", "width", "description", "side"});
    const auto picture =
        Picture::load(options_.folder / filled_text(block.at("picture"), fields), options_.limits);
    if (!picture.ok())
      block.at("picture").fail(picture.error().to_string(), picture.error().code());
    const auto width = block.find("width");
    const auto description = block.find("description");
    const double wide = width ? width->number(0, kMostPoints) : 0;
    const std::string told = description ? filled_text(*description, fields) : std::string();
    const auto side = block.find("side");
    if (!side) return flow_.add(*picture, wide, told);
    const std::string name = side->text();
    if (name != "left" && name != "right")
      side->fail("a picture with text beside it stands \"left\" or \"right\"");
    flow_.add_beside(*picture, name == "left" ? Flow::Side::left : Flow::Side::right, wide, told);
  }

  // A number, or a text that says one; none of those otherwise.
  double value_of(const BriefNode& node, const Fields& fields) const {
    if (node.json().is_number()) return node.number();
    const std::string text = filled_text(node, fields);
    char* end = nullptr;
    const double value = std::strtod(text.c_str(), &end);
    const bool is_number = !text.empty() && *end == '\0';
    return is_number ? value : std::numeric_limits<double>::quiet_NaN();
  }

  // A list, or {"each": …, "value": …}: one for each row.
  template <typename Take>
  void each_value(const BriefNode& node, const Fields& fields, const Take& take) const {
    if (node.json().is_object()) {
      node.allow({"each", "value"});
      if (!node.has("each")) node.fail("'each' is missing here");
      return each_row(node, fields, [&](const Fields& row) { take(member(node, "value"), row); });
    }
    for (const BriefNode& item : node.items()) take(item, fields);
  }

  void add_chart(const BriefNode& block, const Fields& fields) {
    block.allow({"chart", "height"});
    const BriefNode node = block.at("chart");
    node.allow({"kind", "title", "value_title", "labels", "series", "shows_values", "shows_legend",
                "text_size"});
    Chart chart;
    chart.face = styles_.look(std::string("body")).letters.face;
    if (const auto kind = node.find("kind")) chart.kind = kind_of(*kind);
    if (const auto title = node.find("title")) chart.title = filled_text(*title, fields);
    if (const auto title = node.find("value_title"))
      chart.value_title = filled_text(*title, fields);
    if (const auto truth = node.find("shows_values")) chart.shows_values = truth->truth();
    if (const auto truth = node.find("shows_legend")) chart.shows_legend = truth->truth();
    if (const auto size = node.find("text_size")) chart.text_size = size->number(1, kMostPoints);
    if (const auto labels = node.find("labels"))
      each_value(*labels, fields, [&](const BriefNode& label, const Fields& row) {
        chart.labels.push_back(filled_text(label, row));
      });
    for (const BriefNode& series : member(node, "series").items()) {
      series.allow({"name", "values", "color"});
      ChartSeries own;
      if (const auto name = series.find("name")) own.name = filled_text(*name, fields);
      if (const auto color = series.find("color")) own.color = BriefStyles::color(*color);
      each_value(member(series, "values"), fields, [&](const BriefNode& value, const Fields& row) {
        own.values.push_back(value_of(value, row));
      });
      chart.series.push_back(std::move(own));
    }
    const auto height = block.find("height");
    flow_.add(chart, height ? height->number(1, kMostPoints) : 220);
  }

  static Chart::Kind kind_of(const BriefNode& node) {
    const std::vector<std::pair<std::string_view, Chart::Kind>> known = {
        {"bars", Chart::Kind::bars},
        {"stacked_bars", Chart::Kind::stacked_bars},
        {"lines", Chart::Kind::lines},
        {"pie", Chart::Kind::pie}};
    const std::string text = node.text();
    std::vector<std::string> names;
    for (const auto& [name, kind] : known) {
      if (name == text) return kind;
      names.emplace_back(name);
    }
    node.fail("'" + text + "' is no kind of chart; " + meant_by(text, names));
  }

  std::string text_;
  Json json_;
  BriefNode brief_;
  BriefOptions options_;
  BriefStyles styles_;
  BriefData data_;
  Flow flow_;
  std::size_t count_ = 0;
};

}  // namespace
}  // namespace compose

Result<Flow> flow_of_brief(std::string_view brief, const BriefOptions& options) {
  try {
    return std::make_shared<compose::BriefReader>(std::string(brief), options)->read();
  } catch (const ResultError& error) {
    return error.error();
  }
}

}  // namespace lumvet
