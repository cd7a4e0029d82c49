// SPDX-License-Identifier: Apache-2.0
// The pieces of one direction in rows, and bands of rows that have free strips in common, as
// between columns of text or of a table.
//
// Threads: immutable, share freely.
#pragma once

#include <optional>
#include <utility>
#include <vector>

#include "text/grids.h"

namespace lumvet::text {

using Places = std::vector<std::size_t>;  // of pieces
constexpr std::size_t kLongLine = 22;     // letters, at least, of a line of prose

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

// A piece of a band, where it stands in the order in which they were drawn.
struct DrawnPlace {
  std::size_t piece;
  std::size_t drawn;
  std::size_t row;
  std::size_t column;
};

// Headings are so many times as large as the text around them.
constexpr float kHeading = 1.12F;

// Rows that have strips in common.
struct Band {
  std::size_t first = 0;
  std::size_t end = 0;
  std::vector<Stretch> strips;
};

class Bands {
 public:
  // All of them outlive it.
  Bands(const std::vector<Piece>& pieces, const DrawnLines& lines, bool from_right)
      : pieces_(pieces),
        lines_(lines),
        from_right_(from_right),
        grids_(grids_of(lines, pieces)),
        grid_at_(pieces.size(), -1) {
    for (std::size_t g = 0; g < grids_.size(); ++g)
      for (const GridCell& cell : grids_[g].cells)
        for (const std::size_t at : cell.pieces) grid_at_[at] = static_cast<int>(g);
  }

  // From top to bottom; each from left to right.
  std::vector<Row> rows_of(Places region) const;
  // A row with those that follow it so closely that they stand beside it, a little higher or lower:
  // a name in the middle of its lines, a sign between the parts of a fraction. Each part is read
  // down. `row` becomes the last of them, which is before `end`.
  Row row_in_steps(const std::vector<Row>& rows, std::size_t& row, std::size_t end) const;
  // The font size that most letters of a region have.
  double usual_size(const Places& region) const;

  // The rows around one, from `after` on, that have a strip in common, as far as one goes on.
  // Strips are at least so wide, unless a line is drawn in them. For a table they may also be gaps
  // between columns, and some rows may have cells of several columns.
  enum class For { columns, table };
  std::optional<Band> band_at(const std::vector<Row>& rows, std::size_t seed, std::size_t after,
                              double least, For what) const;
  // The pieces of a band in the order in which they were drawn.
  std::vector<DrawnPlace> drawn_places(const std::vector<Row>& rows, const Band& band) const;
  // Whether a band is read column by column.
  bool are_columns(const std::vector<Row>& rows, const Band& band) const;
  // The same with those strips only that part what was drawn apart, on other lines: a table from
  // the text beside it. Without any where there are none.
  Band parted_by_drawing(const std::vector<Row>& rows, const Band& band) const;
  // Columns without the text below them, which crosses some of them further down, or all.
  Band without_text_below(const std::vector<Row>& rows, const Band& band, double least) const;
  Band without_single_cells(const std::vector<Row>& rows, Band band) const;
  // Whether a row stands by itself in larger letters than most.
  bool is_heading(const Row& row, double usual) const;
  // The row below the last heading of a band above a height; 0 without one.
  std::size_t end_of_heading(const std::vector<Row>& rows, const Band& band, double height) const;
  // Where lines are drawn from one column of a band to the next, all of them.
  std::vector<double> cuts_of(const std::vector<Row>& rows, const Band& band) const;

  // Whether one of them reaches across the whole band.
  bool is_cut_wholly(const std::vector<Row>& rows, const Band& band) const;

  const std::vector<Grid>& grids() const { return grids_; }
  // The grid that a piece is in; -1 for none.
  int grid_at(std::size_t piece) const { return grid_at_[piece]; }
  bool has_grid(const std::vector<Row>& rows, const Band& band) const {
    for (std::size_t r = band.first; r < band.end; ++r)
      for (const std::size_t at : rows[r].pieces)
        if (grid_at_[at] >= 0) return true;
    return false;
  }

  // Columns are counted in the order of reading. Those that a piece reaches into: the first of
  // them, and how many; one in a strip is where its middle is.
  std::pair<std::size_t, std::size_t> columns_of(const Piece& piece,
                                                 const std::vector<Stretch>& strips) const;
  // The only one, or that of its middle.
  std::size_t column_of(const Piece& piece, const std::vector<Stretch>& strips) const;

 private:
  bool has_several(const Row& row, const std::vector<Stretch>& strips) const;
  bool is_line_of_cell(const std::vector<Row>& rows, std::size_t row,
                       const std::vector<Stretch>& strips) const;
  bool stands_beside(const Row& upper, const Row& lower) const;
  bool has_text_below(const std::vector<Row>& rows, std::size_t row, const Piece& heading) const;
  bool begin_anew(const std::vector<Row>& rows, std::size_t row) const;
  bool begin_alike(const Row& one, const Row& other) const;
  std::vector<double> lines_across(const std::vector<Row>& rows, const Band& band,
                                   const Stretch& stretch) const;
  Band until_paragraph(const std::vector<Row>& rows, Band band) const;
  Band without_next_paragraph(const std::vector<Row>& rows, Band band) const;
  Band without_last_paragraph(const std::vector<Row>& rows, Band band, std::size_t after) const;
  Band until_crossed(const std::vector<Row>& rows, const Band& band, double least) const;
  std::vector<Stretch> mostly_free(const std::vector<Row>& rows, const Band& band,
                                   std::size_t heads, double height, double least) const;
  std::vector<Stretch> strips_in(const std::vector<Stretch>& taken, double least, double height,
                                 double top, double bottom, For what) const;
  bool heads_columns(const Row& row, const std::vector<Stretch>& strips) const;
  // Whether what stands on both sides of a strip stands beside each other, in so many rows at
  // least, and not above.
  bool are_beside(const std::vector<Row>& rows, const Band& band, const Stretch& strip,
                  std::size_t together) const;
  std::size_t column_at(double along, const std::vector<Stretch>& strips) const;
  // What a piece takes along the lines: one in a grid all that the grid does.
  Stretch taken_by(std::size_t at) const {
    if (grid_at_[at] < 0) return {pieces_[at].begin, pieces_[at].end};
    const Grid& grid = grids_[static_cast<std::size_t>(grid_at_[at])];
    return {grid.begin, grid.end};
  }

  const std::vector<Piece>& pieces_;
  const DrawnLines& lines_;
  bool from_right_;
  std::vector<Grid> grids_;
  std::vector<int> grid_at_;  // of each piece
};

}  // namespace lumvet::text
