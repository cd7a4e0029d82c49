// SPDX-License-Identifier: Apache-2.0
#include <algorithm>
#include <cmath>
#include <numeric>
#include <span>

#include "compose/strips.h"

namespace lumvet::compose {
namespace {

// A cell where it stands in the grid.
struct Placed {
  const TableCell* cell = nullptr;
  std::size_t row = 0;
  std::size_t column = 0;
  std::size_t rows = 1;
  std::size_t columns = 1;
  SetParagraph set;
};

std::string points(double value) { return std::to_string(static_cast<long>(std::ceil(value))); }

class TableSetter {
 public:
  TableSetter(const Table& table, double width, double highest, std::string key)
      : table_(std::make_shared<const Table>(table)),
        width_(width),
        highest_(highest),
        key_(std::move(key)) {}

  Result<std::vector<Strip>> set() {
    LUMVET_RETURN_IF_ERROR(place_cells());
    LUMVET_RETURN_IF_ERROR(find_widths());
    for (Placed& placed : cells_) {
      const double room = width_of(placed) - 2 * table_->padding_across;
      LUMVET_TRY(placed.set, placed.cell->content.set(std::max(room, 1e-3)));
    }
    find_heights();
    return strips();
  }

 private:
  // Row by row, each cell into the first place that none above takes.
  Status place_cells() {
    std::vector<std::size_t> taken;  // of each column, by how many rows more
    for (std::size_t row = 0; row < table_->rows.size(); ++row) {
      row_begins_.push_back(cells_.size());
      std::size_t column = 0;
      const auto skip = [&] {
        while (column < taken.size() && taken[column] > 0) ++column;
      };
      std::vector<std::pair<std::size_t, std::size_t>> now;
      for (const TableCell& cell : table_->rows[row].cells) {
        skip();
        if (cell.columns < 1 || cell.rows < 1)
          return Error(ErrorCode::invalid_argument, "a cell takes one row and one column at least");
        if (static_cast<std::size_t>(cell.columns) > kMostColumns - std::min(column, kMostColumns))
          return Error(ErrorCode::limit, "a table has more than 1000 columns");
        const auto columns = static_cast<std::size_t>(cell.columns);
        const std::size_t rows =
            std::min(static_cast<std::size_t>(cell.rows), table_->rows.size() - row);
        if (rows > 1) tall_.push_back(cells_.size());
        cells_.push_back({&cell, row, column, rows, columns, {}});
        if (taken.size() < column + columns) taken.resize(column + columns);
        for (std::size_t i = 0; i < columns; ++i) {
          if (taken[column + i] > 0)
            return Error(ErrorCode::invalid_argument,
                         "a cell of row " + std::to_string(row + 1) +
                             " has no place beside one that takes several rows");
          now.emplace_back(column + i, rows);
        }
        column += columns;
      }
      for (std::size_t& rows : taken) rows -= rows > 0 ? 1 : 0;
      for (const auto& [at, rows] : now) taken[at] = rows - 1;
    }
    row_begins_.push_back(cells_.size());
    count_ = taken.size();
    if (count_ == 0) return Error(ErrorCode::invalid_argument, "a table has one cell at least");
    if (!table_->columns.empty() && table_->columns.size() != count_)
      return Error(ErrorCode::invalid_argument,
                   "the table's rows have " + std::to_string(count_) + " columns, and " +
                       std::to_string(table_->columns.size()) + " are described");
    return Done{};
  }

  TableColumn column(std::size_t i) const {
    return table_->columns.empty() ? TableColumn() : table_->columns[i];
  }

  Status find_widths() {
    std::vector<double> least(count_);
    std::vector<double> whole(count_);
    const double padding = 2 * table_->padding_across;
    for (const bool alone : {true, false})
      for (const Placed& placed : cells_) {
        if ((placed.columns == 1) != alone) continue;
        LUMVET_TRY(const Paragraph::Widths own, placed.cell->content.widths());
        // What a cell over several columns needs besides is spread over them.
        const auto spread = [&](std::vector<double>& widths, double needed) {
          double there = 0;
          for (std::size_t i = 0; i < placed.columns; ++i) there += widths[placed.column + i];
          const double more = (needed - there) / static_cast<double>(placed.columns);
          if (more <= 0) return;
          for (std::size_t i = 0; i < placed.columns; ++i) widths[placed.column + i] += more;
        };
        spread(least, own.least + padding);
        spread(whole, own.whole + padding);
      }
    double needed = 0;
    for (std::size_t i = 0; i < count_; ++i) {
      if (column(i).width) least[i] = whole[i] = *column(i).width;
      needed += least[i];
    }
    constexpr double kSlack = 1e-6;
    if (needed > width_ + kSlack)
      return Error(ErrorCode::invalid_argument, "the table needs " + points(needed) +
                                                    " points and has " +
                                                    std::to_string(static_cast<long>(width_)) +
                                                    "; give it more, or smaller letters");
    share_out(least, whole, needed);
    lefts_.assign(count_ + 1, 0);
    std::partial_sum(widths_.begin(), widths_.end(), lefts_.begin() + 1);
    return Done{};
  }

  // Columns by content grow up to their whole content; shares take what is left.
  void share_out(const std::vector<double>& least, const std::vector<double>& whole,
                 double needed) {
    widths_ = least;
    double left = width_ - needed;
    double wanted = 0;
    double shares = 0;
    for (std::size_t i = 0; i < count_; ++i) {
      if (column(i).share) shares += std::max(*column(i).share, 0.0);
      if (!column(i).share && !column(i).width) wanted += whole[i] - least[i];
    }
    const double part = wanted > 0 ? std::min(1.0, left / wanted) : 0;
    for (std::size_t i = 0; i < count_; ++i)
      if (!column(i).share && !column(i).width) {
        widths_[i] += part * (whole[i] - least[i]);
        left -= part * (whole[i] - least[i]);
      }
    if (shares <= 0) return;
    // Shares of all that the shared columns have together; none below its least.
    std::vector<bool> is_fixed(count_);
    for (bool goes_on = true; goes_on;) {
      goes_on = false;
      double room = left;
      double open = 0;
      for (std::size_t i = 0; i < count_; ++i)
        if (column(i).share && !is_fixed[i]) {
          room += least[i];
          open += *column(i).share;
        }
      for (std::size_t i = 0; i < count_; ++i) {
        if (!column(i).share || is_fixed[i]) continue;
        widths_[i] = room * *column(i).share / open;
        if (widths_[i] >= least[i] - 1e-9) continue;
        widths_[i] = least[i];
        is_fixed[i] = goes_on = true;
      }
    }
  }

  double width_of(const Placed& placed) const {
    return lefts_[placed.column + placed.columns] - lefts_[placed.column];
  }
  double height_of(const Placed& placed) const {
    return placed.set.height() + 2 * table_->padding_along;
  }

  void find_heights() {
    heights_.assign(table_->rows.size(), 2 * table_->padding_along);
    for (const Placed& placed : cells_)
      if (placed.rows == 1)
        heights_[placed.row] = std::max(heights_[placed.row], height_of(placed));
    // The last of several rows is as high as their cell still needs.
    for (const Placed& placed : cells_) {
      double there = 0;
      for (std::size_t i = 0; i < placed.rows; ++i) there += heights_[placed.row + i];
      const double more = height_of(placed) - there;
      if (more > 0) heights_[placed.row + placed.rows - 1] += more;
    }
  }

  std::vector<Strip> strips() {
    const auto shared = std::make_shared<const TableSetter>(*this);
    std::vector<Strip> strips;
    const auto heads = static_cast<std::size_t>(
        std::clamp<int>(table_->head_rows, 0, static_cast<int>(table_->rows.size())));
    std::shared_ptr<const Strip> head;
    if (heads > 0 && heads < table_->rows.size()) {
      auto all = std::make_shared<Strip>();
      all->height = std::accumulate(heights_.begin(),
                                    heights_.begin() + static_cast<std::ptrdiff_t>(heads), 0.0);
      all->draw = [shared, heads](Drawing& page, Point at) {
        const auto scope = page.artifact();  // it is read once
        for (std::size_t row = 0; row < heads; ++row) {
          shared->draw_row(page, at, row, false);
          at.y += shared->heights_[row];
        }
      };
      head = std::move(all);
    }
    std::vector<bool> goes_on(table_->rows.size());  // a cell of it takes the next one too
    for (const Placed& placed : cells_)
      for (std::size_t i = 0; i + 1 < placed.rows; ++i) goes_on[placed.row + i] = true;
    for (std::size_t row = 0; row < table_->rows.size(); ++row) {
      const double room = highest_ - (row >= heads && head ? head->height : 0);
      const bool is_parted = !goes_on[row] && (row == 0 || !goes_on[row - 1]) &&
                             (heights_[row] > room || table_->parts_rows);
      if (is_parted && add_parts(shared, row, room, row >= heads ? head : nullptr, strips))
        continue;
      Strip strip;
      strip.height = heights_[row];
      strip.keeps_with_next = row < heads || goes_on[row];
      if (row >= heads) strip.head = head;
      strip.draw = [shared, row](Drawing& page, Point at) {
        const auto table = page.tag("Table", {.key = shared->key_});
        shared->draw_row(page, at, row, true);
      };
      strips.push_back(std::move(strip));
    }
    if (!strips.empty()) {
      strips.front().before = kAround;
      strips.back().after = kAround;
    }
    return strips;
  }

  // A row in parts of so many lines as have room, all cells alike. False when it need not be.
  bool add_parts(const std::shared_ptr<const TableSetter>& shared, std::size_t row, double room,
                 const std::shared_ptr<const Strip>& head, std::vector<Strip>& strips) const {
    std::size_t lines = 0;
    double line = 0;
    for (const Placed& placed : cells_of(row)) {
      lines = std::max(lines, placed.set.line_count());
      for (std::size_t i = 0; i < placed.set.line_count(); ++i)
        line = std::max(line, placed.set.line_top(i + 1) - placed.set.line_top(i));
    }
    const double padding = 2 * table_->padding_along;
    const std::size_t each =
        table_->parts_rows
            ? 1
            : static_cast<std::size_t>(std::max(1.0, std::floor((room - padding) / line)));
    if (lines < 2 || lines <= each) return false;
    for (std::size_t first = 0; first < lines; first += each) {
      const std::size_t end = std::min(lines, first + each);
      Strip strip;
      strip.head = head;
      const double above = first == 0 ? table_->padding_along : 0;
      const double below = end == lines ? table_->padding_along : 0;
      strip.height = line * static_cast<double>(end - first) + above + below;
      strip.draw = [shared, row, first, end, above, height = strip.height, lines](Drawing& page,
                                                                                  Point at) {
        const auto table = page.tag("Table", {.key = shared->key_});
        shared->draw_part(page, at, row, first, end, above, height, end == lines);
      };
      strips.push_back(std::move(strip));
    }
    return true;
  }

  bool is_head(std::size_t row) const {
    return row < static_cast<std::size_t>(std::max(table_->head_rows, 0));
  }

  void draw_part(Drawing& page, Point at, std::size_t row, std::size_t first, std::size_t end,
                 double above, double height, bool is_last) const {
    const auto tag_row = page.tag("TR", {.key = key_ + "r" + std::to_string(row)});
    for (const Placed& placed : cells_of(row)) {
      const PageArea area{at.x + lefts_[placed.column], at.y, width_of(placed), height};
      fill(page, placed, area);
      const auto tag_cell = page.tag(is_head(row) ? "TH" : "TD", {.key = cell_key(placed)});
      if (first < placed.set.line_count())
        page.write(placed.set, {area.left + table_->padding_across, at.y + above}, first, end);
    }
    draw_rules(page, at, row, height, is_last);
  }

  std::string cell_key(const Placed& placed) const {
    return key_ + "r" + std::to_string(placed.row) + "c" + std::to_string(placed.column);
  }

  void fill(Drawing& page, const Placed& placed, const PageArea& area) const {
    const auto& color = placed.cell->fill ? placed.cell->fill : table_->rows[placed.row].fill;
    if (!color) return;
    const auto scope = page.artifact();
    page.fill(box(area), *color);
  }

  void draw_row(Drawing& page, Point at, std::size_t row, bool is_tagged) const {
    std::optional<Drawing::Scope> tag_row;
    if (is_tagged) tag_row.emplace(page.tag("TR", {.key = key_ + "r" + std::to_string(row)}));
    for (const Placed& placed : cells_of(row)) {
      double height = 0;
      for (std::size_t i = 0; i < placed.rows; ++i) height += heights_[row + i];
      const PageArea area{at.x + lefts_[placed.column], at.y, width_of(placed), height};
      fill(page, placed, area);
      const double free = height - height_of(placed);
      const double down = placed.cell->stand == TableCell::Stand::middle   ? free / 2
                          : placed.cell->stand == TableCell::Stand::bottom ? free
                                                                           : 0;
      std::optional<Drawing::Scope> tag_cell;
      if (is_tagged)
        tag_cell.emplace(page.tag(is_head(row) ? "TH" : "TD", {.key = cell_key(placed)}));
      page.write(placed.set,
                 {area.left + table_->padding_across, at.y + table_->padding_along + down});
    }
    draw_rules(page, at, row, heights_[row], true);
  }

  void draw_rules(Drawing& page, Point at, std::size_t row, double height, bool is_last) const {
    const auto scope = page.artifact();
    const double right = at.x + lefts_.back();
    const double bottom = at.y + height;
    const auto rule = [&](Point from, Point to, double width) {
      if (width > 0) page.line(from, to, table_->rule_color, {.width = width});
    };
    const bool ends_table = row + 1 == table_->rows.size();
    const bool ends_head = row + 1 == static_cast<std::size_t>(std::max(table_->head_rows, 0));
    if (is_last && !ends_table) {
      // Not through cells that go on.
      const double width = ends_head ? table_->rule_below_head : table_->rule_between_rows;
      for (std::size_t i = 0; i < count_; ++i)
        if (!goes_through(row, i))
          rule({at.x + lefts_[i], bottom}, {at.x + lefts_[i + 1], bottom}, width);
    }
    const auto rule_beside = [&](const Placed& placed) {
      if (placed.column > 0)
        rule({at.x + lefts_[placed.column], at.y}, {at.x + lefts_[placed.column], bottom},
             table_->rule_between_columns);
    };
    for (const Placed& placed : cells_of(row)) rule_beside(placed);
    for (const std::size_t tall : tall_)
      if (cells_[tall].row < row && row < cells_[tall].row + cells_[tall].rows)
        rule_beside(cells_[tall]);
    rule({at.x, at.y}, {at.x, bottom}, table_->rule_around);
    rule({right, at.y}, {right, bottom}, table_->rule_around);
    if (row == 0) rule({at.x, at.y}, {right, at.y}, table_->rule_around);
    if (ends_table && is_last) rule({at.x, bottom}, {right, bottom}, table_->rule_around);
  }

  bool goes_through(std::size_t row, std::size_t column) const {
    return std::any_of(tall_.begin(), tall_.end(), [&](std::size_t tall) {
      const Placed& placed = cells_[tall];
      return placed.column <= column && column < placed.column + placed.columns &&
             placed.row <= row && row + 1 < placed.row + placed.rows;
    });
  }

  std::span<const Placed> cells_of(std::size_t row) const {
    return std::span(cells_).subspan(row_begins_[row], row_begins_[row + 1] - row_begins_[row]);
  }

  static constexpr std::size_t kMostColumns = 1000;
  static constexpr double kAround = 6;  // points above and below a table

  std::shared_ptr<const Table> table_;  // in which the cells are
  double width_;
  double highest_;
  std::string key_;
  std::size_t count_ = 0;                // columns
  std::vector<Placed> cells_;            // row by row
  std::vector<std::size_t> row_begins_;  // of cells_, and one more
  std::vector<std::size_t> tall_;        // of cells_, those that take several rows
  std::vector<double> widths_;
  std::vector<double> lefts_;
  std::vector<double> heights_;
};

}  // namespace

Result<std::vector<Strip>> strips_of(const Table& table, double width, double highest,
                                     const std::string& key) {
  return TableSetter(table, width, highest, key).set();
}

}  // namespace lumvet::compose
