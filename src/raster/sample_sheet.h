// SPDX-License-Identifier: Apache-2.0
// Samples as they are, written to a file without loss: any number of bits, inks, color profiles.
//
// Threads: free functions.
#pragma once

#include "lumvet/base/bytes.h"
#include "lumvet/base/result.h"

namespace lumvet::raster {

struct SampleSheet {
  int width = 0;
  int height = 0;
  int bits = 8;      // of a sample: 8 or 16
  int channels = 1;  // gray, 3 of red, green and blue, 4 inks; without alpha
  bool has_alpha = false;
  Bytes profile = {};  // of ICC; empty for the screen's colors
  // Row by row without padding, alpha last in each pixel, the higher byte of a sample first.
  Bytes samples = {};

  std::size_t row_bytes() const {
    return static_cast<std::size_t>(width) *
           static_cast<std::size_t>(channels + (has_alpha ? 1 : 0)) *
           static_cast<std::size_t>(bits / 8);
  }
};

// Of gray, of red, green and blue, or of those and alpha, of 8 bits. Errors: io.
Result<Bytes> encode_png(const SampleSheet& sheet);
// Errors: io, for more than 4 GiB.
Result<Bytes> encode_tiff(const SampleSheet& sheet);

}  // namespace lumvet::raster
