// SPDX-License-Identifier: Apache-2.0
// Means of rows of samples, for pictures that are shrunk.
//
// Threads: free functions.
#pragma once

#include <cstddef>
#include <cstdint>

namespace lumvet::raster {

// sums[i] = weight × samples[i], for weights up to 256.
void set_weighted(std::uint32_t* sums, const std::uint8_t* samples, unsigned weight,
                  std::size_t count);
// sums[i] += weight × samples[i].
void add_weighted(std::uint32_t* sums, const std::uint8_t* samples, unsigned weight,
                  std::size_t count);

// means[i] = sums[i] / weight in 1/256, rounded, where `weight` is what all samples had together.
void divide(const std::uint32_t* sums, std::uint64_t weight, std::uint16_t* means,
            std::size_t count);

}  // namespace lumvet::raster
