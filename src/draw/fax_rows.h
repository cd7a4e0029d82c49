// SPDX-License-Identifier: Apache-2.0
// Black and white rows packed by group 4 (ITU-T T.6), through libtiff.
//
// Threads: free functions.
#pragma once

#include "lumvet/base/bytes.h"

namespace lumvet::draw {

// Rows begin at a byte; 1 is black. Nothing when they cannot be packed.
Bytes group4_of(const Bytes& rows, int width, int height);

}  // namespace lumvet::draw
