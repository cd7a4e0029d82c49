// SPDX-License-Identifier: Apache-2.0
#include "color/blend_mode.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <mutex>
#include <vector>

#include "base/simd.h"

namespace lumvet::color {
namespace {

constexpr std::array<std::string_view, 16> kNames = {
    "Normal",     "Multiply",   "Screen",    "Overlay",   "Darken",     "Lighten",
    "ColorDodge", "ColorBurn",  "HardLight", "SoftLight", "Difference", "Exclusion",
    "Hue",        "Saturation", "Color",     "Luminosity"};

int over_255(int product) { return (product + 127) / 255; }

int multiply(int b, int s) { return over_255(b * s); }
int screen(int b, int s) { return b + s - over_255(b * s); }
int hard_light(int b, int s) { return s <= 127 ? multiply(b, 2 * s) : screen(b, 2 * s - 255); }

int soft_light(int backdrop, int source) {
  const double b = backdrop / 255.0;
  const double s = source / 255.0;
  if (s <= 0.5) return static_cast<int>(std::lround(255 * (b - (1 - 2 * s) * b * (1 - b))));
  const double d = b <= 0.25 ? ((16 * b - 12) * b + 4) * b : std::sqrt(b);
  return static_cast<int>(std::lround(255 * (b + (2 * s - 1) * (d - b))));
}

int color_dodge(int b, int s) {
  if (b == 0) return 0;
  return b >= 255 - s ? 255 : (b * 255 + (255 - s) / 2) / (255 - s);
}

int color_burn(int b, int s) {
  if (b == 255) return 255;
  return 255 - b >= s ? 0 : 255 - ((255 - b) * 255 + s / 2) / s;
}

int blend_channel(BlendMode mode, int b, int s) {
  switch (mode) {
    case BlendMode::multiply: return multiply(b, s);
    case BlendMode::screen: return screen(b, s);
    case BlendMode::overlay: return hard_light(s, b);
    case BlendMode::darken: return std::min(b, s);
    case BlendMode::lighten: return std::max(b, s);
    case BlendMode::color_dodge: return color_dodge(b, s);
    case BlendMode::color_burn: return color_burn(b, s);
    case BlendMode::hard_light: return hard_light(b, s);
    case BlendMode::soft_light: return soft_light(b, s);
    case BlendMode::difference: return std::abs(b - s);
    case BlendMode::exclusion: return b + s - 2 * over_255(b * s);
    default: return s;
  }
}

// The four that take all components together (11.3.5.3). Both ways of a choice are reckoned, so
// that compilers can take several pixels at once; of a division by 0 the result is not chosen.
struct Color {
  float r, g, b;
};

LUMVET_INSIDE float least(const Color& c) {
  const float two = c.r < c.g ? c.r : c.g;
  return two < c.b ? two : c.b;
}
LUMVET_INSIDE float most(const Color& c) {
  const float two = c.r > c.g ? c.r : c.g;
  return two > c.b ? two : c.b;
}
LUMVET_INSIDE float lum(const Color& c) { return 0.3f * c.r + 0.59f * c.g + 0.11f * c.b; }
LUMVET_INSIDE float sat(const Color& c) { return most(c) - least(c); }

LUMVET_INSIDE Color clip_color(const Color& c) {
  const float l = lum(c);
  const float low = least(c);
  const float high = most(c);
  const float up = low < 0 ? l / (l - low) : 1.0f;
  const auto raised = [&](float value) { return l + (value - l) * up; };
  const Color above{raised(c.r), raised(c.g), raised(c.b)};
  const float down = high > 1 ? (1 - l) / (high - l) : 1.0f;
  const auto lowered = [&](float value) { return l + (value - l) * down; };
  return {lowered(above.r), lowered(above.g), lowered(above.b)};
}

LUMVET_INSIDE Color set_lum(const Color& c, float l) {
  const float d = l - lum(c);
  return clip_color({c.r + d, c.g + d, c.b + d});
}

LUMVET_INSIDE Color set_sat(const Color& c, float s) {
  const float low = least(c);
  const float range = sat(c);
  const float scale = range > 0 ? s / range : 0.0f;
  return {(c.r - low) * scale, (c.g - low) * scale, (c.b - low) * scale};
}

struct Hue {
  LUMVET_INSIDE static Color mixed(const Color& b, const Color& s) {
    return set_lum(set_sat(s, sat(b)), lum(b));
  }
};
struct Saturation {
  LUMVET_INSIDE static Color mixed(const Color& b, const Color& s) {
    return set_lum(set_sat(b, sat(s)), lum(b));
  }
};
struct HueAndSaturation {
  LUMVET_INSIDE static Color mixed(const Color& b, const Color& s) { return set_lum(s, lum(b)); }
};
struct Luminosity {
  LUMVET_INSIDE static Color mixed(const Color& b, const Color& s) { return set_lum(b, lum(s)); }
};

LUMVET_INSIDE std::uint32_t byte_of(float unit) {
  const float from_0 = unit < 0 ? 0.0f : unit;
  const float within = from_0 > 1 ? 1.0f : from_0;
  constexpr float kHalf = 0.5f;  // it is not below 0
  return static_cast<std::uint32_t>(static_cast<std::int32_t>(within * 255 + kHalf));
}

LUMVET_INSIDE float unit_of(std::uint8_t byte) {
  return static_cast<float>(byte) * static_cast<float>(1 / 255.0);
}

constexpr int kSome = 16;  // pixels at a time

struct Colors {
  float r[kSome], g[kSome], b[kSome];
};

LUMVET_INSIDE void read(Colors& colors, const std::uint8_t* pixels) {
  for (std::ptrdiff_t i = 0; i < kSome; ++i) {
    colors.r[i] = unit_of(pixels[4 * i]);
    colors.g[i] = unit_of(pixels[4 * i + 1]);
    colors.b[i] = unit_of(pixels[4 * i + 2]);
  }
}

template <typename Mode>
LUMVET_INSIDE void mix_some(const std::uint8_t* backdrop, const std::uint8_t* source,
                            std::uint8_t* out) {
  Colors below, above;
  read(below, backdrop);
  read(above, source);
  std::uint32_t words[kSome];
  for (int i = 0; i < kSome; ++i) {
    const Color mixed =
        Mode::mixed({below.r[i], below.g[i], below.b[i]}, {above.r[i], above.g[i], above.b[i]});
    words[i] = byte_of(mixed.r) | byte_of(mixed.g) << 8 | byte_of(mixed.b) << 16 | 0xFF000000u;
  }
  std::memcpy(out, words, sizeof words);
}

template <typename Mode>
LUMVET_INSIDE void mix_all(const std::uint8_t* backdrop, const std::uint8_t* source,
                           std::uint8_t* out, int count) {
  std::ptrdiff_t done = 0;
  for (; done + kSome <= count; done += kSome)
    mix_some<Mode>(backdrop + 4 * done, source + 4 * done, out + 4 * done);
  if (done == count) return;
  const auto rest = static_cast<std::size_t>(count - done) * 4;
  std::uint8_t last[3][kSome * 4] = {};
  std::memcpy(last[0], backdrop + 4 * done, rest);
  std::memcpy(last[1], source + 4 * done, rest);
  mix_some<Mode>(last[0], last[1], last[2]);
  std::memcpy(out + 4 * done, last[2], rest);
}

Color color_of(const Rgb8& c) { return {unit_of(c[0]), unit_of(c[1]), unit_of(c[2])}; }

Color mix_one(BlendMode mode, const Color& backdrop, const Color& source) {
  switch (mode) {
    case BlendMode::hue: return Hue::mixed(backdrop, source);
    case BlendMode::saturation: return Saturation::mixed(backdrop, source);
    case BlendMode::color: return HueAndSaturation::mixed(backdrop, source);
    default: return Luminosity::mixed(backdrop, source);
  }
}

LUMVET_WIDE void mix_together(BlendMode mode, const std::uint8_t* backdrop,
                              const std::uint8_t* source, std::uint8_t* out, int count) {
  switch (mode) {
    case BlendMode::hue: return mix_all<Hue>(backdrop, source, out, count);
    case BlendMode::saturation: return mix_all<Saturation>(backdrop, source, out, count);
    case BlendMode::color: return mix_all<HueAndSaturation>(backdrop, source, out, count);
    default: return mix_all<Luminosity>(backdrop, source, out, count);
  }
}

}  // namespace

std::string_view name_of(BlendMode mode) { return kNames[static_cast<std::size_t>(mode)]; }

std::optional<BlendMode> blend_mode_named(std::string_view name) {
  if (name == "Compatible") return BlendMode::normal;
  const auto found = std::find(kNames.begin(), kNames.end(), name);
  if (found == kNames.end()) return std::nullopt;
  return static_cast<BlendMode>(found - kNames.begin());
}

Blender::Blender(BlendMode mode) : mode_(mode) {
  if (mode >= BlendMode::hue) return;
  constexpr std::size_t kModes = static_cast<std::size_t>(BlendMode::hue);
  static std::array<std::once_flag, kModes> made;
  static std::array<std::vector<std::uint8_t>, kModes> tables;
  const auto index = static_cast<std::size_t>(mode);
  std::call_once(made[index], [&] {
    std::vector<std::uint8_t>& table = tables[index];
    table.reserve(256 * 256);
    for (int b = 0; b < 256; ++b)
      for (int s = 0; s < 256; ++s)
        table.push_back(static_cast<std::uint8_t>(blend_channel(mode, b, s)));
  });
  table_ = tables[index].data();
}

Rgb8 blend(BlendMode mode, const Rgb8& backdrop, const Rgb8& source) {
  if (mode < BlendMode::hue) {
    Rgb8 mixed;
    for (std::size_t i = 0; i < 3; ++i)
      mixed[i] = static_cast<std::uint8_t>(blend_channel(mode, backdrop[i], source[i]));
    return mixed;
  }
  const Color mixed = mix_one(mode, color_of(backdrop), color_of(source));
  return {static_cast<std::uint8_t>(byte_of(mixed.r)), static_cast<std::uint8_t>(byte_of(mixed.g)),
          static_cast<std::uint8_t>(byte_of(mixed.b))};
}

void Blender::blend(const std::uint8_t* backdrop, const std::uint8_t* source, std::uint8_t* out,
                    int count) const {
  if (table_ == nullptr) return mix_together(mode_, backdrop, source, out, count);
  for (int i = 0; i < 4 * count; i += 4) {
    for (int k = i; k < i + 3; ++k) out[k] = table_[backdrop[k] << 8 | source[k]];
    out[i + 3] = 255;
  }
}

}  // namespace lumvet::color
