// SPDX-License-Identifier: Apache-2.0
// The filters of PNG's rows (ISO/IEC 15948, 9.2).
//
// Threads: free functions.
#pragma once

#include <array>
#include <cstddef>
#include <cstdint>

namespace lumvet::raster {

// Of a row and the one above it, `bytes` long each, with so many bytes to the pixel on the left.
// Writes as many bytes and returns how large the differences are in all, as signed numbers.
using PngFilter = std::size_t (*)(const std::uint8_t* row, const std::uint8_t* above,
                                  std::size_t bytes, std::size_t pixel, std::uint8_t* out);

// Sub, up, average and Paeth, which are kinds 1 to 4.
extern const std::array<PngFilter, 4> kPngFilters;

// The same of the row as it is, which is kind 0.
std::size_t png_differences(const std::uint8_t* row, std::size_t bytes);

}  // namespace lumvet::raster
