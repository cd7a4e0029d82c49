// SPDX-License-Identifier: Apache-2.0
#include "text/reading_order.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numeric>
#include <optional>

#include "base/allowance.h"

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
  // Those that are wide enough, or in which a line is drawn at that height.
  std::vector<Stretch> strips(double least, const DrawnLines& lines, double height) const {
    std::vector<Stretch> found;
    for (std::size_t i = 1; i < stretches_.size(); ++i) {
      const Stretch strip{stretches_[i - 1].end, stretches_[i].begin};
      if (strip.end - strip.begin >= least || lines.part(strip.begin, strip.end, height))
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
      : pieces_(pieces), lines_drawn_(lines), from_right_(from_right) {}

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
  bool are_beside(const std::vector<Row>& rows, const Band& band, const Stretch& strip) const;
  bool are_columns(const std::vector<Row>& rows, const Band& band) const;
  Band without_single_cells(const std::vector<Row>& rows, Band band) const;
  std::vector<double> cuts_of(const std::vector<Row>& rows, const Band& band) const;
  void put_parts(const std::vector<Row>& rows, const Band& band, const std::vector<double>& cuts,
                 int depth);
  void put_columns(const std::vector<Row>& rows, const Band& band, int depth);
  void put_table(const std::vector<Row>& rows, const Band& band);
  void put_flow(const Row& row);
  void begin_block() { begins_ = true; }
  // In the order of reading.
  std::size_t column_of(const Piece& piece, const std::vector<Stretch>& strips) const {
    const double middle = (piece.begin + piece.end) / 2;
    const auto column = static_cast<std::size_t>(
        std::lower_bound(strips.begin(), strips.end(), middle,
                         [](const Stretch& strip, double at) { return strip.begin < at; }) -
        strips.begin());
    return from_right_ ? strips.size() - column : column;
  }

  const std::vector<Piece>& pieces_;
  const DrawnLines& lines_drawn_;
  bool from_right_;
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
  constexpr std::size_t kTogether = 2;  // rows with pieces on both sides
  constexpr std::size_t kEach = 3;      // rows of either side
  std::size_t lefts = 0;
  std::size_t rights = 0;
  std::size_t both = 0;
  Stretch left{rows[band.end - 1].base, rows[band.first].base};
  Stretch right = left;
  for (std::size_t r = band.first; r < band.end; ++r) {
    // Each piece is on one side of the strip, and a row's are sorted.
    const bool has_left = pieces_[rows[r].pieces.front()].end <= strip.begin;
    const bool has_right = pieces_[rows[r].pieces.back()].begin >= strip.end;
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

// The rows around two that have a free strip, as far as one goes on.
std::optional<Band> Ordering::band_at(const std::vector<Row>& rows, std::size_t seed,
                                      std::size_t after, double least) const {
  Taken taken;
  const auto with = [&](const Row& row) {
    Taken more = taken;
    for (const std::size_t at : row.pieces) more.add({pieces_[at].begin, pieces_[at].end});
    return more;
  };
  const double height = (rows[seed].top + rows[seed].bottom) / 2;
  const auto strips_of = [&](const Taken& all) { return all.strips(least, lines_drawn_, height); };
  Band band{seed, seed, {}};
  for (; band.end < rows.size() && goes_on(); ++band.end) {
    if (band.end > seed && are_far(rows[band.end - 1], rows[band.end], least)) break;
    Taken more = with(rows[band.end]);
    if (band.end > seed && strips_of(more).empty()) break;
    taken = std::move(more);
  }
  if (strips_of(taken).empty()) return std::nullopt;
  while (band.first > after && goes_on()) {
    if (are_far(rows[band.first - 1], rows[band.first], least)) break;
    Taken more = with(rows[band.first - 1]);
    if (strips_of(more).size() < strips_of(taken).size()) break;
    taken = std::move(more);
    --band.first;
  }
  for (const Stretch& strip : strips_of(taken))
    if (are_beside(rows, band, strip)) band.strips.push_back(strip);
  if (band.strips.empty()) return std::nullopt;
  return band;
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
      return column_of(pieces_[at], band.strips) !=
             column_of(pieces_[row.pieces.front()], band.strips);
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
  begin_block();
  for (std::size_t r = band.first; r < band.end;) {
    Band part{r, r, band.strips};
    while (part.end < band.end && place_of(rows[part.end]) == place_of(rows[r])) ++part.end;
    if (!is_table) {
      put_columns(rows, part, depth);
    } else {
      lines_.push_back({std::vector<Places>(band.strips.size() + 1), true, begins_});
      begins_ = false;
      for (; r < part.end; ++r)
        for (const std::size_t at : rows[r].pieces)
          lines_.back().cells[column_of(pieces_[at], band.strips)].push_back(at);
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
    if (r == band.first || !joins[r]) {
      lines_.push_back({std::vector<Places>(band.strips.size() + 1), true, begins_});
      begins_ = false;
    }
    for (const std::size_t at : rows[r].pieces)
      lines_.back().cells[column_of(pieces_[at], band.strips)].push_back(at);
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
  lines_.push_back({{row.pieces}, false, begins_});
  begins_ = false;
  last_ = row;
}

void Ordering::order(Places region, int depth) {
  constexpr int kDeepest = 12;
  const double least = kStrip * usual_size(region);
  const std::vector<Row> rows = rows_of(std::move(region));
  last_.reset();
  std::size_t done = 0;
  for (std::size_t r = 0; r < rows.size() && goes_on(); ++r) {
    std::optional<Band> band = band_at(rows, r, done, least);
    if (!band || depth > kDeepest) continue;
    for (; done < band->first; ++done) put_flow(rows[done]);
    if (const std::vector<double> cuts = cuts_of(rows, *band); cuts.size() > 1) {
      const Band inner = without_single_cells(rows, *band);
      while (band->first < inner.first && rows[band->first].base < cuts.front())
        put_flow(rows[band->first++]);
      while (band->end > inner.end && rows[band->end - 1].base > cuts.back()) --band->end;
      put_parts(rows, *band, cuts, depth);
    } else if (are_columns(rows, *band)) {
      put_columns(rows, *band, depth);
    } else {
      const Band table = without_single_cells(rows, *band);
      for (; done < table.first; ++done) put_flow(rows[done]);
      put_table(rows, table);
      band->end = table.end;
    }
    last_.reset();
    done = band->end;
    r = done - 1;
  }
  for (; done < rows.size(); ++done) put_flow(rows[done]);
}

}  // namespace

std::vector<OrderedLine> reading_order(const std::vector<Piece>& pieces, const DrawnLines& lines,
                                       bool from_right) {
  return Ordering(pieces, lines, from_right).take();
}

}  // namespace lumvet::text
