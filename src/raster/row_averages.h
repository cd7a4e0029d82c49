// SPDX-License-Identifier: Apache-2.0
// Means of rows of samples, for images that are shrunk.
//
// Threads: free functions.
#pragma once

#include <cstddef>
#include <cstdint>
#include <span>

namespace lumvet::raster {

// Down the columns, of up to four rows: means[i] is the mean of their i-th samples in 1/256, within
// 4/256, each row with its part; all parts together are kAllRows.
constexpr std::uint32_t kAllRows = 0xFFFF;
void average_of_rows(std::span<const std::uint8_t* const> rows, const std::uint16_t* parts,
                     std::uint16_t* means, std::size_t count);

// The same of any number of rows, exactly: sums[i] = weight × samples[i], for weights up to 256.
void set_weighted(std::uint32_t* sums, const std::uint8_t* samples, unsigned weight,
                  std::size_t count);
// sums[i] += weight × samples[i].
void add_weighted(std::uint32_t* sums, const std::uint8_t* samples, unsigned weight,
                  std::size_t count);

// means[i] = sums[i] / weight in 1/256, rounded, where `weight` is what all samples had together.
void divide(const std::uint32_t* sums, std::uint64_t weight, std::uint16_t* means,
            std::size_t count);

// Across: for each pixel `each` means are weighted, the first of which is that of its entry in
// `columns`, where means begin with that of column `first`. Weights of a pixel are 1 << 16
// together.
void mean_values(const std::uint16_t* means, int first, std::span<const int> columns,
                 const std::uint32_t* weights, std::size_t each, std::uint8_t* out);
// The same of three channels, to four bytes each, of which the last is 255. The means go on with
// one number that does not count.
void mean_colors(const std::uint16_t* means, int first, std::span<const int> columns,
                 const std::uint32_t* weights, std::size_t each, std::uint8_t* out);

}  // namespace lumvet::raster
