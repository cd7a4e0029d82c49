// SPDX-License-Identifier: Apache-2.0
// Takes the rows of an image one after the other and keeps them, or the means of squares of them.
//
// Threads: one thread at a time.
#pragma once

#include <vector>

#include "images/image.h"

namespace lumvet::images {

class RowReducer {
 public:
  // `image` has its kind, its samples stay where they are put; the rest is set here. Packed ones
  // stay as they are. Of `width` × `height` samples to come, `by` in
  // each direction become one.
  RowReducer(Image& image, int width, int height, int by);

  // Where the next row belongs, and how many bytes it has.
  std::uint8_t* row() { return by_ == 1 ? out_ : row_.data(); }
  std::size_t row_bytes() const { return row_bytes_; }
  void end_row();

 private:
  void write_means();

  int by_;
  int channels_;
  int width_;
  int rows_left_;
  std::size_t row_bytes_;
  std::uint8_t* out_;
  Bytes row_ = {};
  std::vector<std::uint32_t> sums_ = {};  // of the rows since the last means, column by column
  int summed_ = 0;
};

}  // namespace lumvet::images
