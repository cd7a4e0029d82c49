// SPDX-License-Identifier: Apache-2.0
#include "color/blend_mode.h"

#include <algorithm>
#include <cmath>
#include <mutex>
#include <vector>

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

// The four that take all components together (11.3.5.3).
struct Color {
  double r, g, b;
};

double lum(const Color& c) { return 0.3 * c.r + 0.59 * c.g + 0.11 * c.b; }
double sat(const Color& c) { return std::max({c.r, c.g, c.b}) - std::min({c.r, c.g, c.b}); }

Color clip_color(Color c) {
  const double l = lum(c);
  const double least = std::min({c.r, c.g, c.b});
  const double most = std::max({c.r, c.g, c.b});
  const auto toward = [l](double value, double scale) { return l + (value - l) * scale; };
  if (least < 0) {
    const double scale = l / (l - least);
    c = {toward(c.r, scale), toward(c.g, scale), toward(c.b, scale)};
  }
  if (most > 1) {
    const double scale = (1 - l) / (most - l);
    c = {toward(c.r, scale), toward(c.g, scale), toward(c.b, scale)};
  }
  return c;
}

Color set_lum(const Color& c, double l) {
  const double d = l - lum(c);
  return clip_color({c.r + d, c.g + d, c.b + d});
}

Color set_sat(const Color& c, double s) {
  const double least = std::min({c.r, c.g, c.b});
  const double range = sat(c);
  if (range <= 0) return {0, 0, 0};
  const auto stretched = [&](double value) { return (value - least) * s / range; };
  return {stretched(c.r), stretched(c.g), stretched(c.b)};
}

Color together(BlendMode mode, const Color& b, const Color& s) {
  switch (mode) {
    case BlendMode::hue: return set_lum(set_sat(s, sat(b)), lum(b));
    case BlendMode::saturation: return set_lum(set_sat(b, sat(s)), lum(b));
    case BlendMode::color: return set_lum(s, lum(b));
    default: return set_lum(b, lum(s));
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
  const auto as_color = [](const Rgb8& c) {
    return Color{c[0] / 255.0, c[1] / 255.0, c[2] / 255.0};
  };
  const Color mixed = together(mode, as_color(backdrop), as_color(source));
  const auto to_byte = [](double unit) {
    return static_cast<std::uint8_t>(std::clamp(unit, 0.0, 1.0) * 255 + 0.5);
  };
  return {to_byte(mixed.r), to_byte(mixed.g), to_byte(mixed.b)};
}

}  // namespace lumvet::color
