// SPDX-License-Identifier: Apache-2.0
#include "text/bands.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <map>
#include <tuple>

#include "base/allowance.h"

namespace lumvet::text {
namespace {

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

 private:
  std::vector<Stretch> stretches_;  // sorted, apart from each other
};

// Whether pieces, in the order in which they were drawn, go down cells of a few lines that stand
// beside each other, as the fields of a form do. One column may go on below, without any beside it.
bool are_cells(const std::vector<DrawnPlace>& places) {
  constexpr std::size_t kFewest = 4;
  constexpr std::size_t kLines = 3;  // of a cell, on the whole
  std::size_t cells = 0;
  std::size_t most = 0;     // lines of a cell
  std::size_t beside = 0;   // cells that follow one on their left
  std::size_t aligned = 0;  // of those, with one of its lines
  for (std::size_t begin = 0; begin < places.size(); ++cells) {
    std::size_t end = begin + 1;
    while (end < places.size() && places[end].column == places[begin].column &&
           places[end].row > places[end - 1].row)
      ++end;
    most = std::max(most, end - begin);
    if (end < places.size() && places[end].column > places[begin].column) {
      ++beside;
      const auto is_level = [&](const DrawnPlace& line) { return line.row == places[end].row; };
      const auto first = places.begin() + static_cast<std::ptrdiff_t>(begin);
      const auto last = places.begin() + static_cast<std::ptrdiff_t>(end);
      aligned += std::any_of(first, last, is_level) ? 1 : 0;
    }
    begin = end;
  }
  return cells > kFewest && 3 * aligned >= 2 * beside &&
         places.size() - most < kLines * (cells - 1);
}

// Whether so much lies between two rows that what is below is something else.
bool are_far(const Row& upper, const Row& lower, double strip) {
  constexpr double kFar = 2.5;  // times the least strip
  return lower.top - upper.bottom > kFar * strip;
}

}  // namespace

std::size_t Bands::column_at(double along, const std::vector<Stretch>& strips) const {
  const auto column = static_cast<std::size_t>(
      std::lower_bound(strips.begin(), strips.end(), along,
                       [](const Stretch& strip, double at) { return strip.begin < at; }) -
      strips.begin());
  return from_right_ ? strips.size() - column : column;
}

std::pair<std::size_t, std::size_t> Bands::columns_of(const Piece& piece,
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

std::size_t Bands::column_of(const Piece& piece, const std::vector<Stretch>& strips) const {
  const auto [first, count] = columns_of(piece, strips);
  return count == 1 ? first : column_at((piece.begin + piece.end) / 2, strips);
}

double Bands::usual_size(const Places& region) const {
  std::map<float, std::size_t> letters;
  for (const std::size_t at : region) letters[pieces_[at].size] += pieces_[at].letter_count;
  const auto most =
      std::max_element(letters.begin(), letters.end(),
                       [](const auto& a, const auto& b) { return a.second < b.second; });
  return most == letters.end() ? 0 : most->first;
}

std::vector<Row> Bands::rows_of(Places region) const {
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

// Whether a row stands beside the one above it: nearer than a line, with nothing above each other.
bool Bands::stands_beside(const Row& upper, const Row& lower) const {
  constexpr float kClose = 0.8F;  // of the font size, from one base to the next
  const auto is_close = [&](std::size_t at) {
    return grid_at_[at] < 0 && lower.base - upper.base <= kClose * pieces_[at].size;
  };
  const auto are_close = [&](const Row& row) {
    return std::all_of(row.pieces.begin(), row.pieces.end(), is_close);
  };
  if (!are_close(upper) || !are_close(lower)) return false;
  // Pieces of a row are sorted, and lie side by side.
  auto below = lower.pieces.begin();
  for (const std::size_t at : upper.pieces) {
    while (below != lower.pieces.end() && pieces_[*below].end <= pieces_[at].begin) ++below;
    if (below != lower.pieces.end() && pieces_[*below].begin < pieces_[at].end) return false;
  }
  return true;
}

Row Bands::row_in_steps(const std::vector<Row>& rows, std::size_t& row, std::size_t end) const {
  constexpr std::size_t kMost = 4;
  const std::size_t first = row;
  while (row + 1 < end && row + 1 - first < kMost && stands_beside(rows[row], rows[row + 1])) ++row;
  if (row == first) return rows[first];
  Row all{{}, rows[row].base, rows[first].top, rows[row].bottom};
  Taken taken;
  for (std::size_t r = first; r <= row; ++r)
    for (const std::size_t at : rows[r].pieces) taken.add(taken_by(at));
  const std::vector<Stretch>& parts = taken.stretches();
  const auto part_of = [&](std::size_t at) {
    const auto part =
        std::upper_bound(parts.begin(), parts.end(), pieces_[at].begin,
                         [](float begin, const Stretch& stretch) { return begin < stretch.begin; });
    return from_right_ ? parts.end() - part : part - parts.begin();
  };
  for (std::size_t r = first; r <= row; ++r)
    all.pieces.insert(all.pieces.end(), rows[r].pieces.begin(), rows[r].pieces.end());
  std::stable_sort(all.pieces.begin(), all.pieces.end(), [&](std::size_t one, std::size_t other) {
    return part_of(one) < part_of(other);
  });
  return all;
}

bool Bands::are_beside(const std::vector<Row>& rows, const Band& band, const Stretch& strip,
                       std::size_t together) const {
  constexpr float kSlack = 0.01F;   // points
  constexpr std::size_t kEach = 3;  // rows of either side
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
  if (both >= together) return true;
  const double shared = std::min(left.end, right.end) - std::max(left.begin, right.begin);
  return lefts >= kEach && rights >= kEach &&
         shared >= 0.5 * std::min(left.end - left.begin, right.end - right.begin);
}

// Whether what stands above columns is a head of several of them, and no text above a table: that
// would begin where the first one does.
bool Bands::heads_columns(const Row& row, const std::vector<Stretch>& strips) const {
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

// Of what is free between, those that are wide enough, or in which a line is drawn at a height, or
// that are a gap between columns of a table somewhere from `top` to `bottom`.
std::vector<Stretch> Bands::strips_in(const std::vector<Stretch>& taken, double least,
                                      double height, double top, double bottom, For what) const {
  constexpr double kNarrow = 0.45;  // of those that are wide enough
  std::vector<Stretch> found;
  for (std::size_t i = 1; i < taken.size(); ++i) {
    const Stretch strip{taken[i - 1].end, taken[i].begin};
    const double width = strip.end - strip.begin;
    const bool is_gap = what == For::table && width >= kNarrow * least &&
                        lines_.has_gap(strip.begin, strip.end, top, bottom);
    if (width >= least || is_gap || lines_.is_drawn(strip.begin, strip.end, height))
      found.push_back(strip);
  }
  return found;
}

std::optional<Band> Bands::band_at(const std::vector<Row>& rows, std::size_t seed,
                                   std::size_t after, double least, For what) const {
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
    return strips_in(all.stretches(), least, height, rows[std::min(row, band.first)].top,
                     rows[std::max(row, band.end > seed ? band.end - 1 : seed)].bottom, what);
  };
  for (; band.end < rows.size() && goes_on(); ++band.end) {
    if (band.end > seed &&
        (are_far(rows[band.end - 1], rows[band.end], least) || begin_anew(rows, band.end)))
      break;
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
    else if (what == For::table && heads_columns(rows[band.first - 1], strips))
      ++heads;
    else
      break;
    --band.first;
  }
  constexpr std::size_t kTogether = 2;  // rows
  std::vector<Stretch> free = strips_of(taken, seed);
  if (what == For::table) {
    std::vector<Stretch> more = mostly_free(rows, band, heads, height, least);
    // What stands in few rows only is free in most; beside it there may be a strip all the same.
    for (const Stretch& strip : free)
      if (std::none_of(more.begin(), more.end(), [&](const Stretch& other) {
            return other.begin < strip.end && strip.begin < other.end;
          }))
        more.push_back(strip);
    std::sort(more.begin(), more.end(),
              [](const Stretch& a, const Stretch& b) { return a.begin < b.begin; });
    free = std::move(more);
  }
  for (const Stretch& strip : free)
    if (are_beside(rows, band, strip, kTogether)) band.strips.push_back(strip);
  if (band.strips.empty()) return std::nullopt;
  if (what == For::columns) return without_last_paragraph(rows, std::move(band), after);
  // A column of a table may have a head only, far from the others.
  constexpr double kFar = 3;  // times the least strip
  band.strips.clear();
  for (const Stretch& strip : free)
    if (are_beside(rows, band, strip, strip.end - strip.begin > kFar * least ? 1 : kTogether))
      band.strips.push_back(strip);
  return band;
}

// The strips that are free in all rows of a band but a few, which have cells of several columns.
std::vector<Stretch> Bands::mostly_free(const std::vector<Row>& rows, const Band& band,
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
  return strips_in(covered.stretches(), least, height, rows[band.first].top,
                   rows[band.end - 1].bottom, For::table);
}

std::vector<DrawnPlace> Bands::drawn_places(const std::vector<Row>& rows, const Band& band) const {
  std::vector<DrawnPlace> places;
  for (std::size_t r = band.first; r < band.end; ++r)
    for (const std::size_t at : rows[r].pieces)
      places.push_back({at, pieces_[at].drawn, r, column_of(pieces_[at], band.strips)});
  std::sort(places.begin(), places.end(),
            [](const DrawnPlace& a, const DrawnPlace& b) { return a.drawn < b.drawn; });
  return places;
}

// Whether a band is read column by column. Lines that fill their columns are prose. Otherwise it is
// told by how it was drawn: down a column, or along a row, or cell by cell of some lines.
bool Bands::are_columns(const std::vector<Row>& rows, const Band& band) const {
  const std::vector<DrawnPlace> places = drawn_places(rows, band);
  std::vector<float> widths(band.strips.size() + 1);
  for (const DrawnPlace& place : places)
    widths[place.column] = std::max(widths[place.column], pieces_[place.piece].width());
  constexpr double kFull = 0.7;  // of its column
  const auto is_full = [&](const DrawnPlace& place) {
    const Piece& piece = pieces_[place.piece];
    return piece.letter_count >= kLongLine && piece.width() > kFull * widths[place.column];
  };
  const auto full = std::count_if(places.begin(), places.end(), is_full);
  if (2 * static_cast<std::size_t>(full) > places.size()) return true;
  std::size_t down = 0;
  std::size_t across = 0;
  std::size_t aside = 0;  // pieces in other columns than the first
  for (std::size_t i = 1; i < places.size(); ++i) {
    const DrawnPlace& before = places[i - 1];
    const DrawnPlace& now = places[i];
    down += now.row > before.row && now.column == before.column ? 1 : 0;
    across += now.row == before.row && now.column != before.column ? 1 : 0;
    aside += now.column > 0 ? 1 : 0;
  }
  // What stands aside belongs to lines, as dates and page numbers do.
  if (5 * across >= 4 * aside) return false;
  return down > 2 * across && !are_cells(places);
}

Band Bands::without_text_below(const std::vector<Row>& rows, const Band& band, double least) const {
  Band above = until_crossed(rows, band, least);
  return above.end < band.end ? above : without_next_paragraph(rows, band);
}

// Columns that end together, above text that crosses some of them; all where there is none.
Band Bands::until_crossed(const std::vector<Row>& rows, const Band& band, double least) const {
  constexpr std::size_t kFewest = 3;  // rows
  constexpr std::size_t kTogether = 2;
  constexpr float kEven = 2.5F;  // times the least strip, from the end of one column to another's
  Taken taken;
  std::vector<Stretch> strips;
  Band above{band.first, band.first, {}};
  for (; above.end < band.end; ++above.end) {
    for (const std::size_t at : rows[above.end].pieces) taken.add(taken_by(at));
    const Row& row = rows[above.end];
    std::vector<Stretch> next = strips_in(taken.stretches(), least, row.base, rows[band.first].top,
                                          row.bottom, For::columns);
    if (next.size() < strips.size() && above.end - above.first >= kFewest) break;
    strips = std::move(next);
  }
  if (above.end == band.end) return band;
  for (const Stretch& strip : strips)
    if (are_beside(rows, above, strip, kTogether)) above.strips.push_back(strip);
  if (above.strips.size() <= band.strips.size()) return band;
  above = without_next_paragraph(rows, std::move(above));
  // All that is below is in one of the columns that are left.
  const std::size_t only = column_of(pieces_[rows[above.end].pieces.front()], band.strips);
  for (std::size_t r = above.end; r < band.end; ++r)
    for (const std::size_t at : rows[r].pieces)
      if (column_of(pieces_[at], band.strips) != only) return band;
  std::vector<float> ends(above.strips.size() + 1);
  for (std::size_t r = above.first; r < above.end; ++r)
    for (const std::size_t at : rows[r].pieces)
      ends[column_of(pieces_[at], above.strips)] = rows[r].base;
  const auto [first, last] = std::minmax_element(ends.begin(), ends.end());
  const bool end_together = *last - *first <= kEven * static_cast<float>(least);
  return end_together && are_columns(rows, above) ? above : band;
}

std::vector<double> Bands::cuts_of(const std::vector<Row>& rows, const Band& band) const {
  return lines_across(rows, band, {band.strips.front().begin, band.strips.back().end});
}

bool Bands::is_cut_wholly(const std::vector<Row>& rows, const Band& band) const {
  constexpr float kSlack = 0.05F;  // of its width
  Stretch all{std::numeric_limits<float>::max(), std::numeric_limits<float>::lowest()};
  for (std::size_t r = band.first; r < band.end; ++r)
    for (const std::size_t at : rows[r].pieces) {
      all.begin = std::min(all.begin, pieces_[at].begin);
      all.end = std::max(all.end, pieces_[at].end);
    }
  const float slack = kSlack * (all.end - all.begin);
  return !lines_across(rows, band, {all.begin + slack, all.end - slack}).empty();
}

// The heights of lines that are drawn all along a stretch.
std::vector<double> Bands::lines_across(const std::vector<Row>& rows, const Band& band,
                                        const Stretch& stretch) const {
  std::vector<double> found;
  const double top = rows[band.first].top;
  const double bottom = rows[band.end - 1].bottom;
  auto line = std::lower_bound(lines_.along.begin(), lines_.along.end(), top,
                               [](const DrawnLine& known, double at) { return known.at < at; });
  for (; line != lines_.along.end() && line->at < bottom; ++line)
    if (line->begin <= stretch.begin && line->end >= stretch.end) found.push_back(line->at);
  return found;
}

}  // namespace lumvet::text
