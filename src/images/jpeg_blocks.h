// SPDX-License-Identifier: Apache-2.0
// JPEG files with some of their pixels blanked, in which every block that has none of those keeps
// its coefficients (ISO/IEC 10918-1, annex A).
//
// Threads: free functions.
#pragma once

#include "images/pixel_set.h"
#include "lumvet/base/bytes.h"
#include "lumvet/base/result.h"

namespace lumvet::images {

// Pixels of all parts at their least or their most, as the decoder gives them. What a file has
// besides its image, such as a small copy of it, is left out. Errors: malformed for a file that is
// damaged or cannot be written so.
Result<Bytes> with_blank_pixels(ByteView jpeg, const PixelSet& pixels, bool at_most);

}  // namespace lumvet::images
