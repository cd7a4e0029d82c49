// SPDX-License-Identifier: Apache-2.0
#include "text/reading_order.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <map>
#include <numeric>
#include <optional>
#include <tuple>

#include "base/allowance.h"
#include "text/grids.h"

namespace lumvet::text {
namespace {

using Places = std::vector<std::size_t>;  // of pieces

struct Row {
  Places pieces;
  float base = 0;
  float top = 0;
  float bottom = 0;
};

struct Stretch {
  float begin = 0;
  float end = 0;
};

// What pieces take along the lines, and the free strips between.
class Taken {
 public:
  void add(const Stretch& added) {
    Stretch all = added;
    auto first = std::lower_bound(stretches_.begin(), stretches_.end(), all.begin,
                                  [](const Stretch& s, float at) { return s.end < at; });
    auto last = first;
    for (; last != stretches_.end() && last->begin <= all.end; ++last) {
      all.begin = std::min(all.begin, last->begin);
      all.end = std::max(all.end, last->end);
    }
    stretches_.insert(stretches_.erase(first, last), all);
  }
  const std::vector<Stretch>& stretches() const { return stretches_; }
  // Those that are wide enough, or in which a line is drawn at a height, or that are a gap between
  // columns somewhere from `top` to `bottom`.
  std::vector<Stretch> strips(double least, const DrawnLines& lines, double height, double top,
                              double bottom) const {
    constexpr double kNarrow = 0.45;  // of those that are wide enough
    std::vector<Stretch> found;
    for (std::size_t i = 1; i < stretches_.size(); ++i) {
      const Stretch strip{stretches_[i - 1].end, stretches_[i].begin};
      const double width = strip.end - strip.begin;
      if (width >= least || lines.part(strip.begin, strip.end, height) ||
          (width >= kNarrow * least && lines.has_gap(strip.begin, strip.end, top, bottom)))
        found.push_back(strip);
    }
    return found;
  }

 private:
  std::vector<Stretch> stretches_;  // sorted, apart from each other
};

// Rows that have strips in common.
struct Band {
  std::size_t first = 0;
  std::size_t end = 0;
  std::vector<Stretch> strips;
};

class Ordering {
 public:
  Ordering(const std::vector<Piece>& pieces, const DrawnLines& lines, bool from_right)
      : pieces_(pieces),
        lines_drawn_(lines),
        from_right_(from_right),
        grids_(grids_of(lines, pieces)),
        grid_at_(pieces.size(), -1) {
    for (std::size_t g = 0; g < grids_.size(); ++g)
      for (const GridCell& cell : grids_[g].cells)
        for (const std::size_t at : cell.pieces) grid_at_[at] = static_cast<int>(g);
  }

  std::vector<OrderedLine> take() {
    Places all(pieces_.size());
    std::iota(all.begin(), all.end(), std::size_t{0});
    order(std::move(all), 0);
    return std::move(lines_);
  }

 private:
  static constexpr double kStrip = 0.8;  // of the font size, at least, between columns

  void order(Places region, int depth);
  std::vector<Row> rows_of(Places region) const;
  double usual_size(const Places& region) const;
  std::optional<Band> band_at(const std::vector<Row>& rows, std::size_t seed, std::size_t after,
                              double least) const;
  std::vector<Stretch> mostly_free(const std::vector<Row>& rows, const Band& band,
                                   std::size_t heads, double height, double least) const;
  bool heads_columns(const Row& row, const std::vector<Stretch>& strips) const;
  bool are_beside(const std::vector<Row>& rows, const Band& band, const Stretch& strip) const;
  bool are_columns(const std::vector<Row>& rows, const Band& band) const;
  Band without_single_cells(const std::vector<Row>& rows, Band band) const;
  std::vector<double> cuts_of(const std::vector<Row>& rows, const Band& band) const;
  void put_parts(const std::vector<Row>& rows, const Band& band, const std::vector<double>& cuts,
                 int depth);
  void put_columns(const std::vector<Row>& rows, const Band& band, int depth);
  void put_table(const std::vector<Row>& rows, const Band& band);
  void begin_row(std::size_t columns);
  void put_cells(const Row& row, const Band& band);
  bool are_lines_of_cells(const std::vector<Row>& rows, const Band& part, std::size_t parts) const;
  void put_grid(const Grid& grid);
  // Puts the grids of a row that are not there yet, and says whether there is anything else in it.
  bool put_grids(Row& row);
  void put_flow(const Row& row);
  void begin_block() { begins_ = true; }
  // What a piece takes along the lines: one in a grid all that the grid does.
  Stretch taken_by(std::size_t at) const {
    if (grid_at_[at] < 0) return {pieces_[at].begin, pieces_[at].end};
    const Grid& grid = grids_[static_cast<std::size_t>(grid_at_[at])];
    return {grid.begin, grid.end};
  }
  bool has_grid(const std::vector<Row>& rows, const Band& band) const {
    for (std::size_t r = band.first; r < band.end; ++r)
      for (const std::size_t at : rows[r].pieces)
        if (grid_at_[at] >= 0) return true;
    return false;
  }
  // In the order of reading, of a place or of a piece by its middle.
  std::size_t column_at(double along, const std::vector<Stretch>& strips) const {
    const auto column = static_cast<std::size_t>(
        std::lower_bound(strips.begin(), strips.end(), along,
                         [](const Stretch& strip, double at) { return strip.begin < at; }) -
        strips.begin());
    return from_right_ ? strips.size() - column : column;
  }
  // The columns that a piece reaches into: the first of them, and how many. One in a strip is where
  // its middle is.
  std::pair<std::size_t, std::size_t> columns_of(const Piece& piece,
                                                 const std::vector<Stretch>& strips) const {
    std::size_t first = 0;  // from the left
    std::size_t last = 0;
    for (const Stretch& strip : strips) {
      first += strip.begin <= piece.begin ? 1 : 0;
      last += strip.end < piece.end ? 1 : 0;
    }
    if (last < first) return {column_at((piece.begin + piece.end) / 2, strips), 1};
    if (from_right_) std::tie(first, last) = std::pair(strips.size() - last, strips.size() - first);
    return {first, last - first + 1};
  }
  // The only one, or that of its middle.
  std::size_t column_of(const Piece& piece, const std::vector<Stretch>& strips) const {
    const auto [first, count] = columns_of(piece, strips);
    return count == 1 ? first : column_at((piece.begin + piece.end) / 2, strips);
  }

  const std::vector<Piece>& pieces_;
  const DrawnLines& lines_drawn_;
  bool from_right_;
  std::vector<Grid> grids_;
  std::vector<int> grid_at_;  // of each piece, the grid that it is in; -1 for none
  std::vector<OrderedLine> lines_;
  bool begins_ = true;
  std::optional<Row> last_;  // of the flow
};

double Ordering::usual_size(const Places& region) const {
  std::map<float, std::size_t> letters;
  for (const std::size_t at : region) letters[pieces_[at].size] += pieces_[at].letter_count;
  const auto most =
      std::max_element(letters.begin(), letters.end(),
                       [](const auto& a, const auto& b) { return a.second < b.second; });
  return most == letters.end() ? 0 : most->first;
}

std::vector<Row> Ordering::rows_of(Places region) const {
  constexpr double kSameRow = 0.4;  // of the smaller font size
  std::stable_sort(region.begin(), region.end(),
                   [&](std::size_t a, std::size_t b) { return pieces_[a].base < pieces_[b].base; });
  std::vector<Row> rows;
  float size = 0;
  for (const std::size_t at : region) {
    const Piece& piece = pieces_[at];
    if (rows.empty() || piece.base - rows.back().base > kSameRow * std::min(size, piece.size)) {
      rows.push_back({{}, piece.base, piece.top, piece.bottom});
      size = piece.size;
    }
    Row& row = rows.back();
    row.pieces.push_back(at);
    row.top = std::min(row.top, piece.top);
    row.bottom = std::max(row.bottom, piece.bottom);
  }
  for (Row& row : rows)
    std::stable_sort(row.pieces.begin(), row.pieces.end(), [&](std::size_t a, std::size_t b) {
      return pieces_[a].begin < pieces_[b].begin;
    });
  return rows;
}

// Whether what stands on both sides of a strip stands beside each other, and not above.
bool Ordering::are_beside(const std::vector<Row>& rows, const Band& band,
                          const Stretch& strip) const {
  constexpr float kSlack = 0.01F;       // points
  constexpr std::size_t kTogether = 2;  // rows with pieces on both sides
  constexpr std::size_t kEach = 3;      // rows of either side
  std::size_t lefts = 0;
  std::size_t rights = 0;
  std::size_t both = 0;
  Stretch left{rows[band.end - 1].base, rows[band.first].base};
  Stretch right = left;
  for (std::size_t r = band.first; r < band.end; ++r) {
    // A row's pieces are sorted.
    const bool has_left = taken_by(rows[r].pieces.front()).end <= strip.begin + kSlack;
    const bool has_right = taken_by(rows[r].pieces.back()).begin >= strip.end - kSlack;
    lefts += has_left ? 1 : 0;
    rights += has_right ? 1 : 0;
    both += has_left && has_right ? 1 : 0;
    for (auto [has, side] : {std::pair(has_left, &left), std::pair(has_right, &right)}) {
      if (!has) continue;
      side->begin = std::min(side->begin, rows[r].base);
      side->end = std::max(side->end, rows[r].base);
    }
  }
  if (both >= kTogether) return true;
  const double shared = std::min(left.end, right.end) - std::max(left.begin, right.begin);
  return lefts >= kEach && rights >= kEach &&
         shared >= 0.5 * std::min(left.end - left.begin, right.end - right.begin);
}

// Whether so much lies between two rows that what is below is something else.
bool are_far(const Row& upper, const Row& lower, double strip) {
  constexpr double kFar = 2.5;  // times the least strip
  return lower.top - upper.bottom > kFar * strip;
}

// Whether what stands above columns is a head of several of them, and no text above a table: that
// would begin where the first one does.
bool Ordering::heads_columns(const Row& row, const std::vector<Stretch>& strips) const {
  constexpr std::size_t kFewest = 2;  // strips, of which one is not crossed
  if (strips.size() < kFewest) return false;
  std::size_t crossed = 0;
  bool begins_first = false;
  for (const std::size_t at : row.pieces) {
    if (grid_at_[at] >= 0) return false;
    const auto [column, count] = columns_of(pieces_[at], strips);
    crossed += count - 1;
    begins_first = begins_first || (column == 0 && count > 1);
  }
  return crossed < strips.size() && !begins_first;
}

// The rows around two that have a free strip, as far as one goes on.
std::optional<Band> Ordering::band_at(const std::vector<Row>& rows, std::size_t seed,
                                      std::size_t after, double least) const {
  Taken taken;
  const auto with = [&](const Row& row) {
    Taken more = taken;
    for (const std::size_t at : row.pieces) more.add(taken_by(at));
    return more;
  };
  const double height = (rows[seed].top + rows[seed].bottom) / 2;
  Band band{seed, seed, {}};
  // With the rows of the band, and one more.
  const auto strips_of = [&](const Taken& all, std::size_t row) {
    return all.strips(least, lines_drawn_, height, rows[std::min(row, band.first)].top,
                      rows[std::max(row, band.end > seed ? band.end - 1 : seed)].bottom);
  };
  for (; band.end < rows.size() && goes_on(); ++band.end) {
    if (band.end > seed && are_far(rows[band.end - 1], rows[band.end], least)) break;
    Taken more = with(rows[band.end]);
    if (band.end > seed && strips_of(more, band.end).empty()) break;
    taken = std::move(more);
  }
  if (strips_of(taken, seed).empty()) return std::nullopt;
  std::size_t heads = 0;  // rows with cells over several columns
  while (band.first > after && goes_on()) {
    if (are_far(rows[band.first - 1], rows[band.first], least)) break;
    Taken more = with(rows[band.first - 1]);
    const std::vector<Stretch> strips = strips_of(taken, seed);
    if (strips_of(more, band.first - 1).size() >= strips.size())
      taken = std::move(more);
    else if (heads_columns(rows[band.first - 1], strips))
      ++heads;
    else
      break;
    --band.first;
  }
  for (const Stretch& strip : mostly_free(rows, band, heads, height, least))
    if (are_beside(rows, band, strip)) band.strips.push_back(strip);
  if (band.strips.empty()) return std::nullopt;
  return band;
}

// The strips that are free in all rows of a band but a few, which have cells of several columns.
std::vector<Stretch> Ordering::mostly_free(const std::vector<Row>& rows, const Band& band,
                                           std::size_t heads, double height, double least) const {
  constexpr std::size_t kFewest = 4;  // rows for one that may be crossed
  const std::size_t spare = std::max(heads, (band.end - band.first) / kFewest);
  struct Edge {
    float at;
    int step;
  };
  std::vector<Edge> edges;
  float from = std::numeric_limits<float>::max();
  float to = std::numeric_limits<float>::lowest();
  for (std::size_t r = band.first; r < band.end; ++r) {
    Taken taken;
    for (const std::size_t at : rows[r].pieces) taken.add(taken_by(at));
    for (const Stretch& stretch : taken.stretches()) {
      edges.push_back({stretch.begin, 1});
      edges.push_back({stretch.end, -1});
      from = std::min(from, stretch.begin);
      to = std::max(to, stretch.end);
    }
  }
  std::sort(edges.begin(), edges.end(), [](const Edge& a, const Edge& b) {
    return a.at != b.at ? a.at < b.at : a.step > b.step;
  });
  Taken covered;
  std::size_t depth = 0;
  float begin = from;
  for (const Edge& edge : edges) {
    const bool was_covered = depth > spare;
    depth += static_cast<std::size_t>(edge.step);
    const bool is_covered = depth > spare;
    if (!was_covered && is_covered) begin = edge.at;
    if (was_covered && !is_covered) covered.add({begin, edge.at});
  }
  return covered.strips(least, lines_drawn_, height, rows[band.first].top,
                        rows[band.end - 1].bottom);
}

// Whether a band is read column by column. Lines that fill their columns are prose. Otherwise it is
// told by how it was drawn: down a column, or along a row.
bool Ordering::are_columns(const std::vector<Row>& rows, const Band& band) const {
  struct Place {
    std::size_t drawn;
    std::size_t row;
    std::size_t column;
  };
  std::vector<Place> places;
  std::vector<float> widths(band.strips.size() + 1);
  for (std::size_t r = band.first; r < band.end; ++r)
    for (const std::size_t at : rows[r].pieces) {
      const std::size_t column = column_of(pieces_[at], band.strips);
      places.push_back({pieces_[at].drawn, r, column});
      widths[column] = std::max(widths[column], pieces_[at].width());
    }
  constexpr std::size_t kLong = 22;  // letters of a line of prose
  constexpr double kFull = 0.7;      // of its column
  std::size_t full = 0;
  for (std::size_t r = band.first; r < band.end; ++r)
    for (const std::size_t at : rows[r].pieces)
      full += pieces_[at].letter_count >= kLong &&
                      pieces_[at].width() > kFull * widths[column_of(pieces_[at], band.strips)]
                  ? 1
                  : 0;
  if (2 * full > places.size()) return true;
  std::sort(places.begin(), places.end(),
            [](const Place& a, const Place& b) { return a.drawn < b.drawn; });
  std::size_t down = 0;
  std::size_t across = 0;
  for (std::size_t i = 1; i < places.size(); ++i) {
    const Place& before = places[i - 1];
    const Place& now = places[i];
    down += now.row > before.row && now.column == before.column ? 1 : 0;
    across += now.row == before.row && now.column > before.column ? 1 : 0;
  }
  return down > 2 * across;
}

// What stands above and below a table in line with one of its columns is not of it.
Band Ordering::without_single_cells(const std::vector<Row>& rows, Band band) const {
  const auto has_several = [&](const Row& row) {
    return std::any_of(row.pieces.begin(), row.pieces.end(), [&](std::size_t at) {
      const auto [column, count] = columns_of(pieces_[at], band.strips);
      return (column > 0 && count > 1) ||
             column != columns_of(pieces_[row.pieces.front()], band.strips).first;
    });
  };
  while (band.first + 1 < band.end && !has_several(rows[band.first])) ++band.first;
  while (band.end > band.first + 1 && !has_several(rows[band.end - 1])) --band.end;
  return band;
}

// Where lines are drawn from one column of a band to the next, all of them.
std::vector<double> Ordering::cuts_of(const std::vector<Row>& rows, const Band& band) const {
  std::vector<double> cuts;
  const double top = rows[band.first].top;
  const double bottom = rows[band.end - 1].bottom;
  auto line = std::lower_bound(lines_drawn_.along.begin(), lines_drawn_.along.end(), top,
                               [](const DrawnLine& known, double at) { return known.at < at; });
  for (; line != lines_drawn_.along.end() && line->at < bottom; ++line)
    if (line->begin <= band.strips.front().begin && line->end >= band.strips.back().end)
      cuts.push_back(line->at);
  return cuts;
}

// What lies between two such lines is read before what lies below them: a row of a table, or
// columns that end there.
void Ordering::put_parts(const std::vector<Row>& rows, const Band& band,
                         const std::vector<double>& cuts, int depth) {
  constexpr std::size_t kMostLines = 8;  // of a row, on the whole
  const bool is_table = band.end - band.first <= kMostLines * (cuts.size() + 1);
  // A line right under letters is below them.
  constexpr float kUnder = 1;  // points
  const auto place_of = [&](const Row& row) {
    return std::lower_bound(cuts.begin(), cuts.end(), row.base - kUnder) - cuts.begin();
  };
  std::size_t parts = 1;  // with text
  for (std::size_t r = band.first + 1; r < band.end; ++r)
    parts += place_of(rows[r]) != place_of(rows[r - 1]) ? 1 : 0;
  begin_block();
  for (std::size_t r = band.first; r < band.end;) {
    Band part{r, r, band.strips};
    while (part.end < band.end && place_of(rows[part.end]) == place_of(rows[r])) ++part.end;
    if (!is_table) {
      put_columns(rows, part, depth);
    } else {
      const bool is_one = are_lines_of_cells(rows, part, parts);
      for (std::size_t k = r; k < part.end; ++k) {
        if (k == r || !is_one) begin_row(band.strips.size() + 1);
        put_cells(rows[k], band);
      }
    }
    r = part.end;
  }
  begin_block();
}

void Ordering::put_columns(const std::vector<Row>& rows, const Band& band, int depth) {
  std::vector<Places> columns(band.strips.size() + 1);
  for (std::size_t r = band.first; r < band.end; ++r)
    for (const std::size_t at : rows[r].pieces)
      columns[column_of(pieces_[at], band.strips)].push_back(at);
  for (Places& column : columns) {
    begin_block();
    order(std::move(column), depth + 1);
  }
  begin_block();
}

// Rows of pieces become one row of the table where what was drawn goes back from the lower to
// another cell of the upper.
void Ordering::put_table(const std::vector<Row>& rows, const Band& band) {
  struct Place {
    std::size_t drawn;
    std::size_t row;
    std::size_t column;
  };
  std::vector<Place> places;
  for (std::size_t r = band.first; r < band.end; ++r)
    for (const std::size_t at : rows[r].pieces)
      places.push_back({pieces_[at].drawn, r, column_of(pieces_[at], band.strips)});
  std::sort(places.begin(), places.end(),
            [](const Place& a, const Place& b) { return a.drawn < b.drawn; });
  constexpr std::size_t kMostLines = 12;  // of a cell that is gone back from
  std::vector<bool> joins(rows.size());   // each row, whether it belongs to the one above
  for (std::size_t i = 1; i < places.size(); ++i) {
    const Place& before = places[i - 1];
    const Place& now = places[i];
    if (now.column <= before.column || now.row >= before.row || before.row - now.row > kMostLines)
      continue;
    for (std::size_t r = now.row + 1; r <= before.row; ++r) joins[r] = true;
  }
  begin_block();
  for (std::size_t r = band.first; r < band.end; ++r) {
    if (r == band.first || !joins[r]) begin_row(band.strips.size() + 1);
    put_cells(rows[r], band);
  }
  begin_block();
}

void Ordering::begin_row(std::size_t columns) {
  OrderedLine line;
  line.cells.resize(columns);
  line.spans.assign(columns, 1);
  line.is_row = true;
  line.begins_block = begins_;
  lines_.push_back(std::move(line));
  begins_ = false;
}

// Puts what stands on one line into the cells of the last row.
void Ordering::put_cells(const Row& row, const Band& band) {
  OrderedLine& line = lines_.back();
  for (const std::size_t at : row.pieces) {
    const auto [column, count] = columns_of(pieces_[at], band.strips);
    line.cells[column].push_back(at);
    line.spans[column] = std::max(line.spans[column], count);
  }
}

// Whether rows between two drawn lines are the lines of cells, and not rows of a table that has
// lines around its head and its end only: those fill the same columns all the way down.
bool Ordering::are_lines_of_cells(const std::vector<Row>& rows, const Band& part,
                                  std::size_t parts) const {
  const std::size_t count = part.end - part.first;
  constexpr std::size_t kManyRows = 3;
  if (count == 1 || (count < kManyRows && parts > 2)) return true;
  std::size_t filled = 0;
  for (std::size_t r = part.first; r < part.end; ++r) {
    std::vector<bool> columns(part.strips.size() + 1);
    for (const std::size_t at : rows[r].pieces) columns[column_of(pieces_[at], part.strips)] = true;
    const auto here = static_cast<std::size_t>(std::count(columns.begin(), columns.end(), true));
    if (here < 2 || !columns.front()) return true;
    filled += here;
  }
  return 4 * filled < 3 * count * (part.strips.size() + 1);
}

// A table whose cells are drawn. Where all cells of a row have the same lines they are rows.
void Ordering::put_grid(const Grid& grid) {
  begin_block();
  const auto put_row = [&](const std::vector<const GridCell*>& cells, const Row* only) {
    const bool begins = begins_;
    begin_row(grid.columns);
    OrderedLine& line = lines_.back();
    bool is_empty = true;
    for (const GridCell* cell : cells) {
      const std::size_t column =
          from_right_ ? grid.columns - cell->column - cell->columns : cell->column;
      line.spans[column] = cell->columns;
      for (const Row& inner : rows_of(cell->pieces))
        for (const std::size_t at : inner.pieces) {
          if (only != nullptr && std::count(only->pieces.begin(), only->pieces.end(), at) == 0)
            continue;
          line.cells[column].push_back(at);
          is_empty = false;
        }
    }
    if (!is_empty) return;
    begins_ = begins;
    lines_.pop_back();
  };
  for (std::size_t row = 0; row < grid.rows; ++row) {
    std::vector<const GridCell*> cells;
    Places all;
    bool is_simple = true;  // all cells are filled, and end in this row
    for (const GridCell& cell : grid.cells) {
      if (cell.row != row) continue;
      cells.push_back(&cell);
      all.insert(all.end(), cell.pieces.begin(), cell.pieces.end());
      is_simple = is_simple && !cell.pieces.empty() && cell.rows == 1;
    }
    const std::vector<Row> lines = rows_of(all);
    constexpr std::size_t kManyRows = 3;
    const bool may_be_rows = is_simple && cells.size() > 1 &&
                             (lines.size() >= kManyRows || (lines.size() == 2 && grid.rows == 2));
    const bool are_rows =
        may_be_rows && std::all_of(cells.begin(), cells.end(), [&](const GridCell* cell) {
          return rows_of(cell->pieces).size() == lines.size();
        });
    if (!are_rows) put_row(cells, nullptr);
    for (std::size_t i = 0; are_rows && i < lines.size(); ++i) put_row(cells, &lines[i]);
  }
  begin_block();
}

// A line of a paragraph, or of the next one.
void Ordering::put_flow(const Row& row) {
  constexpr double kPitch = 1.55;  // of the font size, from which on paragraphs are apart
  constexpr double kOtherSize = 1.12;
  if (last_) {
    const Piece& above = pieces_[last_->pieces.front()];
    const Piece& below = pieces_[row.pieces.front()];
    const float larger = std::max(above.size, below.size);
    if (row.base - last_->base > kPitch * larger || row.base < last_->base ||
        larger > kOtherSize * std::min(above.size, below.size))
      begins_ = true;
  }
  lines_.push_back({{row.pieces}, {}, false, begins_});
  begins_ = false;
  last_ = row;
}

bool Ordering::put_grids(Row& row) {
  Places rest;
  for (const std::size_t at : row.pieces) {
    if (grid_at_[at] < 0) {
      rest.push_back(at);
      continue;
    }
    Grid& grid = grids_[static_cast<std::size_t>(grid_at_[at])];
    if (grid.cells.empty()) continue;
    put_grid(grid);
    grid.cells.clear();
    last_.reset();
  }
  row.pieces = std::move(rest);
  return !row.pieces.empty();
}

void Ordering::order(Places region, int depth) {
  constexpr int kDeepest = 12;
  const double least = kStrip * usual_size(region);
  std::vector<Row> rows = rows_of(std::move(region));
  last_.reset();
  std::size_t done = 0;
  const auto put_until = [&](std::size_t end) {
    for (; done < end; ++done)
      if (put_grids(rows[done])) put_flow(rows[done]);
  };
  for (std::size_t r = 0; r < rows.size() && goes_on(); ++r) {
    std::optional<Band> band = band_at(rows, r, done, least);
    if (!band || depth > kDeepest) continue;
    put_until(band->first);
    if (has_grid(rows, *band)) {
      put_columns(rows, *band, depth);
    } else if (const std::vector<double> cuts = cuts_of(rows, *band); cuts.size() > 1) {
      const Band inner = without_single_cells(rows, *band);
      while (band->first < inner.first && rows[band->first].base < cuts.front())
        put_until(++band->first);
      while (band->end > inner.end && rows[band->end - 1].base > cuts.back()) --band->end;
      put_parts(rows, *band, cuts, depth);
    } else if (are_columns(rows, *band)) {
      put_columns(rows, *band, depth);
    } else {
      const Band table = without_single_cells(rows, *band);
      put_until(table.first);
      put_table(rows, table);
      band->end = table.end;
    }
    last_.reset();
    done = band->end;
    r = done - 1;
  }
  put_until(rows.size());
}

}  // namespace

std::vector<OrderedLine> reading_order(const std::vector<Piece>& pieces, const DrawnLines& lines,
                                       bool from_right) {
  return Ordering(pieces, lines, from_right).take();
}

}  // namespace lumvet::text
