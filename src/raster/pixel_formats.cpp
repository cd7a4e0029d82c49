// SPDX-License-Identifier: Apache-2.0
#include "raster/pixel_formats.h"

#include <algorithm>
#include <array>
#include <bit>
#include <cstring>

#include "base/simd.h"

namespace lumvet {

std::size_t bytes_per_row(PixelFormat format, int width) {
  const auto pixels = static_cast<std::size_t>(width);
  switch (format) {
    case PixelFormat::rgba:
    case PixelFormat::bgra: return pixels * 4;
    case PixelFormat::rgb:
    case PixelFormat::bgr: return pixels * 3;
    case PixelFormat::gray: return pixels;
    case PixelFormat::bilevel: return (pixels + 7) / 8;
  }
  return 0;
}

namespace raster {
namespace {

// The order in which the dots of an 8 x 8 cell turn white as gray grows lighter, each as far as
// can be from those before it.
constexpr std::uint8_t kDots[8][8] = {
    {0, 32, 8, 40, 2, 34, 10, 42},  {48, 16, 56, 24, 50, 18, 58, 26},
    {12, 44, 4, 36, 14, 46, 6, 38}, {60, 28, 52, 20, 62, 30, 54, 22},
    {3, 35, 11, 43, 1, 33, 9, 41},  {51, 19, 59, 27, 49, 17, 57, 25},
    {15, 47, 7, 39, 13, 45, 5, 37}, {63, 31, 55, 23, 61, 29, 53, 21}};

// On white, where it is not opaque.
unsigned on_white(unsigned premultiplied, unsigned alpha) { return premultiplied + 255 - alpha; }

std::uint8_t gray_on_white(const std::uint8_t* p) {
  return static_cast<std::uint8_t>(on_white(luminance(p[0], p[1], p[2]), p[3]));
}

bool is_white(unsigned gray, Halftone halftone, int x, int y) {
  if (halftone == Halftone::threshold) return gray >= 128;
  return gray * 64 > (kDots[y & 7][x & 7] * 255u + 127u);
}

// Four pixels by words, when all of them are opaque and words have their lowest byte first.
bool four_to_rgb(const std::uint8_t* rgba, std::uint8_t* out) {
  constexpr std::uint32_t kOpaque = 0xFF000000;
  std::array<std::uint32_t, 4> p{};
  std::memcpy(p.data(), rgba, sizeof p);
  if (std::endian::native != std::endian::little ||
      (p[0] & p[1] & p[2] & p[3] & kOpaque) != kOpaque)
    return false;
  const std::array<std::uint32_t, 3> packed = {(p[0] & ~kOpaque) | p[1] << 24,
                                               (p[1] >> 8 & 0xFFFF) | p[2] << 16,
                                               (p[2] >> 16 & 0xFF) | p[3] << 8};
  std::memcpy(out, packed.data(), sizeof packed);
  return true;
}

void to_bits(const std::uint8_t* rgba, int count, Halftone halftone, int x, int y,
             std::uint8_t* out) {
  for (int first = 0; first < count; first += 8, ++out) {
    unsigned byte = 0;
    for (int i = first; i < std::min(first + 8, count); ++i)
      if (is_white(gray_on_white(rgba + 4 * i), halftone, x + i, y)) byte |= 0x80u >> (i - first);
    *out = static_cast<std::uint8_t>(byte);
  }
}

}  // namespace

void from_rgba(const std::uint8_t* rgba, int count, PixelFormat format, Halftone halftone, int x,
               int y, std::uint8_t* out) {
  const std::uint8_t* const end = rgba + std::ptrdiff_t{count} * 4;
  const int red = format == PixelFormat::bgr || format == PixelFormat::bgra ? 2 : 0;
  switch (format) {
    case PixelFormat::rgba: std::copy(rgba, end, out); return;
    case PixelFormat::bgra:
      std::copy(rgba, end, out);
      swap_red_and_blue(out, static_cast<std::size_t>(count));
      return;
    case PixelFormat::rgb:
    case PixelFormat::bgr:
      while (rgba != end) {
        if (red == 0 && end - rgba >= 16 && four_to_rgb(rgba, out)) {
          rgba += 16;
          out += 12;
          continue;
        }
        out[red] = static_cast<std::uint8_t>(on_white(rgba[0], rgba[3]));
        out[1] = static_cast<std::uint8_t>(on_white(rgba[1], rgba[3]));
        out[2 - red] = static_cast<std::uint8_t>(on_white(rgba[2], rgba[3]));
        rgba += 4;
        out += 3;
      }
      return;
    case PixelFormat::gray:
      for (; rgba != end; rgba += 4) *out++ = gray_on_white(rgba);
      return;
    case PixelFormat::bilevel: to_bits(rgba, count, halftone, x, y, out);
  }
}

LUMVET_WIDE void swap_red_and_blue(std::uint8_t* pixels, std::size_t count) {
  for (std::size_t i = 0; i < count; ++i) {  // in words, of which compilers make vectors
    std::uint32_t word;
    std::memcpy(&word, pixels + 4 * i, sizeof word);
    static_assert(std::endian::native == std::endian::little);
    word = (word & 0xFF00FF00u) | (word >> 16 & 0xFFu) | (word & 0xFFu) << 16;
    std::memcpy(pixels + 4 * i, &word, sizeof word);
  }
}

namespace {

std::uint32_t word_at(const std::uint8_t* rgba, std::size_t i) {
  std::uint32_t word;
  std::memcpy(&word, rgba + 4 * i, sizeof word);
  return word;
}

}  // namespace

LUMVET_WIDE void take_luminances(const std::uint8_t* __restrict rgba, std::size_t count,
                                 std::uint8_t* __restrict out) {
  for (std::size_t i = 0; i < count; ++i) {
    const std::uint32_t word = word_at(rgba, i);
    out[i] = static_cast<std::uint8_t>(luminance(word & 255, word >> 8 & 255, word >> 16 & 255));
  }
}

LUMVET_WIDE bool are_opaque(const std::uint8_t* rgba, std::size_t count) {
  std::uint32_t all = ~std::uint32_t{0};
  for (std::size_t i = 0; i < count; ++i) all &= word_at(rgba, i);
  return all >> 24 == 255;
}

LUMVET_WIDE void take_opacities(const std::uint8_t* __restrict rgba, std::size_t count,
                                std::uint8_t* __restrict out) {
  for (std::size_t i = 0; i < count; ++i)
    out[i] = static_cast<std::uint8_t>(word_at(rgba, i) >> 24);
}

void to_straight(const std::uint8_t* row, int count, PixelFormat format, std::uint8_t* out) {
  const int red = format == PixelFormat::bgr || format == PixelFormat::bgra ? 2 : 0;
  for (int i = 0; i < count; ++i, out += 4) {
    out[3] = 255;
    switch (format) {
      case PixelFormat::rgba:
      case PixelFormat::bgra: {
        const std::uint8_t* p = row + std::ptrdiff_t{i} * 4;
        const unsigned alpha = p[3];
        const auto plain = [alpha](unsigned channel) {
          return static_cast<std::uint8_t>(
              alpha == 0 ? 0 : std::min(255u, (channel * 255 + alpha / 2) / alpha));
        };
        out[0] = plain(p[red]);
        out[1] = plain(p[1]);
        out[2] = plain(p[2 - red]);
        out[3] = p[3];
        break;
      }
      case PixelFormat::rgb:
      case PixelFormat::bgr: {
        const std::uint8_t* p = row + std::ptrdiff_t{i} * 3;
        out[0] = p[red];
        out[1] = p[1];
        out[2] = p[2 - red];
        break;
      }
      case PixelFormat::gray: out[0] = out[1] = out[2] = row[i]; break;
      case PixelFormat::bilevel:
        out[0] = out[1] = out[2] = (row[i / 8] & 0x80 >> i % 8) != 0 ? 255 : 0;
        break;
    }
  }
}

void turn_for_night(std::uint8_t* rgba, std::size_t pixels) {
  for (std::uint8_t* const end = rgba + pixels * 4; rgba != end; rgba += 4) {
    const int most = std::max({rgba[0], rgba[1], rgba[2]});
    const int least = std::min({rgba[0], rgba[1], rgba[2]});
    const int shift = rgba[3] - most - least;
    for (int k = 0; k < 3; ++k) rgba[k] = static_cast<std::uint8_t>(rgba[k] + shift);
  }
}

LUMVET_WIDE void take_color_out(std::uint8_t* rgba, std::size_t pixels) {
  for (std::size_t i = 0; i < pixels; ++i) {
    const std::uint32_t word = word_at(rgba, i);
    const std::uint32_t gray = luminance(word & 255, word >> 8 & 255, word >> 16 & 255);
    const std::uint32_t same = (word & 0xFF000000u) | gray * 0x010101u;
    std::memcpy(rgba + 4 * i, &same, sizeof same);
  }
}

}  // namespace raster
}  // namespace lumvet
