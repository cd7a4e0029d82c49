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

constexpr int kEight = EightPixels::kCount;

// Eight pixels of which every opacity is 0 or 255 need no arithmetic.
enum class Seen { nothing, whole, mixed };

Seen seen_of(const std::uint8_t* alphas) {
  std::uint64_t a;
  std::memcpy(&a, alphas, sizeof a);
  if (a == 0) return Seen::nothing;
  return a == ~std::uint64_t{0} ? Seen::whole : Seen::mixed;
}

inline std::uint32_t word_at(const std::uint8_t* bytes, int i) {
  std::uint32_t word;
  std::memcpy(&word, bytes + 4 * i, sizeof word);
  return word;
}

// result = sources × alphas + pixels × (1 - alphas); the fourth byte of the sources does not count.
LUMVET_INSIDE void mix_eight(EightPixels& result, const std::uint8_t* pixels,
                             const std::uint8_t* sources, const std::uint8_t* alphas, Seen seen) {
  result.load(sources);
  result.make_opaque();
  if (seen == Seen::whole) return;
  EightPixels alpha, below;
  alpha.spread(alphas);
  result.multiply(alpha);
  below.load(pixels);
  alpha.invert();
  below.multiply(alpha);
  result.add(below);
}

// The same for eight pixels or more. Sources and opacities of the next eight are the bytes of a
// step further on; they repeat themselves where it is 0. The last eight are reckoned first and
// stored last, so that it does not matter how many of them are among the others as well.
LUMVET_WIDE void mix_many(std::uint8_t* __restrict pixels, const std::uint8_t* __restrict sources,
                          std::ptrdiff_t source_step, const std::uint8_t* __restrict alphas,
                          std::ptrdiff_t alpha_step, int count) {
  const std::ptrdiff_t last = count - kEight;
  EightPixels at_end;
  mix_eight(at_end, pixels + 4 * last, sources + (source_step == 0 ? 0 : 4 * last),
            alphas + (alpha_step == 0 ? 0 : last), Seen::mixed);
  for (std::ptrdiff_t i = 0; i < last; i += kEight, sources += source_step, alphas += alpha_step) {
    const Seen seen = seen_of(alphas);
    if (seen == Seen::nothing) continue;
    EightPixels mixed;
    mix_eight(mixed, pixels + 4 * i, sources, alphas, seen);
    mixed.store(pixels + 4 * i);
  }
  at_end.store(pixels + 4 * last);
}

// result = added + pixels × rest
LUMVET_INSIDE void add_to_eight(EightPixels& result, const std::uint8_t* pixels,
                                const EightPixels& added, const EightPixels& rest) {
  result.load(pixels);
  result.multiply(rest);
  result.add(added);
}

// The same for one color and one opacity, of which what is added is reckoned once.
LUMVET_WIDE void add_to_rest(std::uint8_t* pixels, const Rgb& color, unsigned alpha, int count) {
  std::uint8_t faint[4] = {};
  blend_pixel(faint, color[0], color[1], color[2], alpha);
  std::uint32_t words[kEight];
  for (std::uint32_t& word : words) word = word_at(faint, 0);
  std::uint8_t parts[kEight];
  std::memset(parts, static_cast<int>(255 - alpha), sizeof parts);
  EightPixels source, part, at_end, mixed;
  source.load(reinterpret_cast<const std::uint8_t*>(words));
  part.spread(parts);
  std::uint8_t* const last = pixels + std::ptrdiff_t{count - kEight} * 4;
  add_to_eight(at_end, last, source, part);
  for (; pixels < last; pixels += EightPixels::kBytes) {
    add_to_eight(mixed, pixels, source, part);
    mixed.store(pixels);
  }
  at_end.store(last);
}

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

namespace {

LUMVET_INSIDE void load(EightPixels& pixels, const std::uint32_t* words) {
  pixels.load(reinterpret_cast<const std::uint8_t*>(words));
}

LUMVET_INSIDE void store(const EightPixels& pixels, std::uint8_t* out, int count) {
  std::uint8_t all[EightPixels::kBytes];
  pixels.store(count == kEight ? out : all);
  if (count != kEight) std::memcpy(out, all, static_cast<std::size_t>(count) * 4);
}

}  // namespace

LUMVET_WIDE void mix_across(const EightPlaces& places, std::uint8_t* out, int count) {
  EightPixels left, right, part;
  load(left, places.upper_left);
  load(right, places.upper_right);
  part.spread(places.across);
  left.go_toward(right, part);
  store(left, out, count);
}

LUMVET_WIDE void mix_both_ways(const EightPlaces& places, std::uint8_t* out, int count) {
  EightPixels upper, lower, right, part;
  part.spread(places.across);
  load(upper, places.upper_left);
  load(right, places.upper_right);
  upper.go_toward(right, part);
  load(lower, places.lower_left);
  load(right, places.lower_right);
  lower.go_toward(right, part);
  part.spread(places.down);
  upper.go_toward(lower, part);
  store(upper, out, count);
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
  if (count >= kEight) return add_to_rest(pixels, color, alpha, count);
  for (std::ptrdiff_t i = 0; i < count; ++i)
    blend_pixel(pixels + 4 * i, color[0], color[1], color[2], alpha);
}

void blend_row(std::uint8_t* pixels, const Rgb& color, const std::uint8_t* alphas, int count) {
  if (count >= kEight) {
    std::uint8_t sources[kEight * 4];
    fill(sources, color, kEight);
    return mix_many(pixels, sources, 0, alphas, kEight, count);
  }
  for (std::ptrdiff_t i = 0; i < count; ++i)
    if (alphas[i] != 0) blend_pixel(pixels + 4 * i, color[0], color[1], color[2], alphas[i]);
}

void blend_row(std::uint8_t* pixels, const std::uint8_t* colors, unsigned alpha, int count) {
  if (alpha == 0) return;
  if (alpha == 255) return copy_opaque(pixels, colors, count);
  if (count >= kEight) {
    std::uint8_t alphas[kEight];
    std::memset(alphas, static_cast<int>(alpha), sizeof alphas);
    return mix_many(pixels, colors, EightPixels::kBytes, alphas, 0, count);
  }
  for (int i = 0; i < count; ++i, pixels += 4, colors += 4)
    blend_pixel(pixels, colors[0], colors[1], colors[2], alpha);
}

void blend_row(std::uint8_t* pixels, const std::uint8_t* colors, const std::uint8_t* alphas,
               int count) {
  if (count >= kEight) return mix_many(pixels, colors, EightPixels::kBytes, alphas, kEight, count);
  for (int i = 0; i < count; ++i)
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

// Whether eight sources leave everything as it is, or nothing.
Seen seen_of_premultiplied(const std::uint8_t* sources) {
  std::uint64_t any = 0;
  std::uint64_t all = ~std::uint64_t{0};
  for (std::ptrdiff_t i = 0; i < kEight / 2; ++i) {
    std::uint64_t two;
    std::memcpy(&two, sources + 8 * i, sizeof two);
    any |= two;
    all &= two;
  }
  constexpr std::uint8_t kOpaque[8] = {0, 0, 0, 255, 0, 0, 0, 255};
  std::uint64_t opaque;
  std::memcpy(&opaque, kOpaque, sizeof opaque);
  if (any == 0) return Seen::nothing;
  return (all & opaque) == opaque ? Seen::whole : Seen::mixed;
}

LUMVET_INSIDE void mix_eight_premultiplied(EightPixels& result, const std::uint8_t* pixels,
                                           const std::uint8_t* sources,
                                           const std::uint8_t* alphas) {
  EightPixels rest, below;
  result.load(sources);
  rest.spread(alphas);
  result.multiply(rest);
  below.load(pixels);
  rest.take_rest_of(result);
  below.multiply(rest);
  result.add(below);
}

// Eight pixels or more, whose opacities are the sources' own times `alphas`; steps and the last
// eight as above.
LUMVET_WIDE void mix_premultiplied_many(std::uint8_t* __restrict pixels,
                                        const std::uint8_t* __restrict sources,
                                        const std::uint8_t* __restrict alphas,
                                        std::ptrdiff_t alpha_step, int count) {
  const std::ptrdiff_t last = count - kEight;
  EightPixels at_end;
  mix_eight_premultiplied(at_end, pixels + 4 * last, sources + 4 * last,
                          alphas + (alpha_step == 0 ? 0 : last));
  for (std::ptrdiff_t i = 0; i < last; i += kEight, alphas += alpha_step) {
    const Seen kind = seen_of_premultiplied(sources + 4 * i);
    const Seen seen = seen_of(alphas);
    if (kind == Seen::nothing || seen == Seen::nothing) continue;
    if (kind == Seen::whole && seen == Seen::whole) {
      std::memcpy(pixels + 4 * i, sources + 4 * i, EightPixels::kBytes);
      continue;
    }
    EightPixels mixed;
    mix_eight_premultiplied(mixed, pixels + 4 * i, sources + 4 * i, alphas);
    mixed.store(pixels + 4 * i);
  }
  at_end.store(pixels + 4 * last);
}

}  // namespace

void blend_premultiplied_row(std::uint8_t* pixels, const std::uint8_t* sources, unsigned alpha,
                             int count) {
  if (count >= kEight) {
    std::uint8_t alphas[kEight];
    std::memset(alphas, static_cast<int>(alpha), sizeof alphas);
    return mix_premultiplied_many(pixels, sources, alphas, 0, count);
  }
  for (std::ptrdiff_t i = 0; i < count; ++i)
    mix_premultiplied(pixels + 4 * i, sources + 4 * i, alpha);
}

void blend_premultiplied_row(std::uint8_t* pixels, const std::uint8_t* sources,
                             const std::uint8_t* alphas, int count) {
  if (count >= kEight) return mix_premultiplied_many(pixels, sources, alphas, kEight, count);
  for (std::ptrdiff_t i = 0; i < count; ++i)
    mix_premultiplied(pixels + 4 * i, sources + 4 * i, alphas[i]);
}

}  // namespace lumvet::raster
