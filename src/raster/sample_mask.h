// SPDX-License-Identifier: Apache-2.0
// Which places within a pixel lie inside of an outline: 64 of them, 16 in each of four rows, as the
// bits of a number. Of two outlines that share an edge no place lies inside of both, and none
// between them; so what they have in common can be told from their masks.
//
// A mask depends on the outline and the pixel alone, not on the area that is drawn.
//
// Threads: one thread at a time.
#pragma once

#include <cstdint>
#include <vector>

#include "lumvet/geometry/path.h"
#include "raster/coverage.h"

namespace lumvet::raster {

using SampleMask = std::uint64_t;
inline constexpr SampleMask kAllSamples = ~SampleMask{0};

class SampledOutline {
 public:
  // Within the rows of an area.
  void set(const EdgeView& edges, FillRule rule, const PixelRect& area);
  void set(const Rect& rectangle);

  SampleMask at(int x, int y) const;

 private:
  static constexpr int kRows = 4;      // of samples, in a pixel
  static constexpr int kColumns = 16;  // of samples, in a pixel

  // Inside of an outline from one sample of a row up to another, which is outside.
  struct Stretch {
    std::int32_t left;
    std::int32_t right;
  };
  struct Crossing {
    std::int32_t row;
    std::int32_t x;  // in 1/256 pixel
    std::int32_t direction;
  };
  // Of most outlines each row is crossed twice.
  struct Row {
    std::int32_t crossings;
    Stretch stretch;
  };

  static SampleMask within(const Stretch& stretch, int x);
  template <typename Take>
  static void for_edges(const EdgeView& edges, const PixelRect& area, const Take& take);
  // Calls take(row, x, direction) for each row of samples that an edge crosses.
  template <typename Take>
  void cross(const Edge& edge, const Take& take) const;
  void sort_into_rows();
  void pair_up(FillRule rule);

  enum class Kind : std::uint8_t { rectangle, simple, any };
  Kind kind_ = Kind::rectangle;
  Stretch columns_{};  // of a rectangle
  Stretch row_range_{};
  int first_row_ = 0;
  int end_row_ = 0;
  std::vector<Row> rows_;  // of simple ones
  std::vector<Crossing> crossings_;
  std::vector<Crossing> sorted_;
  std::vector<std::uint32_t> begins_;  // of the crossings of each row, then of its stretches
  std::vector<Stretch> stretches_;
};

}  // namespace lumvet::raster
