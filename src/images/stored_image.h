// SPDX-License-Identifier: Apache-2.0
// An image's bytes as its document has them, for files that keep them without loss.
//
// Threads: free functions.
#pragma once

#include <optional>

#include "images/image_reader.h"

namespace lumvet::images {

// JPEG or JPEG 2000, without the filters around them.
struct Photograph {
  ByteSlice bytes;
  bool is_jpeg = false;  // otherwise JPEG 2000
};
// Nothing where an image is stored in another way. Errors: as decode_stream's.
Result<std::optional<Photograph>> stored_photograph(const Stream& image,
                                                    const ImageContext& context);

// Samples that read_image would round or convert: of 16 bits, of inks, of a profile's colors.
struct PlainSamples {
  int width = 0;
  int height = 0;
  int bits = 8;        // or 16
  int components = 1;  // gray, 3 of red, green and blue, 4 inks
  ByteSlice bytes;     // rows without padding
  Bytes profile;       // of ICC; empty without one
};
// Nothing where read_image loses nothing, or where the samples are not that simple. Errors: as
// decode_stream's.
Result<std::optional<PlainSamples>> plain_samples(const Stream& image, const ImageContext& context);

}  // namespace lumvet::images
