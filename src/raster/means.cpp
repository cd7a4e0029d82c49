// SPDX-License-Identifier: Apache-2.0
#include "raster/means.h"

#include "base/vectors.h"

namespace lumvet::raster {

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
