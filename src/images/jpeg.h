// SPDX-License-Identifier: Apache-2.0
// DCTDecode (ISO 32000-2, 7.4.8), through libjpeg.
#pragma once

#include <optional>
#include <string>

#include "lumvet/base/bytes.h"
#include "lumvet/base/result.h"

namespace lumvet::images {

struct Samples {
  int width = 0;
  int height = 0;
  int components = 0;  // 1, 3 or 4
  Bytes bytes;         // 8 bits a component, rows without padding
  std::optional<std::string> damage;
};

// Greys, red green blue, or the four inks as they are stored: writers that store them inverted say
// so in the image's /Decode. `color_transform` is the filter's parameter, -1 when it is not given.
// Damaged data gives what could be decoded. Errors: malformed, limit beyond `most_pixels`.
Result<Samples> decode_jpeg(ByteView bytes, int color_transform, std::uint64_t most_pixels);

}  // namespace lumvet::images
