// SPDX-License-Identifier: Apache-2.0
// The loops are written so that compilers make vector instructions of them: bytes widened to 16
// bits, no branches but between blocks.
#include "raster/blend.h"

#include <algorithm>
#include <bit>
#include <cstring>

#include "base/vectors.h"

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
constexpr int kFew = 8;     // pixels, for which preparing a block is not worth it

// Blocks of which every opacity is 0 or 255 need no arithmetic.
enum class Block { nothing, whole, mixed };

Block kind_of(const std::uint8_t* alphas) {
  std::uint64_t a[2];
  std::memcpy(a, alphas, sizeof a);
  if ((a[0] | a[1]) == 0) return Block::nothing;
  return (a[0] & a[1]) == ~std::uint64_t{0} ? Block::whole : Block::mixed;
}

// pixels = sources × alphas + pixels × (1 - alphas), where sources have 255 in the fourth byte.
LUMVET_WIDE void mix_block(std::uint8_t* __restrict pixels, const std::uint8_t* __restrict sources,
                           const std::uint8_t* __restrict alphas) {
  std::uint8_t spread[kBlock * 4];
  for (int i = 0; i < kBlock; ++i) {
    const std::uint32_t four = alphas[i] * 0x01010101u;
    std::memcpy(spread + 4 * i, &four, sizeof four);
  }
  for (int i = 0; i < kBlock * 4; ++i)
    pixels[i] =
        static_cast<std::uint8_t>(product(sources[i], spread[i]) +
                                  product(pixels[i], static_cast<std::uint8_t>(255 - spread[i])));
}

// pixels = added + pixels × rest, where `added` repeats itself.
LUMVET_WIDE void add_to_rest(std::uint8_t* pixels, const std::uint8_t* added, std::uint8_t rest,
                             int count) {
  for (; count >= kBlock; count -= kBlock, pixels += kBlock * 4)
    for (int i = 0; i < kBlock * 4; ++i)
      pixels[i] = static_cast<std::uint8_t>(added[i] + product(pixels[i], rest));
  for (int i = 0; i < count * 4; ++i)
    pixels[i] = static_cast<std::uint8_t>(added[i] + product(pixels[i], rest));
}

// Two channels at a time, each times `by` / 255, in the lower halves of their 16 bits.
std::uint32_t scaled(std::uint32_t channels, std::uint32_t by) {
  const std::uint32_t product = channels * by + 0x00800080u;
  return (product + (product >> 8 & 0x00FF00FFu)) >> 8 & 0x00FF00FFu;
}

// A colour in words, for few pixels: the same as blend_pixel.
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
  if (count < kFew) {
    for (int i = 0; i < count; ++i) std::memcpy(pixels + 4 * i, pixel.data(), 4);
    return;
  }
  const auto bytes = static_cast<std::size_t>(count) * 4;
  if (pixel[0] == pixel[1] && pixel[1] == pixel[2] && pixel[2] == pixel[3]) {
    std::memset(pixels, pixel[0], bytes);
    return;
  }
  std::uint8_t block[kBlock * 4];
  for (int i = 0; i < kBlock; ++i) std::memcpy(block + 4 * i, pixel.data(), 4);
  std::size_t done = 0;
  for (; done + sizeof block <= bytes; done += sizeof block)
    std::memcpy(pixels + done, block, sizeof block);
  std::memcpy(pixels + done, block, bytes - done);
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
  if (count < kFew) {
    const Ink ink(color);
    for (int i = 0; i < count; ++i) ink.blend(pixels + 4 * i, alpha);
    return;
  }
  std::uint8_t added[kBlock * 4];
  const auto part = static_cast<std::uint8_t>(alpha);
  fill_row(added, {product(color[0], part), product(color[1], part), product(color[2], part), part},
           std::min(count, kBlock));
  add_to_rest(pixels, added, static_cast<std::uint8_t>(255 - alpha), count);
}

void blend_row(std::uint8_t* pixels, const Rgb& color, const std::uint8_t* alphas, int count) {
  std::uint8_t sources[kBlock * 4];
  if (count >= kBlock) fill(sources, color, kBlock);
  int done = 0;
  for (; done + kBlock <= count; done += kBlock, pixels += kBlock * 4) {
    switch (kind_of(alphas + done)) {
      case Block::nothing: break;
      case Block::whole: std::memcpy(pixels, sources, sizeof sources); break;
      case Block::mixed: mix_block(pixels, sources, alphas + done);
    }
  }
  const Ink ink(color);
  for (; done < count; ++done, pixels += 4)
    if (alphas[done] != 0) ink.blend(pixels, alphas[done]);
}

void blend_row(std::uint8_t* pixels, const std::uint8_t* colors, unsigned alpha, int count) {
  if (alpha == 0) return;
  if (alpha == 255) return copy_opaque(pixels, colors, count);
  const auto part = static_cast<std::uint8_t>(alpha);
  const auto rest = static_cast<std::uint8_t>(255 - alpha);
  std::uint8_t opaque[kBlock * 4];
  while (count > 0) {
    const int some = std::min(count, kBlock);
    copy_opaque(opaque, colors, some);
    for (int i = 0; i < some * 4; ++i)
      pixels[i] = static_cast<std::uint8_t>(product(opaque[i], part) + product(pixels[i], rest));
    pixels += some * 4;
    colors += some * 4;
    count -= some;
  }
}

void blend_row(std::uint8_t* pixels, const std::uint8_t* colors, const std::uint8_t* alphas,
               int count) {
  std::uint8_t opaque[kBlock * 4];
  int done = 0;
  for (; done + kBlock <= count; done += kBlock, pixels += kBlock * 4, colors += kBlock * 4) {
    const Block kind = kind_of(alphas + done);
    if (kind == Block::nothing) continue;
    if (kind == Block::whole) {
      copy_opaque(pixels, colors, kBlock);
      continue;
    }
    copy_opaque(opaque, colors, kBlock);
    mix_block(pixels, opaque, alphas + done);
  }
  for (; done < count; ++done, pixels += 4, colors += 4)
    blend_pixel(pixels, colors[0], colors[1], colors[2], alphas[done]);
}

namespace {

void mix_premultiplied(std::uint8_t* pixel, const std::uint8_t* source, unsigned alpha) {
  std::uint32_t s;
  std::memcpy(&s, source, sizeof s);
  std::uint32_t even = s & 0x00FF00FFu;
  std::uint32_t odd = s >> 8 & 0x00FF00FFu;
  if (alpha != 255) {
    even = scaled(even, alpha);
    odd = scaled(odd, alpha);
  }
  const std::uint32_t rest = 255 - (odd >> 16);
  std::uint32_t p;
  std::memcpy(&p, pixel, sizeof p);
  even += scaled(p & 0x00FF00FFu, rest);
  odd += scaled(p >> 8 & 0x00FF00FFu, rest);
  p = even | odd << 8;
  std::memcpy(pixel, &p, sizeof p);
}

// A block of which the opacities are the sources' own times `alphas`.
LUMVET_WIDE void mix_premultiplied_block(std::uint8_t* __restrict pixels,
                                         const std::uint8_t* __restrict source,
                                         const std::uint8_t* __restrict alphas) {
  std::uint8_t spread[kBlock * 4];
  std::uint8_t added[kBlock * 4];
  std::uint8_t rest[kBlock * 4];
  for (int i = 0; i < kBlock; ++i) {
    const std::uint32_t four = alphas[i] * 0x01010101u;
    std::memcpy(spread + 4 * i, &four, sizeof four);
  }
  for (int i = 0; i < kBlock * 4; ++i) added[i] = product(source[i], spread[i]);
  for (int i = 0; i < kBlock; ++i) {
    std::uint32_t four;
    std::memcpy(&four, added + 4 * i, sizeof four);
    static_assert(std::endian::native == std::endian::little, "the opacity is the highest byte");
    four = (255 - (four >> 24)) * 0x01010101u;
    std::memcpy(rest + 4 * i, &four, sizeof four);
  }
  for (int i = 0; i < kBlock * 4; ++i)
    pixels[i] = static_cast<std::uint8_t>(added[i] + product(pixels[i], rest[i]));
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

void put_premultiplied_block(std::uint8_t* pixels, const std::uint8_t* source,
                             const std::uint8_t* alphas) {
  const Block kind = kind_of_premultiplied(source);
  if (kind == Block::nothing) return;
  if (kind == Block::whole && kind_of(alphas) == Block::whole)
    std::memcpy(pixels, source, kBlock * 4);
  else
    mix_premultiplied_block(pixels, source, alphas);
}

}  // namespace

void blend_premultiplied_row(std::uint8_t* pixels, const std::uint8_t* source, unsigned alpha,
                             int count) {
  std::uint8_t alphas[kBlock];
  std::memset(alphas, static_cast<int>(alpha), sizeof alphas);
  for (; count >= kBlock; count -= kBlock, pixels += kBlock * 4, source += kBlock * 4)
    put_premultiplied_block(pixels, source, alphas);
  for (int i = 0; i < count; ++i) mix_premultiplied(pixels + 4 * i, source + 4 * i, alpha);
}

void blend_premultiplied_row(std::uint8_t* pixels, const std::uint8_t* source,
                             const std::uint8_t* alphas, int count) {
  for (; count >= kBlock;
       count -= kBlock, pixels += kBlock * 4, source += kBlock * 4, alphas += kBlock)
    put_premultiplied_block(pixels, source, alphas);
  for (int i = 0; i < count; ++i) mix_premultiplied(pixels + 4 * i, source + 4 * i, alphas[i]);
}

}  // namespace lumvet::raster
