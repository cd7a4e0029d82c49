// SPDX-License-Identifier: Apache-2.0
// Image files to image objects (ISO 32000-2, 8.9.5), without loss.
//
// Threads: free functions.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "lumvet/base/limits.h"
#include "lumvet/objects/object.h"

namespace lumvet::draw {

// One image, with what stands in objects of its own.
struct ImageFrame {
  int width = 0;           // pixels, as they are stored
  int height = 0;          // pixels
  double dots_across = 0;  // to the inch; 0 when it does not say
  double dots_down = 0;
  int turn = 0;       // degrees to the right, by which it stands upright: 0, 90, 180 or 270
  Object image = {};  // a stream, without its mask
  std::optional<Object> mask = {};  // a stream: /SMask
  std::optional<Object> profile =
      {};  // a stream: of the color space /ICCBased, in place of its own
};

// By their first bytes. Errors: malformed, unsupported (what is no image), limit.
Result<std::vector<ImageFrame>> read_image_file(const Bytes& file, const Limits& limits);
bool begins_as_image(ByteView head);

bool is_jpeg2000(ByteView head);
Result<std::vector<ImageFrame>> read_jpeg2000(const Bytes& file, const Limits& limits);
Result<std::vector<ImageFrame>> read_jpeg(const Bytes& file, const Limits& limits);
Result<std::vector<ImageFrame>> read_png(const Bytes& file, const Limits& limits);
Result<std::vector<ImageFrame>> read_tiff(const Bytes& file, const Limits& limits);

// Rows that begin at a byte, packed by predictors and deflated (7.4.4.4); those of one bit a pixel
// by group 4 where that is smaller.
Object packed_image(const Bytes& rows, int width, int height, int colors, int bits, Object space);
// Samples of one byte as a mask.
Object packed_mask(const Bytes& alphas, int width, int height);

// What orientation 1 to 8 of TIFF 6.0 says, as degrees to the right; mirrored ones are not turned.
int turn_of(int orientation);

}  // namespace lumvet::draw
