// SPDX-License-Identifier: Apache-2.0
// Means of a sheet in black and white that stands upright and is shown smaller: reckoned from where
// its bits change, of which a row has few, and not bit by bit.
//
// Threads: one thread at a time.
#pragma once

#include <cstddef>
#include <cstdint>
#include <vector>

namespace lumvet::rendering {

class BilevelDownscaler {
 public:
  static constexpr int kWhole = 256;

  // What a pixel covers of the columns of the sheet, in 1/256 column: not nothing, and the next
  // pixel goes on where it ends.
  struct Extent {
    std::int64_t left;
    std::int64_t right;
  };

  // Pixels side by side, from the left; their extents lie within the sheet.
  void set_pixels(const std::vector<Extent>& pixels);

  // The bits of a row of the sheet, which has the part `weight` of all rows, together kWhole.
  void add(const std::uint8_t* row, int weight);

  // The mean of each pixel, where bits stand for `zero` and `one`, as a byte or as an opaque gray
  // pixel of four; the sums begin anew.
  void take_bytes(std::uint8_t zero, std::uint8_t one, std::uint8_t* out);
  void take_pixels(std::uint8_t zero, std::uint8_t one, std::uint8_t* out);

 private:
  // Where a column begins: in a pixel, of which the part to the right is in 1/256.
  struct Column {
    std::int32_t pixel;
    std::int32_t part;
  };

  std::size_t pixels_ = 0;
  int first_ = 0;  // column, as last_
  int last_ = 0;
  std::vector<Column> columns_;        // from the first on
  std::vector<std::int32_t> changes_;  // of the sum from each pixel to the next, in 1/65536
};

}  // namespace lumvet::rendering
