// SPDX-License-Identifier: Apache-2.0
// The blend modes that need no division, over pixels side by side (ISO 32000-2, 11.3.5 and 11.3.6).
//
// Threads: free functions.
#pragma once

#include <cstdint>

#include "color/blend_mode.h"

namespace lumvet::rendering {

inline constexpr int kBlendBlock = 16;  // pixels

// Whether there is such a way for a mode.
bool blends_in_rows(color::BlendMode mode);

// A block of premultiplied pixels, mixed with sources of four bytes each, whose fourth does not
// count, as opaque as `alphas`.
void blend_block(color::BlendMode mode, std::uint8_t* pixels, const std::uint8_t* sources,
                 const std::uint8_t* alphas);

}  // namespace lumvet::rendering
