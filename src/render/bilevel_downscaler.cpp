// SPDX-License-Identifier: Apache-2.0
#include "render/bilevel_downscaler.h"

#include <algorithm>
#include <bit>
#include <cstring>

#include "base/simd.h"

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

constexpr std::size_t kBlock = 8;  // pixels, most of which are like the one before

// Where means go: a byte each, or an opaque gray pixel each.
struct AsBytes {
  using Each = std::uint8_t;
  static Each of(std::uint32_t mean) { return static_cast<Each>(mean); }
};
struct AsPixels {
  using Each = std::uint32_t;
  static Each of(std::uint32_t mean) { return 0xFF000000u | mean * 0x010101u; }
};

// From changes of sums in 1/65536 to what the sums stand for; takes the changes back.
template <typename As>
inline __attribute__((always_inline)) void put(std::int32_t* changes, int zero, int one,
                                               std::uint8_t* out, std::size_t count) {
  constexpr int kHalf = 1 << 15;
  using Each = typename As::Each;
  const auto mean_of = [=](std::int32_t sum) {
    return As::of(static_cast<std::uint32_t>(((zero << 16) + (one - zero) * sum + kHalf) >> 16));
  };
  std::int32_t sum = 0;
  for (std::size_t at = 0; at < count; at += kBlock, changes += kBlock) {
    Each means[kBlock];
    std::uint32_t any = 0;
    for (std::size_t i = 0; i < kBlock; ++i) any |= static_cast<std::uint32_t>(changes[i]);
    if (any == 0) {
      const Each mean = mean_of(sum);
      for (Each& each : means) each = mean;
    } else {
      for (std::size_t i = 0; i < kBlock; ++i) changes[i] = sum += changes[i];
      for (std::size_t i = 0; i < kBlock; ++i) means[i] = mean_of(changes[i]);
      for (std::size_t i = 0; i < kBlock; ++i) changes[i] = 0;
    }
    const std::size_t there = std::min(kBlock, count - at);
    std::memcpy(out, means, there == kBlock ? sizeof means : there * sizeof(Each));
    out += sizeof means;
  }
}

LUMVET_WIDE void put_bytes(std::int32_t* changes, int zero, int one, std::uint8_t* out,
                           std::size_t count) {
  put<AsBytes>(changes, zero, one, out, count);
}

LUMVET_WIDE void put_pixels(std::int32_t* changes, int zero, int one, std::uint8_t* out,
                            std::size_t count) {
  put<AsPixels>(changes, zero, one, out, count);
}

}  // namespace

void BilevelDownscaler::set_pixels(const std::vector<Extent>& pixels) {
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
  pixels_ = pixels.size();
  // Whole blocks, with room for a change behind the last pixel.
  changes_.assign((pixels_ / kBlock + 1) * kBlock, 0);
}

void BilevelDownscaler::add(const std::uint8_t* row, int weight) {
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

void BilevelDownscaler::take_bytes(std::uint8_t zero, std::uint8_t one, std::uint8_t* out) {
  put_bytes(changes_.data(), zero, one, out, pixels_);
  changes_.back() = 0;
}

void BilevelDownscaler::take_pixels(std::uint8_t zero, std::uint8_t one, std::uint8_t* out) {
  put_pixels(changes_.data(), zero, one, out, pixels_);
  changes_.back() = 0;
}

}  // namespace lumvet::rendering
