// SPDX-License-Identifier: Apache-2.0
// The loops are written so that compilers make vector instructions of them: bytes widened to 16
// bits, no branches but between blocks.
#include "raster/blend.h"

#include <algorithm>
#include <bit>
#include <cstring>

#include "base/simd.h"
#include "raster/eight_pixels.h"

namespace lumvet::raster {
namespace {

// div255 within 16 bits.
std::uint8_t narrow_255(std::uint16_t x) {
  const auto y = static_cast<std::uint16_t>(x + 128);
  return static_cast<std::uint8_t>(static_cast<std::uint16_t>(y + (y >> 8)) >> 8);
}

std::uint8_t product(std::uint8_t a, std::uint8_t b) {
  return narrow_255(static_cast<std::uint16_t>(a * b));
}

constexpr int kBlock = 16;  // pixels

// Blocks of which every opacity is 0 or 255 need no arithmetic.
enum class Block { nothing, whole, mixed };

Block kind_of(const std::uint8_t* alphas) {
  std::uint64_t a[2];
  std::memcpy(a, alphas, sizeof a);
  if ((a[0] | a[1]) == 0) return Block::nothing;
  return (a[0] & a[1]) == ~std::uint64_t{0} ? Block::whole : Block::mixed;
}

// Two channels at a time, each times `by` / 255, in the lower halves of their 16 bits.
inline std::uint32_t scaled(std::uint32_t channels, std::uint32_t by) {
  const std::uint32_t product = channels * by + 0x00800080u;
  return (product + (product >> 8 & 0x00FF00FFu)) >> 8 & 0x00FF00FFu;
}

inline std::uint32_t scaled_pixel(std::uint32_t pixel, std::uint32_t by) {
  return scaled(pixel & 0x00FF00FFu, by) | scaled(pixel >> 8 & 0x00FF00FFu, by) << 8;
}

inline std::uint32_t word_at(const std::uint8_t* bytes, int i) {
  std::uint32_t word;
  std::memcpy(&word, bytes + 4 * i, sizeof word);
  return word;
}

// pixels = sources × alphas + pixels × (1 - alphas), block after block; the sources, whose fourth
// byte does not count, are `step` bytes apart from one block to the next.
LUMVET_WIDE void mix_blocks(std::uint8_t* __restrict pixels, const std::uint8_t* __restrict sources,
                            std::size_t step, const std::uint8_t* __restrict alphas, int blocks) {
  for (; blocks > 0; --blocks, pixels += kBlock * 4, sources += step, alphas += kBlock) {
    const Block kind = kind_of(alphas);
    if (kind == Block::nothing) continue;
    for (int i = 0; i < kBlock; i += EightPixels::kCount) {
      EightPixels source;
      source.load(sources + 4 * i);
      source.make_opaque();
      if (kind == Block::mixed) {
        EightPixels alpha, below;
        alpha.spread(alphas + i);
        source.multiply(alpha);
        below.load(pixels + 4 * i);
        alpha.invert();
        below.multiply(alpha);
        source.add(below);
      }
      source.store(pixels + 4 * i);
    }
  }
}

// pixels = added + pixels × rest for as many blocks as there are, where `added` repeats itself.
LUMVET_WIDE void add_to_rest(std::uint8_t* pixels, const std::uint8_t* added,
                             const std::uint8_t* rest, int count) {
  EightPixels source, part;
  source.load(added);
  part.spread(rest);
  for (; count >= EightPixels::kCount; count -= EightPixels::kCount) {
    EightPixels below;
    below.load(pixels);
    below.multiply(part);
    below.add(source);
    below.store(pixels);
    pixels += EightPixels::kBytes;
  }
}

// A color in words, for few pixels: the same as blend_pixel.
struct Ink {
  std::uint32_t even;  // red and blue
  std::uint32_t odd;   // green and opacity

  explicit Ink(const Rgb& color)
      : even(color[0] | std::uint32_t{color[2]} << 16), odd(color[1] | 255u << 16) {}

  void blend(std::uint8_t* pixel, std::uint32_t alpha) const {
    std::uint32_t p;
    std::memcpy(&p, pixel, sizeof p);
    const std::uint32_t rest = 255 - alpha;
    p = (scaled(even, alpha) + scaled(p & 0x00FF00FFu, rest)) |
        (scaled(odd, alpha) + scaled(p >> 8 & 0x00FF00FFu, rest)) << 8;
    std::memcpy(pixel, &p, sizeof p);
  }
};

// Eight or more.
LUMVET_WIDE void fill_many(std::uint8_t* pixels, const std::uint8_t* pixel, int count) {
  const std::uint32_t word = word_at(pixel, 0);
  EightPixels::Words eight = {word, word, word, word, word, word, word, word};
  std::uint8_t* const last = pixels + std::ptrdiff_t{count} * 4 - EightPixels::kBytes;
  for (; pixels < last; pixels += EightPixels::kBytes) std::memcpy(pixels, &eight, sizeof eight);
  std::memcpy(last, &eight, sizeof eight);
}

void fill(std::uint8_t* pixels, const Rgb& color, int count) {
  fill_row(pixels, {color[0], color[1], color[2], 255}, count);
}

void copy_opaque(std::uint8_t* pixels, const std::uint8_t* colors, int count) {
  constexpr std::uint8_t kOpaque[4] = {0, 0, 0, 255};
  std::uint32_t opaque;
  std::memcpy(&opaque, kOpaque, sizeof opaque);
  for (int i = 0; i < count; ++i) {
    std::uint32_t word;
    std::memcpy(&word, colors + 4 * i, sizeof word);
    word |= opaque;
    std::memcpy(pixels + 4 * i, &word, sizeof word);
  }
}

}  // namespace

void fill_row(std::uint8_t* pixels, const std::array<std::uint8_t, 4>& pixel, int count) {
  if (count >= EightPixels::kCount) return fill_many(pixels, pixel.data(), count);
  for (int i = 0; i < count; ++i) std::memcpy(pixels + 4 * i, pixel.data(), 4);
}

LUMVET_WIDE void mix_bytes(std::uint8_t* __restrict out, const std::uint8_t* __restrict from,
                           const std::uint8_t* __restrict to, unsigned part, std::size_t count) {
  const auto second = static_cast<std::uint16_t>(part);
  const auto first = static_cast<std::uint16_t>(256 - part);
  for (std::size_t i = 0; i < count; ++i)
    out[i] = static_cast<std::uint8_t>(
        static_cast<std::uint16_t>(from[i] * first + to[i] * second + 128) >> 8);
}

LUMVET_WIDE void multiply(std::uint8_t* values, const std::uint8_t* by, int count) {
  for (int i = 0; i < count; ++i) values[i] = product(values[i], by[i]);
}

LUMVET_WIDE void multiply(std::uint8_t* values, unsigned by, int count) {
  if (by == 255) return;
  const auto factor = static_cast<std::uint8_t>(by);
  for (int i = 0; i < count; ++i) values[i] = product(values[i], factor);
}

void blend_row(std::uint8_t* pixels, const Rgb& color, unsigned alpha, int count) {
  if (alpha == 0) return;
  if (alpha == 255) return fill(pixels, color, count);
  if (count >= EightPixels::kCount) {
    const auto part = static_cast<std::uint8_t>(alpha);
    std::uint8_t added[EightPixels::kBytes];
    fill_row(added,
             {product(color[0], part), product(color[1], part), product(color[2], part), part},
             EightPixels::kCount);
    std::uint8_t rest[EightPixels::kCount];
    std::memset(rest, static_cast<int>(255 - alpha), sizeof rest);
    add_to_rest(pixels, added, rest, count);
    pixels += (count / EightPixels::kCount) * EightPixels::kBytes;
    count %= EightPixels::kCount;
  }
  const Ink ink(color);
  for (int i = 0; i < count; ++i) ink.blend(pixels + 4 * i, alpha);
}

void blend_row(std::uint8_t* pixels, const Rgb& color, const std::uint8_t* alphas, int count) {
  if (count >= kBlock) {
    std::uint8_t sources[kBlock * 4];
    fill(sources, color, kBlock);
    mix_blocks(pixels, sources, 0, alphas, count / kBlock);
  }
  const Ink ink(color);
  for (int done = count - count % kBlock; done < count; ++done)
    if (alphas[done] != 0) ink.blend(pixels + 4 * done, alphas[done]);
}

void blend_row(std::uint8_t* pixels, const std::uint8_t* colors, unsigned alpha, int count) {
  if (alpha == 0) return;
  if (alpha == 255) return copy_opaque(pixels, colors, count);
  std::uint8_t alphas[kBlock];
  std::memset(alphas, static_cast<int>(alpha), sizeof alphas);
  for (; count >= kBlock; count -= kBlock, pixels += kBlock * 4, colors += kBlock * 4)
    mix_blocks(pixels, colors, 0, alphas, 1);
  for (int i = 0; i < count; ++i, pixels += 4, colors += 4)
    blend_pixel(pixels, colors[0], colors[1], colors[2], alpha);
}

void blend_row(std::uint8_t* pixels, const std::uint8_t* colors, const std::uint8_t* alphas,
               int count) {
  mix_blocks(pixels, colors, kBlock * 4, alphas, count / kBlock);
  for (int i = count - count % kBlock; i < count; ++i)
    blend_pixel(pixels + 4 * i, colors[4 * i], colors[4 * i + 1], colors[4 * i + 2], alphas[i]);
}

namespace {

// A source that is multiplied already, made fainter, over a pixel.
inline void mix_premultiplied(std::uint8_t* pixel, const std::uint8_t* source, unsigned alpha) {
  static_assert(std::endian::native == std::endian::little, "the opacity is the highest byte");
  const std::uint32_t added = scaled_pixel(word_at(source, 0), alpha);
  const std::uint32_t mixed = added + scaled_pixel(word_at(pixel, 0), 255 - (added >> 24));
  std::memcpy(pixel, &mixed, sizeof mixed);
}

// Whether a block of sources leaves everything as it is, or nothing.
Block kind_of_premultiplied(const std::uint8_t* source) {
  std::uint64_t any = 0;
  std::uint64_t all = ~std::uint64_t{0};
  for (int i = 0; i < kBlock / 2; ++i) {
    std::uint64_t two;
    std::memcpy(&two, source + 8 * i, sizeof two);
    any |= two;
    all &= two;
  }
  constexpr std::uint8_t kOpaque[8] = {0, 0, 0, 255, 0, 0, 0, 255};
  std::uint64_t opaque;
  std::memcpy(&opaque, kOpaque, sizeof opaque);
  if (any == 0) return Block::nothing;
  return (all & opaque) == opaque ? Block::whole : Block::mixed;
}

// Blocks of which the opacities are the sources' own times `alphas`, which are `step` bytes apart.
LUMVET_WIDE void mix_premultiplied_blocks(std::uint8_t* __restrict pixels,
                                          const std::uint8_t* __restrict source,
                                          const std::uint8_t* __restrict alphas, std::size_t step,
                                          int blocks) {
  for (; blocks > 0; --blocks, pixels += kBlock * 4, source += kBlock * 4, alphas += step) {
    const Block kind = kind_of_premultiplied(source);
    const Block seen = kind_of(alphas);
    if (kind == Block::nothing || seen == Block::nothing) continue;
    if (kind == Block::whole && seen == Block::whole) {
      std::memcpy(pixels, source, kBlock * 4);
      continue;
    }
    for (int i = 0; i < kBlock; i += EightPixels::kCount) {
      EightPixels added, alpha, below;
      added.load(source + 4 * i);
      alpha.spread(alphas + i);
      added.multiply(alpha);
      below.load(pixels + 4 * i);
      alpha.take_rest_of(added);
      below.multiply(alpha);
      below.add(added);
      below.store(pixels + 4 * i);
    }
  }
}

}  // namespace

void blend_premultiplied_row(std::uint8_t* pixels, const std::uint8_t* source, unsigned alpha,
                             int count) {
  std::uint8_t alphas[kBlock];
  std::memset(alphas, static_cast<int>(alpha), sizeof alphas);
  mix_premultiplied_blocks(pixels, source, alphas, 0, count / kBlock);
  for (int i = count - count % kBlock; i < count; ++i)
    mix_premultiplied(pixels + 4 * i, source + 4 * i, alpha);
}

void blend_premultiplied_row(std::uint8_t* pixels, const std::uint8_t* source,
                             const std::uint8_t* alphas, int count) {
  mix_premultiplied_blocks(pixels, source, alphas, kBlock, count / kBlock);
  for (int i = count - count % kBlock; i < count; ++i)
    mix_premultiplied(pixels + 4 * i, source + 4 * i, alphas[i]);
}

}  // namespace lumvet::raster
