// SPDX-License-Identifier: Apache-2.0
// Where bands end, and where they part: above headings that stand beside each other, above the
// paragraph that follows, around a table, and between what was drawn apart.
#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

#include "base/allowance.h"
#include "text/bands.h"

namespace lumvet::text {
namespace {

// What stands on one side of a strip: in which rows, on which lines, and when it was drawn.
struct Side {
  std::size_t first_row = std::numeric_limits<std::size_t>::max();
  std::size_t last_row = 0;
  std::vector<float> bases = {};  // of its lines, from the top
  std::size_t several = 0;        // lines with more than one piece
  std::size_t in_last = 0;        // pieces of the last line
  std::size_t first_drawn = std::numeric_limits<std::size_t>::max();
  std::size_t last_drawn = 0;

  void add(const Piece& piece, std::size_t row) {
    if (bases.empty() || row != last_row) {
      bases.push_back(piece.base);
      in_last = 0;
    }
    several += ++in_last == 2 ? 1 : 0;
    first_row = std::min(first_row, row);
    last_row = row;
    first_drawn = std::min(first_drawn, piece.drawn);
    last_drawn = std::max(last_drawn, piece.drawn);
  }
  bool has_rows() const { return 2 * several >= bases.size(); }
  // The part of its lines that are lines of the other side, too.
  float shared_with(const Side& other, float slack) const {
    std::size_t shared = 0;
    for (const float base : bases) {
      const auto near = std::lower_bound(other.bases.begin(), other.bases.end(), base - slack);
      shared += near != other.bases.end() && *near <= base + slack ? 1 : 0;
    }
    return static_cast<float>(shared) / static_cast<float>(bases.size());
  }
};

std::array<Side, 2> sides_of(const std::vector<Row>& rows, const std::vector<Piece>& pieces,
                             std::size_t first, std::size_t end, const Stretch& strip) {
  std::array<Side, 2> sides;
  for (std::size_t r = first; r < end; ++r)
    for (const std::size_t at : rows[r].pieces)
      sides[pieces[at].begin >= strip.begin ? 1 : 0].add(pieces[at], r);
  return sides;
}

}  // namespace

// Only the rows that both sides have are looked at. What was drawn after both, below the first of
// them, is no more of the band.
Band Bands::parted_by_drawing(const std::vector<Row>& rows, const Band& band) const {
  constexpr std::size_t kMostStrips = 64;
  constexpr std::size_t kFewest = 2;  // lines on either side
  constexpr std::size_t kFewestOnOne = 3;
  constexpr float kSame = 0.06F;    // of the font size, between the bases of one line
  constexpr float kColumns = 0.5F;  // of the lines, shared by columns of a table
  constexpr float kTables = 0.9F;   // the same where rows were drawn on either side
  Band parted{band.first, band.end, {}};
  if (band.strips.size() > kMostStrips) return parted;
  for (const Stretch& strip : band.strips) {
    if (!goes_on()) break;
    const auto [left, right] = sides_of(rows, pieces_, band.first, band.end, strip);
    const std::size_t first = std::max(left.first_row, right.first_row);
    const std::size_t last = std::min(left.last_row, right.last_row);
    if (first > last) continue;
    const auto sides = sides_of(rows, pieces_, first, last + 1, strip);
    const std::size_t fewer = sides[1].bases.size() < sides[0].bases.size() ? 1 : 0;
    const Side& side = sides[fewer];
    const Side& other = sides[1 - fewer];
    const float size = pieces_[rows[first].pieces.front()].size;
    const float most = side.has_rows() || other.has_rows() ? kTables : kColumns;
    if (side.bases.size() < kFewest || other.bases.size() < kFewestOnOne ||
        side.shared_with(other, kSame * size) >= most ||
        (side.last_drawn >= other.first_drawn && other.last_drawn >= side.first_drawn))
      continue;
    parted.strips.push_back(strip);
    // Behind the side that was drawn last comes what goes on below the one that was drawn first.
    const std::size_t later = sides[0].last_drawn < sides[1].last_drawn ? 1 : 0;
    const auto follows_both = [&](std::size_t at) {
      return pieces_[at].drawn > sides[later].last_drawn &&
             (pieces_[at].begin >= strip.begin) != (later == 1);
    };
    std::size_t end = last + 1;
    while (end < parted.end &&
           !std::all_of(rows[end].pieces.begin(), rows[end].pieces.end(), follows_both))
      ++end;
    parted.end = std::min(parted.end, end);
  }
  return parted;
}

bool Bands::is_heading(const Row& row, double usual) const {
  return row.pieces.size() == 1 && pieces_[row.pieces.front()].size > kHeading * usual;
}

std::size_t Bands::end_of_heading(const std::vector<Row>& rows, const Band& band,
                                  double height) const {
  Places all;
  for (std::size_t r = band.first; r < band.end; ++r)
    all.insert(all.end(), rows[r].pieces.begin(), rows[r].pieces.end());
  const double usual = usual_size(all);
  std::size_t end = 0;
  for (std::size_t r = band.first; r < band.end && rows[r].base < height; ++r)
    if (is_heading(rows[r], usual)) end = r + 1;
  return end;
}

// Without the last lines of the paragraph above, which crosses the columns.
Band Bands::without_last_paragraph(const std::vector<Row>& rows, Band band,
                                   std::size_t after) const {
  constexpr std::size_t kMostLines = 3;
  constexpr float kLine = 1.4F;    // of the font size, from line to line
  constexpr float kApart = 1.25F;  // times that, at least, from what stands below
  std::size_t first = band.first;
  while (first > after && first + 1 < band.end && first < band.first + kMostLines &&
         rows[first].pieces.size() == 1 && rows[first - 1].pieces.size() == 1) {
    const Piece& line = pieces_[rows[first].pieces.front()];
    const Piece& above = pieces_[rows[first - 1].pieces.front()];
    const float pitch = line.base - above.base;
    if (line.size != above.size || pitch > kLine * line.size || line.end > above.end) break;
    ++first;
    if (rows[first].base - line.base < kApart * pitch) continue;
    band.first = first;
    break;
  }
  return band;
}

// Whether rows have several pieces that begin below each other, as lines of cells do.
bool Bands::begin_alike(const Row& one, const Row& other) const {
  constexpr float kSame = 1;  // points
  return one.pieces.size() > 1 &&
         std::equal(one.pieces.begin(), one.pieces.end(), other.pieces.begin(), other.pieces.end(),
                    [&](std::size_t a, std::size_t b) {
                      return std::abs(pieces_[a].begin - pieces_[b].begin) <= kSame;
                    });
}

// Without the first lines of the paragraph, or of the cells, that follow and cross all columns.
Band Bands::without_next_paragraph(const std::vector<Row>& rows, Band band) const {
  constexpr std::size_t kMostLines = 3;
  constexpr std::size_t kMostOfCells = 32;
  constexpr float kPitch = 1.6F;   // of the font size, at most, from line to line
  constexpr float kLine = 1.35F;   // the same of lines that belong together
  constexpr float kSame = 1.15F;   // times the pitch of what crosses
  constexpr float kApart = 1.25F;  // times that, at least, from what stands above
  if (band.end == rows.size()) return band;
  std::size_t first = band.end;
  const float pitch = rows[band.end].base - rows[band.end - 1].base;
  const bool are_cells = begin_alike(rows[band.end - 1], rows[band.end]);
  const std::size_t most = are_cells ? kMostOfCells : kMostLines;
  while (first > band.first + 1 && band.end - first < most) {
    const Row& line = rows[first - 1];
    const float below = rows[first].base - line.base;
    const bool goes_on = are_cells ? begin_alike(line, rows[first]) : line.pieces.size() == 1;
    if (!goes_on || below > kSame * pitch || below > kPitch * pieces_[line.pieces.front()].size)
      return band;
    --first;
    const float above = line.base - rows[first - 1].base;
    if (above <= std::max(kApart * pitch, kLine * pieces_[line.pieces.front()].size)) continue;
    band.end = first;
    return band;
  }
  return band;
}

// Whether lines of prose in smaller letters follow a heading.
bool Bands::has_text_below(const std::vector<Row>& rows, std::size_t row,
                           const Piece& heading) const {
  constexpr float kNear = 2.5F;  // of its font size
  for (std::size_t r = row + 1;
       r < rows.size() && rows[r].base < heading.base + kNear * heading.size; ++r)
    for (const std::size_t at : rows[r].pieces)
      if (pieces_[at].letter_count >= kLongLine && pieces_[at].size < heading.size &&
          pieces_[at].begin < heading.end && pieces_[at].end > heading.begin)
        return true;
  return false;
}

// Whether headings stand beside each other below a gap, each over a text, as where the next
// articles of a newspaper begin.
bool Bands::begin_anew(const std::vector<Row>& rows, std::size_t row) const {
  constexpr float kGap = 1.2F;  // of the font size above
  constexpr float kBeside = 0.5F;
  constexpr std::size_t kFewest = 2;
  constexpr std::size_t kMost = 32;     // pieces of a row with headings
  constexpr std::size_t kShortest = 3;  // letters of a heading
  float size = 0;
  for (const std::size_t at : rows[row - 1].pieces) size = std::max(size, pieces_[at].size);
  if (rows[row].top - rows[row - 1].bottom < kGap * size || rows[row].pieces.size() > kMost)
    return false;
  std::size_t headings = 0;
  for (std::size_t r = row; r < rows.size() && rows[r].top < rows[row].top + kBeside * size; ++r)
    for (const std::size_t at : rows[r].pieces) {
      if (pieces_[at].size < kHeading * size || pieces_[at].letter_count < kShortest ||
          !has_text_below(rows, r, pieces_[at]))
        return false;
      ++headings;
    }
  return headings >= kFewest;
}

// Whether a row has cells of a table: in several columns, or over several.
bool Bands::has_several(const Row& row, const std::vector<Stretch>& strips) const {
  return std::any_of(row.pieces.begin(), row.pieces.end(), [&](std::size_t at) {
    const auto [column, count] = columns_of(pieces_[at], strips);
    return (column > 0 && count > 1) ||
           column != columns_of(pieces_[row.pieces.front()], strips).first;
  });
}

// Whether the row above goes on with a further cell behind what stands in this one, or stands
// beside it, as cells do that are in the middle of their row.
bool Bands::is_line_of_cell(const std::vector<Row>& rows, std::size_t row,
                            const std::vector<Stretch>& strips) const {
  const Piece& line = pieces_[rows[row].pieces.front()];
  if (stands_beside(rows[row - 1], rows[row])) return true;
  const std::size_t column = column_of(line, strips);
  return std::any_of(rows[row - 1].pieces.begin(), rows[row - 1].pieces.end(), [&](std::size_t at) {
    return pieces_[at].drawn > line.drawn && column_of(pieces_[at], strips) > column;
  });
}

// What stands above and below a table in line with one of its columns is not of it.
Band Bands::without_single_cells(const std::vector<Row>& rows, Band band) const {
  while (band.first + 1 < band.end && !has_several(rows[band.first], band.strips)) ++band.first;
  while (band.end > band.first + 1 && !has_several(rows[band.end - 1], band.strips) &&
         !is_line_of_cell(rows, band.end - 1, band.strips))
    --band.end;
  return until_paragraph(rows, std::move(band));
}

// A table ends above lines that stand alone, apart from what is above and below. In the first
// column they may be the heads of what follows.
Band Bands::until_paragraph(const std::vector<Row>& rows, Band band) const {
  constexpr float kApart = 1;       // of the font size
  constexpr float kFurther = 1.5F;  // times as far as most rows are
  std::vector<float> gaps;
  for (std::size_t r = band.first + 1; r < band.end; ++r)
    gaps.push_back(rows[r].top - rows[r - 1].bottom);
  if (gaps.empty()) return band;
  std::vector<float> sorted = gaps;
  const auto middle = sorted.begin() + static_cast<std::ptrdiff_t>(sorted.size() / 2);
  std::nth_element(sorted.begin(), middle, sorted.end());
  const auto is_apart = [&](std::size_t row) {  // from the row above
    const float size = pieces_[rows[row].pieces.front()].size;
    return gaps[row - band.first - 1] >= std::max(kApart * size, kFurther * *middle);
  };
  const auto is_line = [&](const Row& row) {
    const auto [column, count] = columns_of(pieces_[row.pieces.front()], band.strips);
    return row.pieces.size() == 1 && (column > 0 || count > 1);
  };
  for (std::size_t r = band.first + 1; r < band.end; ++r) {
    if (!is_apart(r)) continue;
    std::size_t end = r;
    while (end < band.end && (end == r || !is_apart(end)) && is_line(rows[end])) ++end;
    if (end == r || (end < band.end && !is_apart(end))) continue;
    band.end = r;
    return band;
  }
  return band;
}

}  // namespace lumvet::text
