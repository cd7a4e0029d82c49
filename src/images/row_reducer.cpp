// SPDX-License-Identifier: Apache-2.0
#include "images/row_reducer.h"

#include <algorithm>

namespace lumvet::images {

RowReducer::RowReducer(Image& image, int width, int height, int by)
    : by_(by),
      channels_(image.channels()),
      width_(width),
      rows_left_(height),
      row_bytes_(image.is_packed
                     ? (static_cast<std::size_t>(width) + 7) / 8
                     : static_cast<std::size_t>(width) * static_cast<std::size_t>(channels_)) {
  image.width = (width - 1) / by + 1;
  image.height = (height - 1) / by + 1;
  image.across = static_cast<double>(width) / by;
  image.down = static_cast<double>(height) / by;
  const std::size_t reduced_bytes =
      by == 1 ? row_bytes_
              : static_cast<std::size_t>(image.width) * static_cast<std::size_t>(channels_);
  image.samples.resize(reduced_bytes * static_cast<std::size_t>(image.height));
  out_ = image.samples.data();
  if (by == 1) return;
  row_.resize(row_bytes_);
  sums_.resize(row_bytes_);
}

void RowReducer::end_row() {
  if (by_ == 1) {
    out_ += row_bytes_;
    return;
  }
  for (std::size_t i = 0; i < row_bytes_; ++i) sums_[i] += row_[i];
  ++summed_;
  --rows_left_;
  if (summed_ == by_ || rows_left_ == 0) write_means();
}

void RowReducer::write_means() {
  const std::uint32_t* sum = sums_.data();
  for (int x = 0; x < width_; x += by_) {
    const int columns = std::min(by_, width_ - x);
    const auto samples = static_cast<std::uint32_t>(columns * summed_);
    for (int k = 0; k < channels_; ++k) {
      std::uint32_t total = 0;
      for (int i = 0; i < columns; ++i) total += sum[i * channels_ + k];
      *out_++ = static_cast<std::uint8_t>((total + samples / 2) / samples);
    }
    sum += columns * channels_;
  }
  std::fill(sums_.begin(), sums_.end(), 0u);
  summed_ = 0;
}

}  // namespace lumvet::images
