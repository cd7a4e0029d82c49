// SPDX-License-Identifier: Apache-2.0
// The rows of cross-reference streams (ISO 32000-2, 7.5.8.3).
//
// Threads: free functions.
#pragma once

#include <cstdint>
#include <vector>

#include "lumvet/base/bytes.h"

namespace lumvet::saving {

// Where an object is.
struct Place {
  enum class Kind : std::uint8_t { free, in_file, in_stream } kind = Kind::free;
  std::uint64_t where = 0;  // offset, or the number of the object stream
  std::uint32_t index = 0;  // in it
};

// Bytes that places need.
std::size_t width_of(std::uint64_t greatest_offset);

// Of type (1 byte), place (`width` bytes) and index (1 byte); number 0 is never used again.
Bytes plain_rows(const std::vector<Place>& places, std::size_t width);
// The same, each as the difference to the row above (PNG's "up", predictor 12).
Bytes predicted_rows(const std::vector<Place>& places, std::size_t width);

}  // namespace lumvet::saving
