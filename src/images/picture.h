// SPDX-License-Identifier: Apache-2.0
// Decoded pictures, ready to be sampled.
//
// Threads: immutable once made, share freely.
#pragma once

#include <memory>

#include "lumvet/base/bytes.h"

namespace lumvet::images {

// Rows from the top, without padding.
struct Picture {
  int width = 0;                        // pixels
  int height = 0;                       // pixels
  int channels = 0;                     // 1: coverage of a stencil or mask, 3: red green blue
  Bytes samples;                        // one byte a channel
  std::shared_ptr<const Picture> mask;  // of one channel and any size; null when all is opaque
};

}  // namespace lumvet::images
