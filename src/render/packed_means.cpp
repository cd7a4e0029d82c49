// SPDX-License-Identifier: Apache-2.0
#include "render/packed_means.h"

#include <algorithm>
#include <bit>
#include <cstring>

#include "base/vectors.h"

namespace lumvet::rendering {
namespace {

// Eight bytes, or those that are left, the first highest.
std::uint64_t bits_from(const std::uint8_t* bytes, int left) {
  std::uint64_t word = 0;
  if (left >= 8) {
    std::memcpy(&word, bytes, sizeof word);
    return __builtin_bswap64(word);
  }
  for (int i = 0; i < left; ++i) word |= std::uint64_t{bytes[i]} << (56 - 8 * i);
  return word;
}

// From sums in 1/65536 to what stands for them.
LUMVET_WIDE void put_means(const std::int32_t* sums, int zero, int one, std::uint8_t* means,
                           std::size_t count) {
  constexpr int kHalf = 1 << 15;
  for (std::size_t i = 0; i < count; ++i)
    means[i] = static_cast<std::uint8_t>(((zero << 16) + (one - zero) * sums[i] + kHalf) >> 16);
}

}  // namespace

void PackedMeans::set_pixels(const std::vector<Extent>& pixels) {
  first_ = static_cast<int>(pixels.front().left / kWhole);
  last_ = static_cast<int>((pixels.back().right - 1) / kWhole);
  columns_.clear();
  std::size_t pixel = 0;
  for (int column = first_; column <= last_; ++column) {
    const std::int64_t left = std::int64_t{column} * kWhole;
    while (pixel + 1 < pixels.size() && pixels[pixel].right <= left) ++pixel;
    const Extent& extent = pixels[pixel];
    const double to_right = static_cast<double>(std::max(extent.right - left, std::int64_t{0}));
    const double width = static_cast<double>(extent.right - extent.left);
    columns_.push_back({static_cast<std::int32_t>(pixel),
                        static_cast<std::int32_t>(std::min(to_right / width, 1.0) * kWhole + 0.5)});
  }
  changes_.assign(pixels.size() + 1, 0);
  means_.resize(pixels.size());
}

void PackedMeans::add(const std::uint8_t* row, int weight) {
  const int begin = first_ / 8;
  const int end = last_ / 8 + 1;
  std::uint64_t before = row[begin] >> (7 - first_ % 8) & 1u;
  int change = before != 0 ? -weight : weight;
  if (before != 0) changes_[0] += weight * kWhole;
  std::uint64_t counted = ~std::uint64_t{0} >> (first_ % 8) >> 1;  // from the second column on
  for (int at = begin; at < end; at += 8) {
    const std::uint64_t bits = bits_from(row + at, end - at);
    std::uint64_t differ = (bits ^ (bits >> 1 | before << 63)) & counted;
    before = bits & 1;
    counted = ~std::uint64_t{0};
    const int behind = at * 8 + 63 - last_;
    if (behind > 0) differ &= counted << behind;
    for (; differ != 0; change = -change) {
      const int bit = std::countl_zero(differ);
      differ &= ~(std::uint64_t{1} << 63 >> bit);
      const Column& column = columns_[static_cast<std::size_t>(at * 8 + bit - first_)];
      std::int32_t* sums = &changes_[static_cast<std::size_t>(column.pixel)];
      sums[0] += change * column.part;
      sums[1] += change * (kWhole - column.part);
    }
  }
}

const std::uint8_t* PackedMeans::take(std::uint8_t zero, std::uint8_t one) {
  std::int32_t sum = 0;
  for (std::int32_t& change : changes_) change = sum += change;
  put_means(changes_.data(), zero, one, means_.data(), means_.size());
  std::fill(changes_.begin(), changes_.end(), 0);
  return means_.data();
}

}  // namespace lumvet::rendering
