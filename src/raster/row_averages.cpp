// SPDX-License-Identifier: Apache-2.0
#include "raster/row_averages.h"

#include <bit>
#include <cstring>

#include "base/simd.h"

namespace lumvet::raster {
namespace {

// The part of a sample in 1/256.
inline std::uint16_t part_of(std::uint8_t sample, std::uint16_t part) {
  const auto high = static_cast<std::uint16_t>(sample << 8);
  return static_cast<std::uint16_t>(std::uint32_t{high} * part >> 16);
}

// Means in 1/256 times weights of 1 << 16 together become bytes so.
constexpr std::uint32_t kHalf = 1 << 23;
constexpr int kBits = 24;

// The colors of a sample, and one number more, at once.
using Halves = std::uint16_t __attribute__((vector_size(16)));
using Words = std::uint32_t __attribute__((vector_size(16)));
using Bytes = std::uint8_t __attribute__((vector_size(16)));
using Quads = std::uint64_t __attribute__((vector_size(16)));

template <std::size_t kTaps>
inline __attribute__((always_inline)) void put_colors(const std::uint16_t* means, int first,
                                                      std::span<const int> columns,
                                                      const std::uint32_t* weights,
                                                      std::size_t each, std::uint8_t* out) {
  const std::size_t taps = kTaps == 0 ? each : kTaps;
  for (const int column : columns) {
    const std::uint16_t* mean = means + std::ptrdiff_t{column - first} * 3;
    Words total{kHalf, kHalf, kHalf, kHalf};
    for (std::size_t t = 0; t < taps; ++t, mean += 3) {
      std::uint64_t four;
      std::memcpy(&four, mean, sizeof four);
      const auto halves = reinterpret_cast<Halves>(Quads{four, 0});
      const Halves wide = __builtin_shufflevector(halves, Halves{}, 0, 8, 1, 9, 2, 10, 3, 11);
      total += reinterpret_cast<Words>(wide) * weights[t];
    }
    static_assert(kBits == 24 && std::endian::native == std::endian::little);
    const auto bytes = reinterpret_cast<Bytes>(total);
    const Bytes highest = __builtin_shufflevector(bytes, bytes, 3, 7, 11, 15, 3, 7, 11, 15, 3, 7,
                                                  11, 15, 3, 7, 11, 15);
    const std::uint32_t word = reinterpret_cast<Words>(highest)[0] | 0xFF000000u;
    std::memcpy(out, &word, sizeof word);
    weights += taps;
    out += sizeof word;
  }
}

}  // namespace

LUMVET_WIDE void average_of_rows(std::span<const std::uint8_t* const> rows,
                                 const std::uint16_t* parts, std::uint16_t* means,
                                 std::size_t count) {
  const std::uint8_t* const a = rows[0];
  const std::uint8_t* const b = rows.size() > 1 ? rows[1] : a;
  const std::uint8_t* const c = rows.size() > 2 ? rows[2] : b;
  const auto add = [&](const auto& sum) {
    // What rounding down took of most.
    for (std::size_t i = 0; i < count; ++i) means[i] = static_cast<std::uint16_t>(sum(i) + 1);
  };
  switch (rows.size()) {
    case 1: return add([&](std::size_t i) { return part_of(a[i], parts[0]); });
    case 2:
      return add([&](std::size_t i) { return part_of(a[i], parts[0]) + part_of(b[i], parts[1]); });
    case 3:
      return add([&](std::size_t i) {
        return part_of(a[i], parts[0]) + part_of(b[i], parts[1]) + part_of(c[i], parts[2]);
      });
    default:
      return add([&](std::size_t i) {
        return part_of(a[i], parts[0]) + part_of(b[i], parts[1]) + part_of(c[i], parts[2]) +
               part_of(rows[3][i], parts[3]);
      });
  }
}

void mean_values(const std::uint16_t* means, int first, std::span<const int> columns,
                 const std::uint32_t* weights, std::size_t each, std::uint8_t* out) {
  for (const int column : columns) {
    const std::uint16_t* mean = means + (column - first);
    // All weights together are 1 << 16, so that the last need not be multiplied with.
    const std::uint32_t last = mean[each - 1];
    std::uint32_t total = (last << 16) + kHalf;
    for (std::size_t t = 0; t + 1 < each; ++t) total += weights[t] * (mean[t] - last);
    *out++ = static_cast<std::uint8_t>(total >> kBits);
    weights += each;
  }
}

LUMVET_WIDE void mean_colors(const std::uint16_t* means, int first, std::span<const int> columns,
                             const std::uint32_t* weights, std::size_t each, std::uint8_t* out) {
  switch (each) {
    case 2: return put_colors<2>(means, first, columns, weights, each, out);
    case 3: return put_colors<3>(means, first, columns, weights, each, out);
    case 4: return put_colors<4>(means, first, columns, weights, each, out);
    default: return put_colors<0>(means, first, columns, weights, each, out);
  }
}

LUMVET_WIDE void set_weighted(std::uint32_t* sums, const std::uint8_t* samples, unsigned weight,
                              std::size_t count) {
  const auto factor = static_cast<std::uint16_t>(weight);
  for (std::size_t i = 0; i < count; ++i) sums[i] = static_cast<std::uint16_t>(factor * samples[i]);
}

LUMVET_WIDE void add_weighted(std::uint32_t* sums, const std::uint8_t* samples, unsigned weight,
                              std::size_t count) {
  const auto factor = static_cast<std::uint16_t>(weight);
  for (std::size_t i = 0; i < count; ++i)
    sums[i] += static_cast<std::uint16_t>(factor * samples[i]);
}

LUMVET_WIDE void divide(const std::uint32_t* sums, std::uint64_t weight, std::uint16_t* means,
                        std::size_t count) {
  const float part = 256.0F / static_cast<float>(weight);
  for (std::size_t i = 0; i < count; ++i)
    means[i] = static_cast<std::uint16_t>(static_cast<std::int32_t>(
        static_cast<float>(static_cast<std::int32_t>(sums[i])) * part + 0.5F));
}

}  // namespace lumvet::raster
