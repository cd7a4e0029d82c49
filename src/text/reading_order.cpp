// SPDX-License-Identifier: Apache-2.0
#include "text/reading_order.h"

#include <algorithm>
#include <cmath>
#include <numeric>
#include <optional>

#include "base/allowance.h"
#include "text/bands.h"
#include "text/line_pitch.h"

namespace lumvet::text {
namespace {

class Ordering {
 public:
  Ordering(const std::vector<Piece>& pieces, const std::vector<Letter>& letters,
           const DrawnLines& lines, bool from_right)
      : pieces_(pieces),
        letters_(letters),
        from_right_(from_right),
        bands_(pieces, lines, from_right),
        is_put_(bands_.grids().size()) {}

  std::vector<OrderedLine> take() {
    Places all(pieces_.size());
    std::iota(all.begin(), all.end(), std::size_t{0});
    order(std::move(all), 0);
    return std::move(lines_);
  }

 private:
  static constexpr double kStrip = 0.8;  // of the font size, at least, between columns

  void order(Places region, int depth);
  bool goes_on_below(const std::vector<Row>& rows, std::size_t row) const;
  std::optional<Band> columns_at(const std::vector<Row>& rows, std::size_t seed, std::size_t after,
                                 double least) const;
  void put_parts(const std::vector<Row>& rows, const Band& band, const std::vector<double>& cuts,
                 bool is_table, int depth);
  void put_columns(const std::vector<Row>& rows, const Band& band, int depth);
  void put_above(const std::vector<Row>& rows, std::size_t first, std::size_t end, int depth);
  void put_rows(const std::vector<Row>& rows, const Band& band);
  void put_table(const std::vector<Row>& rows, const Band& band);
  void begin_row(std::size_t columns);
  void put_cells(const Row& row, const Band& band);
  // Whether what lies between so many drawn lines is rows of a table, by how much that is.
  static bool are_rows_of_cells(const Band& band, std::size_t cuts) {
    constexpr std::size_t kMostLines = 8;  // of a row, on the whole
    return band.end - band.first <= kMostLines * (cuts + 1);
  }
  bool are_lines_of_cells(const std::vector<Row>& rows, const Band& part, std::size_t parts) const;
  void put_grid(const Grid& grid);
  // Puts the grids of a row that are not there yet, and says whether there is anything else in it.
  bool put_grids(Row& row);
  bool has_moved(const Piece& piece, float down) const;
  void put_flow(const Row& row);
  void begin_block() { begins_ = true; }

  const std::vector<Piece>& pieces_;
  const std::vector<Letter>& letters_;
  bool from_right_;
  Bands bands_;
  std::vector<bool> is_put_;  // of each grid
  std::vector<OrderedLine> lines_;
  bool begins_ = true;
  float pitch_ = 0;          // of the region that is being put
  std::optional<Row> last_;  // of the flow
};

// What lies between two such lines is read before what lies below them: a row of a table, or
// columns that end there.
void Ordering::put_parts(const std::vector<Row>& rows, const Band& band,
                         const std::vector<double>& cuts, bool is_table, int depth) {
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
      if (are_lines_of_cells(rows, part, parts)) {
        begin_row(band.strips.size() + 1);
        for (std::size_t k = r; k < part.end; ++k) put_cells(rows[k], band);
      } else {
        put_rows(rows, part);
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
      columns[bands_.column_of(pieces_[at], band.strips)].push_back(at);
  for (Places& column : columns) {
    begin_block();
    order(std::move(column), depth + 1);
  }
  begin_block();
}

// Rows of pieces become one row of the table where what was drawn goes back from the lower to
// another cell of the upper.
void Ordering::put_rows(const std::vector<Row>& rows, const Band& band) {
  const std::vector<DrawnPlace> places = bands_.drawn_places(rows, band);
  constexpr std::size_t kMostLines = 12;  // of a cell that is gone back from
  const bool is_by_columns =
      std::is_sorted(places.begin(), places.end(),
                     [](const DrawnPlace& a, const DrawnPlace& b) { return a.column < b.column; });
  std::vector<bool> joins(rows.size());  // each row, whether it belongs to the one above
  for (std::size_t i = 1; i < places.size() && !is_by_columns; ++i) {
    const DrawnPlace& before = places[i - 1];
    const DrawnPlace& now = places[i];
    if (now.column <= before.column || now.row >= before.row || before.row - now.row > kMostLines)
      continue;
    for (std::size_t r = now.row + 1; r <= before.row; ++r) joins[r] = true;
  }
  Places all;
  for (const DrawnPlace& place : places) all.push_back(place.piece);
  const double usual = bands_.usual_size(all);
  bool is_open = false;  // a row that the next one may belong to
  for (std::size_t r = band.first; r < band.end; ++r) {
    if (bands_.is_heading(rows[r], usual)) {
      begin_block();
      put_flow(rows[r]);
      begin_block();
      is_open = false;
      continue;
    }
    if (!is_open || !joins[r]) begin_row(band.strips.size() + 1);
    is_open = true;
    put_cells(rows[r], band);
  }
}

void Ordering::put_table(const std::vector<Row>& rows, const Band& band) {
  begin_block();
  put_rows(rows, band);
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
    const auto [column, count] = bands_.columns_of(pieces_[at], band.strips);
    line.cells[column].push_back(at);
    line.spans[column] = std::max(line.spans[column], count);
  }
}

// Whether rows between two drawn lines are the lines of cells, and not rows of a table that has
// lines around its head and its end only: those fill the same columns all the way down.
bool Ordering::are_lines_of_cells(const std::vector<Row>& rows, const Band& part,
                                  std::size_t parts) const {
  const std::size_t count = part.end - part.first;
  constexpr std::size_t kManyRows = 5;
  if (count == 1 || parts > 3 || (parts == 3 && count < kManyRows)) return true;
  std::size_t filled = 0;  // cells, in rows that begin in the first column or were drawn at once
  std::size_t rows_of_cells = 0;
  for (std::size_t r = part.first; r < part.end; ++r) {
    std::vector<bool> columns(part.strips.size() + 1);
    bool is_at_once = true;
    for (std::size_t i = 0; i < rows[r].pieces.size(); ++i) {
      const Piece& piece = pieces_[rows[r].pieces[i]];
      columns[bands_.column_of(piece, part.strips)] = true;
      is_at_once = is_at_once && piece.drawn == pieces_[rows[r].pieces.front()].drawn + i;
    }
    const auto here = static_cast<std::size_t>(std::count(columns.begin(), columns.end(), true));
    if (here < 2 || !(columns.front() || is_at_once)) continue;
    ++rows_of_cells;
    filled += here;
  }
  // Some cells have more lines than the first.
  return 5 * rows_of_cells < 3 * count || 4 * filled < 3 * rows_of_cells * (part.strips.size() + 1);
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
      for (const Row& inner : bands_.rows_of(cell->pieces))
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
    const std::vector<Row> lines = bands_.rows_of(all);
    constexpr std::size_t kManyRows = 3;
    const bool may_be_rows = is_simple && cells.size() > 1 &&
                             (lines.size() >= kManyRows || (lines.size() == 2 && grid.rows == 2));
    const bool are_rows =
        may_be_rows && std::all_of(cells.begin(), cells.end(), [&](const GridCell* cell) {
          return bands_.rows_of(cell->pieces).size() == lines.size();
        });
    if (!are_rows) put_row(cells, nullptr);
    for (std::size_t i = 0; are_rows && i < lines.size(); ++i) put_row(cells, &lines[i]);
  }
  begin_block();
}

// Whether smaller letters of a piece stand above its line (-1) or below it (1), which moves lines
// apart.
bool Ordering::has_moved(const Piece& piece, float down) const {
  constexpr float kSmaller = 0.9F;  // of its size
  constexpr float kMoved = 0.1F;
  return std::any_of(piece.letters.begin(), piece.letters.end(), [&](std::uint32_t at) {
    const Letter& letter = letters_[at];
    return letter.size < kSmaller * piece.size &&
           (letter.base - piece.base) * down > kMoved * piece.size;
  });
}

// A line of a paragraph, or of the next one.
void Ordering::put_flow(const Row& row) {
  constexpr float kMore = 1.28F;  // times the pitch of lines
  if (last_) {
    const Piece& above = pieces_[last_->pieces.front()];
    const Piece& below = pieces_[row.pieces.front()];
    const float larger = std::max(above.size, below.size);
    const float pitch = (row.base - last_->base) / larger;
    // Lines that are wide apart, or were moved apart by raised or lowered letters.
    const auto may_be_more = [&] {
      return pitch <= kMore * pitch_ &&
             (pitch_ > kUsualPitch || has_moved(below, -1) || has_moved(above, 1));
    };
    if ((pitch > kUsualPitch && !may_be_more()) || row.base < last_->base ||
        larger > kHeading * std::min(above.size, below.size))
      begins_ = true;
  }
  lines_.push_back({{row.pieces}, {}, false, begins_});
  begins_ = false;
  last_ = row;
}

bool Ordering::put_grids(Row& row) {
  Places rest;
  for (const std::size_t at : row.pieces) {
    const int number = bands_.grid_at(at);
    if (number < 0) {
      rest.push_back(at);
      continue;
    }
    const auto grid = static_cast<std::size_t>(number);
    if (is_put_[grid]) continue;
    is_put_[grid] = true;
    put_grid(bands_.grids()[grid]);
    last_.reset();
  }
  row.pieces = std::move(rest);
  return !row.pieces.empty();
}

// Whether the only piece of a row has the next line of its paragraph right below it.
bool Ordering::goes_on_below(const std::vector<Row>& rows, std::size_t row) const {
  constexpr float kLine = 1.35F;  // of the font size, from line to line
  const Piece& piece = pieces_[rows[row].pieces.front()];
  for (std::size_t r = row + 1; r < rows.size(); ++r) {
    if (rows[r].base - piece.base > kLine * piece.size) return false;
    for (const std::size_t at : rows[r].pieces)
      if (pieces_[at].begin < piece.end && pieces_[at].end > piece.begin) return true;
  }
  return false;
}

// Lines above columns may stand where they cut them short; then they begin below those.
std::optional<Band> Ordering::columns_at(const std::vector<Row>& rows, std::size_t seed,
                                         std::size_t after, double least) const {
  constexpr std::size_t kMostLines = 3;
  constexpr std::size_t kMore = 2;  // rows that are gained
  std::optional<Band> band = bands_.band_at(rows, seed, after, least, Bands::For::columns);
  if (!band || band->first != seed || band->end == rows.size()) return band;
  for (std::size_t line = seed; line < std::min(seed + kMostLines, band->end); ++line) {
    if (rows[line].pieces.size() != 1 || goes_on_below(rows, line)) break;
    std::optional<Band> below =
        bands_.band_at(rows, line + 1, line + 1, least, Bands::For::columns);
    if (below && below->end >= band->end + kMore) return below;
  }
  return band;
}

// What stands above a table and its heading, with the heading, as a region of its own.
void Ordering::put_above(const std::vector<Row>& rows, std::size_t first, std::size_t end,
                         int depth) {
  Places above;
  for (std::size_t r = first; r < end; ++r)
    above.insert(above.end(), rows[r].pieces.begin(), rows[r].pieces.end());
  order(std::move(above), depth + 1);
  begin_block();
  last_.reset();
}

void Ordering::order(Places region, int depth) {
  constexpr int kDeepest = 12;
  const double least = kStrip * bands_.usual_size(region);
  std::vector<Row> rows = bands_.rows_of(std::move(region));
  const float pitch = line_pitch(rows, pieces_, letters_);
  last_.reset();
  std::size_t done = 0;
  const auto put_until = [&](std::size_t end) {
    pitch_ = pitch;
    while (done < end) {
      Row row = bands_.row_in_steps(rows, done, end);
      ++done;
      if (put_grids(row)) put_flow(row);
    }
  };
  for (std::size_t r = 0; r < rows.size() && goes_on() && depth <= kDeepest; ++r) {
    std::optional<Band> band = columns_at(rows, r, done, least);
    std::vector<double> cuts = band ? bands_.cuts_of(rows, *band) : std::vector<double>();
    bool has_columns = band && (bands_.has_grid(rows, *band) ||
                                ((cuts.size() <= 1 || !are_rows_of_cells(*band, cuts.size())) &&
                                 bands_.are_columns(rows, *band)));
    if (band && !has_columns && cuts.size() <= 1) {
      Band parted = bands_.parted_by_drawing(rows, *band);
      has_columns = !parted.strips.empty();
      if (has_columns) band = std::move(parted);
    }
    if (has_columns) {
      band = bands_.without_text_below(rows, *band, least);
      put_until(band->first);
      if (!bands_.has_grid(rows, *band) && (cuts.size() > 1 || bands_.is_cut_wholly(rows, *band)))
        put_parts(rows, *band, bands_.cuts_of(rows, *band), false, depth);
      else
        put_columns(rows, *band, depth);
    } else {
      band = bands_.band_at(rows, r, done, least, Bands::For::table);
      if (!band || bands_.has_grid(rows, *band)) continue;
      const Band table = bands_.without_single_cells(rows, *band);
      if (cuts.size() > 1) cuts = bands_.cuts_of(rows, *band);
      if (cuts.size() > 1) {
        if (const std::size_t end = bands_.end_of_heading(rows, *band, cuts[1]); end > done) {
          put_above(rows, done, end, depth);
          done = end;
          r = done - 1;
          continue;
        }
        // What stands beyond the lines is no part of it.
        while (band->first < table.first && rows[band->first].base < cuts.front()) ++band->first;
        while (band->end > table.end && rows[band->end - 1].base > cuts.back()) --band->end;
        put_until(band->first);
        put_parts(rows, *band, cuts, true, depth);
      } else {
        put_until(table.first);
        put_table(rows, table);
        band->end = table.end;
      }
    }
    last_.reset();
    done = band->end;
    r = done - 1;
  }
  put_until(rows.size());
}

}  // namespace

std::vector<OrderedLine> reading_order(const std::vector<Piece>& pieces,
                                       const std::vector<Letter>& letters, const DrawnLines& lines,
                                       bool from_right) {
  return Ordering(pieces, letters, lines, from_right).take();
}

}  // namespace lumvet::text
