// SPDX-License-Identifier: Apache-2.0
// With P a channel of the backdrop times its opacity b, S one of the source and a the source's
// opacity, P' = P (1 - a) + a (S (1 - b) + b B(P / b, S)); for these modes b B is reckoned from P
// itself.
#include "render/blend_rows.h"

#include <algorithm>
#include <bit>
#include <cstring>

#include "base/simd.h"

namespace lumvet::rendering {
namespace {

using color::BlendMode;
using Byte = std::uint8_t;
using Word = std::uint16_t;

constexpr int kBytes = kBlendBlock * 4;

// a × b / 255, rounded, within 16 bits.
Word times(Word a, Word b) {
  const auto x = static_cast<Word>(a * b + 128);
  return static_cast<Word>(static_cast<Word>(x + (x >> 8)) >> 8);
}

Word minus(Word a, Word b) { return static_cast<Word>(a - b); }
Word plus(Word a, Word b) { return static_cast<Word>(a + b); }

struct Multiply {
  static Word mixed(Word p, Word s, Word) { return times(p, s); }
};
struct Screen {
  static Word mixed(Word p, Word s, Word b) { return minus(plus(p, times(b, s)), times(p, s)); }
};
struct Overlay {
  static Word mixed(Word p, Word s, Word b) {
    const bool is_dark = 2 * p <= b;
    const Word twice = is_dark ? plus(p, p) : static_cast<Word>(2 * minus(b, p));
    const Word part = times(twice, is_dark ? s : minus(255, s));
    return is_dark ? part : minus(b, part);
  }
};
struct Darken {
  static Word mixed(Word p, Word s, Word b) { return std::min(p, times(b, s)); }
};
struct Lighten {
  static Word mixed(Word p, Word s, Word b) { return std::max(p, times(b, s)); }
};
struct HardLight {
  static Word mixed(Word p, Word s, Word b) {
    const bool is_dark = s <= 127;
    const Word twice = is_dark ? plus(s, s) : static_cast<Word>(2 * s - 255);
    const Word part = times(p, twice);
    return is_dark ? part : minus(plus(p, times(b, twice)), part);
  }
};
struct Difference {
  static Word mixed(Word p, Word s, Word b) {
    const Word q = times(b, s);
    return minus(std::max(p, q), std::min(p, q));
  }
};
struct Exclusion {
  static Word mixed(Word p, Word s, Word b) {
    const Word sum = plus(p, times(b, s));
    return minus(sum, std::min(sum, static_cast<Word>(2 * times(p, s))));
  }
};

// Each of these is as long as a block, and none is another; `alphas` and `opacities` have every
// value four times.
template <typename Mode>
inline __attribute__((always_inline)) void blend_all(Byte* __restrict pixels,
                                                     const Byte* __restrict sources,
                                                     const Byte* __restrict alphas,
                                                     const Byte* __restrict opacities) {
  for (int i = 0; i < kBytes; ++i) {
    const Word p = pixels[i];
    const Word s = sources[i];
    const Word a = alphas[i];
    const Word b = opacities[i];
    const Word mixed = plus(times(s, minus(255, b)), Mode::mixed(p, s, b));
    const Word most = mixed < 255 ? mixed : Word{255};
    const Word sum = plus(times(p, minus(255, a)), times(most, a));
    pixels[i] = static_cast<Byte>(sum < 255 ? sum : Word{255});
  }
}

LUMVET_WIDE void blend_spread(BlendMode mode, Byte* __restrict p, const Byte* __restrict s,
                              const Byte* __restrict a, const Byte* __restrict b) {
  switch (mode) {
    case BlendMode::multiply: return blend_all<Multiply>(p, s, a, b);
    case BlendMode::screen: return blend_all<Screen>(p, s, a, b);
    case BlendMode::overlay: return blend_all<Overlay>(p, s, a, b);
    case BlendMode::darken: return blend_all<Darken>(p, s, a, b);
    case BlendMode::lighten: return blend_all<Lighten>(p, s, a, b);
    case BlendMode::hard_light: return blend_all<HardLight>(p, s, a, b);
    case BlendMode::difference: return blend_all<Difference>(p, s, a, b);
    default: return blend_all<Exclusion>(p, s, a, b);
  }
}

}  // namespace

bool blends_in_rows(BlendMode mode) {
  switch (mode) {
    case BlendMode::multiply:
    case BlendMode::screen:
    case BlendMode::overlay:
    case BlendMode::darken:
    case BlendMode::lighten:
    case BlendMode::hard_light:
    case BlendMode::difference:
    case BlendMode::exclusion: return true;
    default: return false;
  }
}

LUMVET_WIDE void blend_block(BlendMode mode, Byte* __restrict pixels,
                             const Byte* __restrict sources, const Byte* __restrict alphas) {
  static_assert(std::endian::native == std::endian::little, "the opacity is the highest byte");
  Byte spread_alphas[kBytes];
  Byte opacities[kBytes];
  std::uint32_t together[kBlendBlock];  // the new opacities, in their place
  for (int i = 0; i < kBlendBlock; ++i) {
    const std::uint32_t alpha = alphas[i];
    std::uint32_t pixel;
    std::memcpy(&pixel, pixels + 4 * i, sizeof pixel);
    const std::uint32_t opacity = pixel >> 24;
    const std::uint32_t both = alpha * opacity + 128;
    together[i] = (alpha + opacity - ((both + (both >> 8)) >> 8)) << 24;
    const std::uint32_t four_alphas = alpha * 0x01010101u;
    const std::uint32_t four_opacities = opacity * 0x01010101u;
    std::memcpy(spread_alphas + 4 * i, &four_alphas, sizeof four_alphas);
    std::memcpy(opacities + 4 * i, &four_opacities, sizeof four_opacities);
  }
  blend_spread(mode, pixels, sources, spread_alphas, opacities);
  for (int i = 0; i < kBlendBlock; ++i) {
    std::uint32_t pixel;
    std::memcpy(&pixel, pixels + 4 * i, sizeof pixel);
    pixel = (pixel & 0x00FFFFFF) | together[i];
    std::memcpy(pixels + 4 * i, &pixel, sizeof pixel);
  }
}

}  // namespace lumvet::rendering
