// SPDX-License-Identifier: Apache-2.0
#include "raster/png_filters.h"

#include <algorithm>

#include "base/simd.h"

namespace lumvet::raster {
namespace {

using Byte = std::uint8_t;

// A byte as a signed difference.
LUMVET_INSIDE Byte size_of(Byte value) { return std::min<Byte>(value, static_cast<Byte>(-value)); }

// In bytes alone, so that many fit into a vector.
LUMVET_INSIDE Byte paeth(Byte left, Byte above, Byte corner) {
  const Byte to_left = static_cast<Byte>(std::max(above, corner) - std::min(above, corner));
  const Byte to_above = static_cast<Byte>(std::max(left, corner) - std::min(left, corner));
  // The way to the corner is that of both when they lie on one side of it, which is never nearer.
  const Byte between = static_cast<Byte>(std::max(to_left, to_above) - std::min(to_left, to_above));
  const Byte to_corner = (above >= corner) != (left >= corner) ? between : Byte{255};
  const Byte other = to_above <= to_corner ? above : corner;
  return to_left <= std::min(to_above, to_corner) ? left : other;
}

template <typename Predict>
LUMVET_INSIDE std::size_t filtered(const Byte* row, const Byte* above, std::size_t bytes,
                                   std::size_t pixel, Byte* __restrict out,
                                   const Predict& predict) {
  // So many differences fit into sixteen bits.
  constexpr std::size_t kBlock = 256;
  std::size_t sum = 0;
  for (std::size_t i = 0; i < std::min(pixel, bytes); ++i) {
    out[i] = static_cast<Byte>(row[i] - predict(Byte{0}, above[i], Byte{0}));
    sum += size_of(out[i]);
  }
  for (std::size_t begin = pixel; begin < bytes; begin += kBlock) {
    const std::size_t end = std::min(begin + kBlock, bytes);
    std::uint16_t part = 0;
    for (std::size_t i = begin; i < end; ++i) {
      out[i] = static_cast<Byte>(row[i] - predict(row[i - pixel], above[i], above[i - pixel]));
      part = static_cast<std::uint16_t>(part + size_of(out[i]));
    }
    sum += part;
  }
  return sum;
}

LUMVET_WIDE std::size_t filter_sub(const Byte* row, const Byte* above, std::size_t bytes,
                                   std::size_t pixel, Byte* out) {
  return filtered(row, above, bytes, pixel, out, [](Byte left, Byte, Byte) { return left; });
}

LUMVET_WIDE std::size_t filter_up(const Byte* row, const Byte* above, std::size_t bytes,
                                  std::size_t pixel, Byte* out) {
  return filtered(row, above, bytes, pixel, out, [](Byte, Byte up, Byte) { return up; });
}

LUMVET_WIDE std::size_t filter_average(const Byte* row, const Byte* above, std::size_t bytes,
                                       std::size_t pixel, Byte* out) {
  return filtered(row, above, bytes, pixel, out, [](Byte left, Byte up, Byte) {
    return static_cast<Byte>((left & up) + ((left ^ up) >> 1));
  });
}

LUMVET_WIDE std::size_t filter_paeth(const Byte* row, const Byte* above, std::size_t bytes,
                                     std::size_t pixel, Byte* out) {
  return filtered(row, above, bytes, pixel, out, paeth);
}

}  // namespace

const std::array<PngFilter, 4> kPngFilters = {filter_sub, filter_up, filter_average, filter_paeth};

LUMVET_WIDE std::size_t png_differences(const Byte* row, std::size_t bytes) {
  std::size_t sum = 0;
  for (std::size_t i = 0; i < bytes; ++i) sum += size_of(row[i]);
  return sum;
}

}  // namespace lumvet::raster
