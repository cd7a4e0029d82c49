// SPDX-License-Identifier: Apache-2.0
// Decoded images, ready to be sampled.
//
// Threads: immutable once made, share freely; rows that are still to come are there once asked for.
#pragma once

#include <memory>
#include <optional>
#include <vector>

#include "base/unfilled.h"
#include "images/arriving_rows.h"
#include "lumvet/base/bytes.h"

namespace lumvet::images {

using SampleBytes = std::vector<std::uint8_t, Unfilled<std::uint8_t>>;

// Rows from the top, without padding; those of packed ones begin at a byte.
struct Image {
  // How much of a place a stencil or mask takes; the gray of the screen; its red, green, blue.
  enum class Kind { coverage, gray, rgb };

  int width = 0;   // samples
  int height = 0;  // samples
  // The same of the whole, where the last column and row of a reduced image stand for a part of
  // what the others do.
  double across = 0;
  double down = 0;
  double shift = 0;  // samples by which all stand for places further left and up
  Kind kind = Kind::rgb;
  bool is_packed = false;  // a bit for each sample, which stands for `zero` or `one`
  std::uint8_t zero = 0;
  std::uint8_t one = 255;
  SampleBytes samples = {};                // one byte a channel, unless they are packed
  std::shared_ptr<const Image> mask = {};  // coverage of any size; null when all is opaque

  std::shared_ptr<ArrivingRows> arriving = {};  // null when all rows are there

  // Everything below that takes a row waits for it.
  void wait_for(int row) const {
    if (arriving) arriving->need(row);
  }
  void wait_for_all() const { wait_for(height - 1); }

  // `count` samples of row `y` from `first` on; packed ones are unpacked into `room`.
  const std::uint8_t* row(int y, int first, int count, Bytes& room) const {
    if (is_packed) return unpacked(y, first, count, room);
    wait_for(y);
    return samples.data() + (static_cast<std::size_t>(y) * static_cast<std::size_t>(width) +
                             static_cast<std::size_t>(first)) *
                                static_cast<std::size_t>(channels());
  }

  // The bits of a row of a packed image.
  const std::uint8_t* packed_row(int y) const {
    wait_for(y);
    return samples.data() + static_cast<std::size_t>(y) * packed_row_bytes();
  }

  // The value that all of these samples have, where that is seen quickly: of packed ones.
  std::optional<std::uint8_t> only_value(int y, int first, int count) const;

  bool is_one_sample() const { return width == 1 && height == 1; }
  // Whether all samples are alike, so that one of them says it all.
  bool is_even() const;
  // An image of the first sample, with the same mask.
  Image one_sample() const;

  int channels() const { return kind == Kind::rgb ? 3 : 1; }
  std::size_t memory() const { return samples.size() + (mask ? mask->samples.size() : 0); }

 private:
  std::size_t packed_row_bytes() const { return (static_cast<std::size_t>(width) + 7) / 8; }
  const std::uint8_t* unpacked(int y, int first, int count, Bytes& room) const;
};

}  // namespace lumvet::images
