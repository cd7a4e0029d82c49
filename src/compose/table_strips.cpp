// SPDX-License-Identifier: Apache-2.0
#include <algorithm>
#include <cmath>
#include <map>
#include <numeric>

#include "compose/placed_cells.h"
#include "compose/strips.h"

namespace lumvet::compose {
namespace {

std::string points(double value) { return std::to_string(static_cast<long>(std::ceil(value))); }

// Where the columns of a table are, and how its rows are drawn.
class Grid {
 public:
  Grid(const Table& table, double width, double highest, std::string key)
      : table_(table), width_(width), highest_(highest), key_(std::move(key)) {}

  // Looks at all rows once, unless it is said how wide all columns are.
  Status measure(Numbers numbers) {
    std::vector<double> least;
    std::vector<double> whole;
    const bool are_given =
        !table_.columns.empty() &&
        std::all_of(table_.columns.begin(), table_.columns.end(),
                    [](const TableColumn& one) { return one.width.has_value(); });
    if (are_given) {
      count_ = table_.columns.size();
      least.resize(count_);
      whole.resize(count_);
    } else {
      LUMVET_RETURN_IF_ERROR(measure_content(least, whole, numbers));
    }
    return find_widths(least, whole);
  }

  const Table& table() const { return table_; }
  const std::string& key() const { return key_; }
  std::size_t head_rows() const { return static_cast<std::size_t>(std::max(table_.head_rows, 0)); }

  // Rows some at a time, so that no element has very many.
  Drawing::Scope tag_part(Drawing& page, std::size_t row) const {
    constexpr std::size_t kTogether = 64;
    if (is_head(row)) return page.tag("THead", {.key = key_ + "h"});
    return page.tag("TBody", {.key = key_ + "b" + std::to_string(row / kTogether)});
  }

  // The rows from one on that hold together, unless they are higher than a page has room. Errors:
  // for cells without a place.
  Result<RowGroupPtr> group_from(std::size_t first, RowWindow& rows, double highest) const {
    auto group = std::make_shared<RowGroup>();
    group->first = first;
    std::vector<std::size_t> taken(count_);
    for (std::size_t row = first, end = first + 1; row < end; ++row) {
      LUMVET_TRY(const RowPtr own, rows.at(row));
      group->rows.push_back(own);
      group->row_begins.push_back(group->cells.size());
      const auto take = [&](const Placed& placed) -> Status {
        group->cells.push_back(placed);
        end = std::max(end, row + placed.rows);
        return Done{};
      };
      LUMVET_RETURN_IF_ERROR(place_row(*own->cells, row, rows, taken, take));
      if (taken.size() > count_) return wrong_count(taken.size());
      group->heights.push_back(2 * table_.padding_along);
    }
    group->row_begins.push_back(group->cells.size());
    LUMVET_TRY(const RowPtr next, rows.at(group->end()));
    group->ends_table = !next;
    rows.forget_before(group->end());
    for (Placed& placed : group->cells) {
      const double room = width_of(placed) - 2 * table_.padding_across;
      const Paragraph& content = placed.cell->content;
      if (placed.runs_down()) {
        LUMVET_TRY(placed.set, set_downward(content));
      } else {
        LUMVET_TRY(placed.set, content.set(std::max(room, 1e-3)));
      }
    }
    find_heights(*group);
    const double all = std::accumulate(group->heights.begin(), group->heights.end(), 0.0);
    if (group->heights.size() > 1 && all > highest) part(*group);
    return RowGroupPtr(std::move(group));
  }

  void draw_row(const RowGroup& group, Drawing& page, Point at, std::size_t row,
                bool is_tagged) const {
    std::optional<Drawing::Scope> tag_row;
    if (is_tagged) tag_row.emplace(page.tag("TR", {.key = key_ + "r" + std::to_string(row)}));
    const std::span<const Placed> cells =
        group.is_parted ? std::span<const Placed>(group.cells) : group.cells_of(row);
    for (const Placed& placed : cells) {
      if (placed.row > row || row >= placed.row + placed.rows) continue;
      double height = group.height(row);
      for (std::size_t i = 1; i < placed.rows && !group.is_parted; ++i)
        height += group.height(row + i);
      const PageArea area{at.x + lefts_[placed.column], at.y, width_of(placed), height};
      fill(group, page, placed, area);
      const double free = height - height_of(placed);
      const double down = placed.cell->stand == TableCell::Stand::middle   ? free / 2
                          : placed.cell->stand == TableCell::Stand::bottom ? free
                                                                           : 0;
      std::optional<Drawing::Scope> tag_cell;
      if (is_tagged)
        tag_cell.emplace(page.tag(is_head(row) ? "TH" : "TD", {.key = cell_key(placed)}));
      const Point corner{area.left + table_.padding_across, at.y + table_.padding_along};
      const LineRange lines = lines_in(placed, row);
      if (placed.runs_down())
        page.write(placed.set, {right_of(placed, area), corner.y + down}, lines.first, lines.end);
      else
        page.write(placed.set, {corner.x, corner.y + (placed.lines.empty() ? down : 0)},
                   lines.first, lines.end);
    }
    draw_rules(group, page, at, row, group.height(row), true);
  }

  // The notes that begin in some lines of a row, or in all that stand in it.
  Status add_notes(const RowGroup& group, std::size_t row, const std::optional<LineRange>& part,
                   std::vector<FootNote>& found) const {
    for (const Placed& placed : group.cells) {
      if (placed.row > row || row >= placed.row + placed.rows) continue;
      const std::vector<draw::Note>& notes = group.rows[placed.row - group.first]->notes;
      LineRange lines = part ? *part : lines_in(placed, row);
      lines.end = std::min(lines.end, placed.set.line_count());
      LUMVET_RETURN_IF_ERROR(
          add_foot_notes(placed.set, lines.first, lines.end, notes, width_, found));
    }
    return Done{};
  }

  // Lines of a row that is parted.
  struct Part {
    LineRange lines;
    double above = 0;  // points before the first
    double height = 0;
    bool is_last = false;
  };
  void draw_part(const RowGroup& group, Drawing& page, Point at, std::size_t row,
                 const Part& part) const {
    const auto tag_row = page.tag("TR", {.key = key_ + "r" + std::to_string(row)});
    for (const Placed& placed : group.cells_of(row)) {
      const PageArea area{at.x + lefts_[placed.column], at.y, width_of(placed), part.height};
      fill(group, page, placed, area);
      const auto tag_cell = page.tag(is_head(row) ? "TH" : "TD", {.key = cell_key(placed)});
      if (part.lines.first < placed.set.line_count())
        page.write(placed.set, {area.left + table_.padding_across, at.y + part.above},
                   part.lines.first, part.lines.end);
    }
    draw_rules(group, page, at, row, part.height, part.is_last);
  }

 private:
  Error wrong_count(std::size_t count) const {
    return Error(ErrorCode::invalid_argument,
                 "the table's rows have " + std::to_string(count) + " columns, and " +
                     std::to_string(table_.columns.size()) + " are described");
  }

  // What columns need, at least and so that no line breaks.
  Status measure_content(std::vector<double>& least, std::vector<double>& whole, Numbers& numbers) {
    std::vector<std::size_t> taken;
    // Of cells over several columns, by the first of them and how many they are.
    std::map<std::pair<std::size_t, std::size_t>, Paragraph::Widths> wide;
    const double padding = 2 * table_.padding_across;
    RowWindow rows(table_, numbers);
    for (std::size_t row = 0;; ++row) {
      LUMVET_TRY(const RowPtr own, rows.at(row));
      if (!own) break;
      const auto take = [&](const Placed& placed) -> Status {
        const std::size_t end = placed.column + placed.columns;
        if (least.size() < end) {
          least.resize(end);
          whole.resize(end);
        }
        if (placed.columns == 1 && column(placed.column).width) return Done{};
        LUMVET_TRY(const Paragraph::Widths needed, widths_of(placed));
        Paragraph::Widths single{whole[placed.column], least[placed.column]};
        Paragraph::Widths& most =
            placed.columns == 1 ? single : wide[{placed.column, placed.columns}];
        most.least = std::max(most.least, needed.least + padding);
        most.whole = std::max(most.whole, needed.whole + padding);
        if (placed.columns > 1) return Done{};
        least[placed.column] = single.least;
        whole[placed.column] = single.whole;
        return Done{};
      };
      LUMVET_RETURN_IF_ERROR(place_row(*own->cells, row, rows, taken, take));
      rows.forget_before(row + 1);
    }
    count_ = least.size();
    if (count_ == 0) return Error(ErrorCode::invalid_argument, "a table has one cell at least");
    if (!table_.columns.empty() && table_.columns.size() != count_) return wrong_count(count_);
    for (std::size_t i = 0; i < count_; ++i)
      if (column(i).width) least[i] = whole[i] = *column(i).width;
    // What they need besides is spread over those of their columns that have no width of their own.
    const auto spread = [&](std::vector<double>& widths, std::size_t first, std::size_t columns,
                            double needed) {
      double there = 0;
      int open = 0;
      for (std::size_t i = first; i < first + columns; ++i) {
        there += widths[i];
        open += column(i).width ? 0 : 1;
      }
      if (open == 0 || needed <= there) return;
      for (std::size_t i = first; i < first + columns; ++i)
        if (!column(i).width) widths[i] += (needed - there) / open;
    };
    for (const auto& [place, needed] : wide) {
      spread(least, place.first, place.second, needed.least);
      spread(whole, place.first, place.second, needed.whole);
    }
    return Done{};
  }

  TableColumn column(std::size_t i) const {
    return i < table_.columns.size() ? table_.columns[i] : TableColumn();
  }

  Status find_widths(std::vector<double>& least, std::vector<double>& whole) {
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
    double height = placed.runs_down() ? 0 : placed.set.height();
    if (placed.runs_down())
      for (std::size_t i = 0; i < placed.set.line_count(); ++i)
        height = std::max(height, placed.set.line_right(i));
    return height + 2 * table_.padding_along;
  }

  // Lines that run downward are as long as they want to be, and have room on a page.
  Result<SetParagraph> set_downward(const Paragraph& content) const {
    LUMVET_TRY(const Paragraph::Widths widths, content.widths());
    constexpr double kLeast = 1;
    const double room = std::max(highest_ - 2 * table_.padding_along, kLeast);
    return content.set(std::min(widths.whole + kLeast, room));
  }

  Result<Paragraph::Widths> widths_of(const Placed& placed) const {
    if (!placed.runs_down()) return placed.cell->content.widths();
    LUMVET_TRY(const SetParagraph set, set_downward(placed.cell->content));
    return Paragraph::Widths{set.height(), set.height()};
  }

  // Where the first line is right of, of those that run downward.
  double right_of(const Placed& placed, const PageArea& area) const {
    using Align = ParagraphStyle::Align;
    const double right = area.left + area.width - table_.padding_across;
    const double free = area.width - 2 * table_.padding_across - placed.set.height();
    const Align align = placed.cell->content.style().align;
    return right - (align == Align::center ? free / 2 : align == Align::left ? free : 0);
  }

  // Those of a cell that stand in a row.
  static LineRange lines_in(const Placed& placed, std::size_t row) {
    if (placed.lines.empty()) return {0, row == placed.row ? placed.set.line_count() : 0};
    return {placed.lines[row - placed.row], placed.lines[row - placed.row + 1]};
  }

  // Cells of several rows go on from row to row, with as many lines in each as have room; rows that
  // have too little together grow alike.
  void part(RowGroup& group) const {
    group.is_parted = true;
    std::fill(group.heights.begin(), group.heights.end(), 2 * table_.padding_along);
    for (const Placed& placed : group.cells)
      if (placed.rows == 1 || placed.runs_down()) {
        double& own = group.heights[placed.row - group.first];
        own = std::max(own, height_of(placed));
      }
    for (Placed& placed : group.cells)
      if (placed.rows > 1 && !placed.runs_down()) part(group, placed);
  }

  void part(RowGroup& group, Placed& placed) const {
    const SetParagraph& set = placed.set;
    double line = 0;
    for (std::size_t i = 0; i < set.line_count(); ++i)
      line = std::max(line, set.line_top(i + 1) - set.line_top(i));
    if (!(line > 0)) return;
    const std::span<double> heights(&group.heights[placed.row - group.first], placed.rows);
    const auto lines_in = [&](double height) {
      return static_cast<std::size_t>(
          std::max(0.0, std::floor((height - 2 * table_.padding_along) / line + 1e-6)));
    };
    std::size_t room = 0;
    for (const double height : heights) room += lines_in(height);
    const std::size_t missing = set.line_count() - std::min(room, set.line_count());
    const std::size_t more = (missing + placed.rows - 1) / placed.rows;
    placed.lines = {0};
    for (double& height : heights) {
      const std::size_t own = lines_in(height) + more;
      if (more > 0) height = static_cast<double>(own) * line + 2 * table_.padding_along;
      placed.lines.push_back(std::min(placed.lines.back() + own, set.line_count()));
    }
  }

  void find_heights(RowGroup& group) const {
    const auto own = [&](std::size_t row) -> double& { return group.heights[row - group.first]; };
    for (const Placed& placed : group.cells)
      if (placed.rows == 1) own(placed.row) = std::max(own(placed.row), height_of(placed));
    // The last of several rows is as high as their cell still needs.
    for (const Placed& placed : group.cells) {
      double there = 0;
      for (std::size_t i = 0; i < placed.rows; ++i) there += own(placed.row + i);
      const double more = height_of(placed) - there;
      if (more > 0) own(placed.row + placed.rows - 1) += more;
    }
  }

  bool is_head(std::size_t row) const { return row < head_rows(); }

  std::string cell_key(const Placed& placed) const {
    return key_ + "r" + std::to_string(placed.row) + "c" + std::to_string(placed.column);
  }

  // Below the rule above it, of which half lies in the row.
  void fill(const RowGroup& group, Drawing& page, const Placed& placed, PageArea area) const {
    const std::optional<Color>& of_row = group.rows[placed.row - group.first]->cells->fill;
    const auto& color = placed.cell->fill ? placed.cell->fill : of_row;
    if (!color) return;
    const double rule =
        placed.row == head_rows() ? table_.rule_below_head : table_.rule_between_rows;
    const double above = placed.row > 0 ? std::min(rule / 2, area.height / 2) : 0;
    const auto scope = page.artifact();
    page.fill(box({area.left, area.top + above, area.width, area.height - above}), *color);
  }

  void draw_rules(const RowGroup& group, Drawing& page, Point at, std::size_t row, double height,
                  bool is_last) const {
    const auto scope = page.artifact();
    const double right = at.x + lefts_.back();
    const double bottom = at.y + height;
    const auto rule = [&](Point from, Point to, double width) {
      if (width > 0) page.line(from, to, table_.rule_color, {.width = width});
    };
    const bool ends_table = group.ends_table && row + 1 == group.end();
    const bool ends_head = row + 1 == head_rows();
    if (is_last && !ends_table) {
      // Not through cells that go on.
      const double width = ends_head ? table_.rule_below_head : table_.rule_between_rows;
      for (std::size_t i = 0; i < count_; ++i)
        if (!goes_through(group, row, i))
          rule({at.x + lefts_[i], bottom}, {at.x + lefts_[i + 1], bottom}, width);
    }
    if (table_.rule_between_columns > 0)
      for (const Placed& placed : group.cells)
        if (placed.row <= row && row < placed.row + placed.rows && placed.column > 0)
          rule({at.x + lefts_[placed.column], at.y}, {at.x + lefts_[placed.column], bottom},
               table_.rule_between_columns);
    rule({at.x, at.y}, {at.x, bottom}, table_.rule_around);
    rule({right, at.y}, {right, bottom}, table_.rule_around);
    if (row == 0) rule({at.x, at.y}, {right, at.y}, table_.rule_around);
    if (ends_table && is_last) rule({at.x, bottom}, {right, bottom}, table_.rule_around);
  }

  static bool goes_through(const RowGroup& group, std::size_t row, std::size_t column) {
    return std::any_of(group.cells.begin(), group.cells.end(), [&](const Placed& placed) {
      return placed.column <= column && column < placed.column + placed.columns &&
             placed.row <= row && row + 1 < placed.row + placed.rows;
    });
  }

  const Table& table_;
  double width_;
  double highest_;  // that a row may be
  std::string key_;
  std::size_t count_ = 0;  // columns
  std::vector<double> widths_;
  std::vector<double> lefts_;
};

// Rows as strips, one after the other.
class TableStrips {
 public:
  TableStrips(std::shared_ptr<const Grid> grid, double highest, Numbers& numbers)
      : grid_(std::move(grid)), rows_(grid_->table(), numbers), highest_(highest) {}

  Result<std::optional<Strip>> next() {
    if (next_ >= ready_.size()) LUMVET_RETURN_IF_ERROR(make_ready());
    if (next_ >= ready_.size()) return std::optional<Strip>();
    return std::optional<Strip>(std::move(ready_[next_++]));
  }

 private:
  // The next rows that hold together.
  Status make_ready() {
    ready_.clear();
    next_ = 0;
    LUMVET_TRY(const RowPtr first, rows_.at(row_));
    if (!first) return Done{};
    const std::size_t heads = grid_->head_rows();
    if (!head_ && row_ >= heads && !head_groups_.empty()) head_ = repeated_head();
    LUMVET_TRY(const RowGroupPtr group,
               grid_->group_from(row_, rows_, highest_ - (head_ ? head_->height : 0)));
    if (row_ < heads) head_groups_.push_back(group);
    const bool is_first = row_ == 0;
    for (std::size_t row = group->first; row < group->end(); ++row)
      LUMVET_RETURN_IF_ERROR(add_row(group, row, heads));
    row_ = group->end();
    constexpr double kAround = 6;  // points above and below a table
    if (is_first) ready_.front().before = kAround;
    if (group->ends_table) ready_.back().after = kAround;
    return Done{};
  }

  std::shared_ptr<const Strip> repeated_head() const {
    auto head = std::make_shared<Strip>();
    for (const RowGroupPtr& group : head_groups_)
      for (const double height : group->heights) head->height += height;
    head->draw = [grid = grid_, groups = head_groups_](Drawing& page, Point at) {
      const auto scope = page.artifact();  // it is read once
      for (const RowGroupPtr& group : groups)
        for (std::size_t row = group->first; row < group->end(); ++row) {
          grid->draw_row(*group, page, at, row, false);
          at.y += group->height(row);
        }
    };
    return head;
  }

  Status add_row(const RowGroupPtr& group, std::size_t row, std::size_t heads) {
    const std::shared_ptr<const Strip> head = row >= heads ? head_ : nullptr;
    const double room = highest_ - (head ? head->height : 0);
    const bool is_alone = group->heights.size() == 1;
    if (is_alone && (group->height(row) > room || grid_->table().parts_rows)) {
      LUMVET_TRY(const bool is_parted, add_parts(group, row, room, head));
      if (is_parted) return Done{};
    }
    Strip strip;
    strip.height = group->height(row);
    strip.keeps_with_next = row < heads || (row + 1 < group->end() && !group->is_parted);
    strip.head = head;
    strip.draw = [grid = grid_, group, row](Drawing& page, Point at) {
      const auto table = page.tag("Table", {.key = grid->key()});
      const auto part = grid->tag_part(page, row);
      grid->draw_row(*group, page, at, row, true);
    };
    LUMVET_RETURN_IF_ERROR(grid_->add_notes(*group, row, std::nullopt, strip.notes));
    ready_.push_back(std::move(strip));
    return Done{};
  }

  // A row in parts of so many lines as have room, all cells alike. False when it need not be.
  Result<bool> add_parts(const RowGroupPtr& group, std::size_t row, double room,
                         const std::shared_ptr<const Strip>& head) {
    std::size_t lines = 0;
    double line = 0;
    for (const Placed& placed : group->cells) {
      if (placed.runs_down()) return false;
      lines = std::max(lines, placed.set.line_count());
      for (std::size_t i = 0; i < placed.set.line_count(); ++i)
        line = std::max(line, placed.set.line_top(i + 1) - placed.set.line_top(i));
    }
    const double padding = grid_->table().padding_along;
    const std::size_t each =
        grid_->table().parts_rows
            ? 1
            : static_cast<std::size_t>(std::max(1.0, std::floor((room - 2 * padding) / line)));
    if (lines < 2 || lines <= each) return false;
    for (std::size_t first = 0; first < lines; first += each) {
      Grid::Part part{{first, std::min(lines, first + each)}, first == 0 ? padding : 0, 0, false};
      part.is_last = part.lines.end == lines;
      part.height = line * static_cast<double>(part.lines.end - first) + part.above +
                    (part.is_last ? padding : 0);
      Strip strip;
      strip.head = head;
      strip.height = part.height;
      strip.draw = [grid = grid_, group, row, part](Drawing& page, Point at) {
        const auto table = page.tag("Table", {.key = grid->key()});
        const auto rows = grid->tag_part(page, row);
        grid->draw_part(*group, page, at, row, part);
      };
      LUMVET_RETURN_IF_ERROR(grid_->add_notes(*group, row, part.lines, strip.notes));
      ready_.push_back(std::move(strip));
    }
    return true;
  }

  std::shared_ptr<const Grid> grid_;
  RowWindow rows_;
  double highest_;
  std::size_t row_ = 0;  // that comes next
  std::vector<Strip> ready_;
  std::size_t next_ = 0;
  std::vector<RowGroupPtr> head_groups_;
  std::shared_ptr<const Strip> head_;
};

}  // namespace

Result<StripSource> strips_of(const Table& table, double width, double highest,
                              const std::string& key, Numbers& numbers) {
  auto grid = std::make_shared<Grid>(table, width, highest, key);
  LUMVET_RETURN_IF_ERROR(grid->measure(numbers));
  auto strips = std::make_shared<TableStrips>(std::move(grid), highest, numbers);
  return StripSource([strips = std::move(strips)] { return strips->next(); });
}

}  // namespace lumvet::compose
