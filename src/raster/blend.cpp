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

// Eight pixels or more, eight at a time: `mix(i, result)` makes those from the pixel i on, and says
// whether they become others. The last eight are made first and stored last, so that it does not
// matter how many of them are among the others as well.
template <typename Mix>
LUMVET_INSIDE void in_eights(std::uint8_t* pixels, int count, const Mix& mix) {
  const std::ptrdiff_t last = count - kEight;
  EightPixels at_end, mixed;
  const bool has_end = mix(last, at_end);
  for (std::ptrdiff_t i = 0; i < last; i += kEight)
    if (mix(i, mixed)) mixed.store(pixels + 4 * i);
  if (has_end) at_end.store(pixels + 4 * last);
}

// The same sources, or the same opacities, for all are eight that repeat themselves.
enum class Given { same, each };

LUMVET_WIDE void mix_many(std::uint8_t* pixels, const std::uint8_t* sources, Given colors,
                          const std::uint8_t* alphas, Given opacities, int count) {
  in_eights(
      pixels, count, [=](std::ptrdiff_t i, EightPixels & result) __attribute__((always_inline)) {
        const std::uint8_t* const own = alphas + (opacities == Given::same ? 0 : i);
        const Seen seen = seen_of(own);
        if (seen == Seen::nothing) return false;
        mix_eight(result, pixels + 4 * i, sources + (colors == Given::same ? 0 : 4 * i), own, seen);
        return true;
      });
}

// pixels = added + pixels × rest / 255, for one color and one opacity.
LUMVET_WIDE void add_to_rest(std::uint8_t* pixels, const Rgb& color, unsigned alpha, int count) {
  std::uint8_t faint[4] = {};
  blend_pixel(faint, color[0], color[1], color[2], alpha);
  std::uint32_t words[kEight];
  for (std::uint32_t& word : words) word = word_at(faint, 0);
  std::uint8_t parts[kEight];
  std::memset(parts, static_cast<int>(255 - alpha), sizeof parts);
  EightPixels added, rest;
  added.load(reinterpret_cast<const std::uint8_t*>(words));
  rest.spread(parts);
  in_eights(
      pixels, count, [&](std::ptrdiff_t i, EightPixels & result) __attribute__((always_inline)) {
        result.load(pixels + 4 * i);
        result.multiply(rest);
        result.add(added);
        return true;
      });
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
    return mix_many(pixels, sources, Given::same, alphas, Given::each, count);
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
    return mix_many(pixels, colors, Given::each, alphas, Given::same, count);
  }
  for (int i = 0; i < count; ++i, pixels += 4, colors += 4)
    blend_pixel(pixels, colors[0], colors[1], colors[2], alpha);
}

void blend_row(std::uint8_t* pixels, const std::uint8_t* colors, const std::uint8_t* alphas,
               int count) {
  if (count >= kEight) return mix_many(pixels, colors, Given::each, alphas, Given::each, count);
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

// Eight pixels or more, whose opacities are the sources' own times `alphas`.
LUMVET_WIDE void mix_premultiplied_many(std::uint8_t* pixels, const std::uint8_t* sources,
                                        const std::uint8_t* alphas, Given opacities, int count) {
  in_eights(
      pixels, count, [=](std::ptrdiff_t i, EightPixels & result) __attribute__((always_inline)) {
        const std::uint8_t* const own = alphas + (opacities == Given::same ? 0 : i);
        const Seen kind = seen_of_premultiplied(sources + 4 * i);
        const Seen seen = seen_of(own);
        if (kind == Seen::nothing || seen == Seen::nothing) return false;
        result.load(sources + 4 * i);
        if (kind == Seen::whole && seen == Seen::whole) return true;
        EightPixels rest, below;
        rest.spread(own);
        result.multiply(rest);
        below.load(pixels + 4 * i);
        rest.take_rest_of(result);
        below.multiply(rest);
        result.add(below);
        return true;
      });
}

}  // namespace

void blend_premultiplied_row(std::uint8_t* pixels, const std::uint8_t* sources, unsigned alpha,
                             int count) {
  if (count >= kEight) {
    std::uint8_t alphas[kEight];
    std::memset(alphas, static_cast<int>(alpha), sizeof alphas);
    return mix_premultiplied_many(pixels, sources, alphas, Given::same, count);
  }
  for (std::ptrdiff_t i = 0; i < count; ++i)
    mix_premultiplied(pixels + 4 * i, sources + 4 * i, alpha);
}

void blend_premultiplied_row(std::uint8_t* pixels, const std::uint8_t* sources,
                             const std::uint8_t* alphas, int count) {
  if (count >= kEight) return mix_premultiplied_many(pixels, sources, alphas, Given::each, count);
  for (std::ptrdiff_t i = 0; i < count; ++i)
    mix_premultiplied(pixels + 4 * i, sources + 4 * i, alphas[i]);
}

}  // namespace lumvet::raster
