// SPDX-License-Identifier: Apache-2.0
// The packed samples of one row of an image (ISO 32000-2, 8.9.5.2).
//
// Threads: one thread at a time.
#pragma once

#include "lumvet/base/bytes.h"

namespace lumvet::images {

// Samples of 1, 2, 4, 8 or 16 bits, one after the other; behind the row's end they are 0.
class SampleReader {
 public:
  SampleReader(ByteView row, unsigned bits) : row_(row), bits_(bits) {}

  unsigned next() {
    if (at_ >= row_.size()) return 0;
    if (bits_ == 8) return row_[at_++];
    if (bits_ == 16) {
      const unsigned high = row_[at_];
      const unsigned low = at_ + 1 < row_.size() ? row_[at_ + 1] : 0u;
      at_ += 2;
      return high << 8 | low;
    }
    const unsigned value = row_[at_] >> (8 - bits_ - bit_) & ((1u << bits_) - 1);
    bit_ += bits_;
    if (bit_ == 8) {
      bit_ = 0;
      ++at_;
    }
    return value;
  }

 private:
  ByteView row_;
  unsigned bits_;
  std::size_t at_ = 0;
  unsigned bit_ = 0;
};

// A byte for each of the first `count` bits that there are: `zero` or `one`.
void expand_bits(ByteView row, std::size_t count, std::uint8_t zero, std::uint8_t one,
                 std::uint8_t* out);

}  // namespace lumvet::images
