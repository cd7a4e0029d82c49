// SPDX-License-Identifier: Apache-2.0
// Colors over pixels: the "source over" of premultiplied 8-bit channels, rounded to nearest, one
// pixel or many in a row.
//
// Threads: free functions.
#pragma once

#include <array>
#include <bit>
#include <cstdint>
#include <cstring>

namespace lumvet::raster {

// x / 255, rounded, for x up to 255 * 255.
inline unsigned div255(unsigned x) {
  x += 128;
  return (x + (x >> 8)) >> 8;
}

// Two channels at a time, each times `by` / 255, in the lower halves of their 16 bits.
inline std::uint32_t scaled(std::uint32_t channels, std::uint32_t by) {
  const std::uint32_t product = channels * by + 0x00800080u;
  return (product + (product >> 8 & 0x00FF00FFu)) >> 8 & 0x00FF00FFu;
}

// All four.
inline std::uint32_t scaled_pixel(std::uint32_t pixel, std::uint32_t by) {
  return scaled(pixel & 0x00FF00FFu, by) | scaled(pixel >> 8 & 0x00FF00FFu, by) << 8;
}

inline void blend_pixel(std::uint8_t* pixel, unsigned red, unsigned green, unsigned blue,
                        unsigned alpha) {
  static_assert(std::endian::native == std::endian::little, "the opacity is the highest byte");
  std::uint32_t below;
  std::memcpy(&below, pixel, sizeof below);
  const std::uint32_t mixed =
      (scaled(red | blue << 16, alpha) | scaled(green | 255u << 16, alpha) << 8) +
      scaled_pixel(below, 255 - alpha);
  std::memcpy(pixel, &mixed, sizeof mixed);
}

// The bytes of a pixel in 16 bits each, so that all are reckoned with at once.
inline std::uint64_t spread(const std::uint8_t* pixel) {
  static_assert(std::endian::native == std::endian::little);
  std::uint64_t wide = 0;
  std::memcpy(&wide, pixel, 4);
  wide = (wide | wide << 16) & 0x0000'FFFF'0000'FFFF;
  return (wide | wide << 8) & 0x00FF'00FF'00FF'00FF;
}

// The same bytes side by side again, the first lowest.
inline std::uint32_t narrowed(std::uint64_t wide) {
  wide = (wide | wide >> 8) & 0x0000'FFFF'0000'FFFF;
  return static_cast<std::uint32_t>(wide | wide >> 16);
}

using Rgb = std::array<std::uint8_t, 3>;

// values[i] = values[i] × by / 255.
void multiply(std::uint8_t* values, const std::uint8_t* by, int count);
void multiply(std::uint8_t* values, unsigned by, int count);

// The same as blend_pixel for each of `count` pixels: one color, or four bytes for each pixel of
// which the fourth does not count; one opacity, or one for each.
void blend_row(std::uint8_t* pixels, const Rgb& color, unsigned alpha, int count);
void blend_row(std::uint8_t* pixels, const Rgb& color, const std::uint8_t* alphas, int count);
void blend_row(std::uint8_t* pixels, const std::uint8_t* colors, unsigned alpha, int count);
void blend_row(std::uint8_t* pixels, const std::uint8_t* colors, const std::uint8_t* alphas,
               int count);

// out[i] = from[i] and to[i] mixed, `part` in 1/256 of the way, rounded.
void mix_bytes(std::uint8_t* out, const std::uint8_t* from, const std::uint8_t* to, unsigned part,
               std::size_t count);

// How far a place, in 2^-32, is from one whole number to the next, in 1/256.
inline std::uint8_t part_of(std::int64_t place) { return static_cast<std::uint8_t>(place >> 24); }

// Eight pixels, and how far each is from one place to the next, in 1/256.
struct EightPlaces {
  static constexpr int kCount = 8;
  std::uint32_t upper_left[kCount];
  std::uint32_t upper_right[kCount];
  std::uint32_t lower_left[kCount];
  std::uint32_t lower_right[kCount];
  std::uint8_t across[kCount];
  std::uint8_t down[kCount];
};

// The upper ones mixed, or all four, rounded each time; `count` of them, at most eight.
void mix_across(const EightPlaces& places, std::uint8_t* out, int count);
void mix_both_ways(const EightPlaces& places, std::uint8_t* out, int count);

void fill_row(std::uint8_t* pixels, const std::array<std::uint8_t, 4>& pixel, int count);

// The same for sources whose colors are multiplied already, made fainter by `alpha` or `alphas`
// first.
void blend_premultiplied_row(std::uint8_t* pixels, const std::uint8_t* source, unsigned alpha,
                             int count);
void blend_premultiplied_row(std::uint8_t* pixels, const std::uint8_t* source,
                             const std::uint8_t* alphas, int count);

}  // namespace lumvet::raster
