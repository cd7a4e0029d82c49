// SPDX-License-Identifier: Apache-2.0
// Means of the samples that each pixel covers of an image that stands upright and is shown
// smaller: first down the columns, then across. Nothing is decided on the way along a row.
//
// Threads: one thread at a time.
#pragma once

#include <cstdint>
#include <optional>
#include <vector>

#include "images/image.h"
#include "lumvet/geometry/matrix.h"
#include "render/bilevel_downscaler.h"
#include "render/sample_span.h"

namespace lumvet::rendering {

class BoxDownscaler {
 public:
  // `to_samples` maps pixels to samples and neither turns nor slants.
  BoxDownscaler(const images::Image& image, const Matrix& to_samples);

  // Whether so many samples of a pixel can be added up.
  static bool can_add(double across, double down) { return across < 250 && down < (1 << 15); }

  // Of `count` pixels from (x, y) on to the right: a value each, of grays and coverage, until the
  // next call.
  const std::uint8_t* values(int x, int y, int count);
  // The same of grays and of colors, written as four bytes each, of which the last is 255.
  void put_grays(int x, int y, int count, std::uint8_t* out);
  void put_colors(int x, int y, int count, std::uint8_t* out);

 private:
  // What pixels take of the columns: equally many weights for each.
  struct Taps {
    int first_pixel = 0;
    std::size_t each = 0;            // weights of a pixel
    std::vector<int> columns;        // the first of each pixel
    std::vector<std::uint32_t> all;  // 65536 together for each pixel
  };
  struct Columns {
    int first;
    int count;
  };

  SampleSpan across(int x) const;
  SampleSpan down(int y) const;
  void find_taps(int x, int count);
  Columns columns_of(int x, int count) const;
  const int* first_columns(int x) const;
  const std::uint32_t* weights(int x) const;
  // Of the columns, in 1/256.
  void add_up(const SampleSpan& rows, const Columns& columns);
  bool is_packed() const { return image_->is_packed && to_samples_.a >= 1; }
  std::optional<std::uint8_t> add_packed(int x, int y, int count);

  const images::Image* image_;
  Matrix to_samples_;
  double box_width_;
  double box_height_;
  Taps taps_;
  std::vector<std::uint32_t> sums_;
  std::vector<std::uint16_t> means_;
  Bytes values_;
  Bytes room_;  // of packed samples
  BilevelDownscaler packed_;
  int packed_first_ = 0;  // pixel, of those that packed_ is set for
  int packed_count_ = 0;
  Columns packed_columns_{};  // of all of them
};

}  // namespace lumvet::rendering
