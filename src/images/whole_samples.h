// SPDX-License-Identifier: Apache-2.0
// All samples of an image as its filters and its codec give them.
//
// Threads: free functions.
#pragma once

#include <string>

#include "images/codec.h"
#include "images/image_reader.h"

namespace lumvet::images {

struct WholeSamples {
  std::string codec = {};  // by its full name; empty where there is none
  ByteSlice plain = {};    // without one: rows as the dictionary says
  Samples decoded = {};    // with one
};

struct SamplesWanted {
  int width = 0;   // samples, as the dictionary says
  int height = 0;  // samples
  bool keep_values = false;
  int reduction = 1;
};

// Errors: as read_image's.
Result<WholeSamples> whole_samples(const Stream& image, const ImageContext& context,
                                   const SamplesWanted& wanted);

}  // namespace lumvet::images
