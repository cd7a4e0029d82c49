// SPDX-License-Identifier: Apache-2.0
// What the kinds of shadings share: how they are read, and how a number becomes a color.
//
// Threads: a ShadingColors is immutable, share freely.
#pragma once

#include <array>
#include <cstring>
#include <vector>

#include "base/allowance.h"
#include "base/findings_list.h"
#include "color/function.h"
#include "color/shading.h"
#include "filters/stream_decoder.h"
#include "objects/read_numbers.h"

namespace lumvet::color {

struct ShadingSource {
  const Dict& dict;
  const Stream* stream;  // of meshes
  const objects::Resolver& resolver;
  Budget& budget;
  Findings& findings;
};

inline Rgb8 to_rgb8(const Rgb& rgb) {
  const auto to_byte = [](double unit) {
    return static_cast<std::uint8_t>(unit <= 0 ? 0 : unit >= 1 ? 255 : unit * 255 + 0.5);
  };
  return {to_byte(rgb.red), to_byte(rgb.green), to_byte(rgb.blue)};
}

// Components, or the inputs of the function that gives them, to a color.
class ShadingColors {
 public:
  std::shared_ptr<const ColorSpace> space;
  std::shared_ptr<const Function> function;  // none when components are given directly

  Rgb8 of(std::span<const double> values) const {
    if (!goes_on()) return {};
    if (!function) return to_rgb8(space->to_rgb(values));
    std::vector<double> components;
    function->evaluate(values, components);
    components.resize(space->components());
    return to_rgb8(space->to_rgb(components));
  }
  std::size_t inputs() const { return function ? 1 : space->components(); }
};

// A function of one number, looked up. Colors between two entries differ by less than a shade
// except where the function jumps.
class ColorRamp {
 public:
  static constexpr std::size_t kSize = 1024;

  ColorRamp(const ShadingColors& colors, double from, double to) {
    for (std::size_t i = 0; i < kSize; ++i) {
      const double t = from + (to - from) * static_cast<double>(i) / (kSize - 1);
      const Rgb8 color = colors.of({&t, 1});
      const std::uint8_t pixel[4] = {color[0], color[1], color[2], 255};
      std::memcpy(&table_[i], pixel, sizeof pixel);
    }
  }
  // The entry for a part from 0 to 1, and one for no color at all.
  static constexpr double kLast = kSize - 1;
  static constexpr std::int32_t kNone = kSize;
  std::uint32_t pixel(std::int32_t entry) const { return table_[static_cast<std::size_t>(entry)]; }
  Rgb8 at(double part) const {
    std::uint8_t pixel[4];
    std::memcpy(pixel, &table_[static_cast<std::size_t>(part * (kSize - 1) + 0.5)], sizeof pixel);
    return {pixel[0], pixel[1], pixel[2]};
  }

 private:
  std::array<std::uint32_t, kSize + 1> table_{};
};

inline std::vector<double> numbers_in(const ShadingSource& source, std::string_view key) {
  return objects::numbers_of(source.resolver, source.dict[key]);
}

using MadeShading = Result<std::shared_ptr<Shading>>;

// Types 1, 2 and 3.
MadeShading make_function_shading(const ShadingSource& source, ShadingColors colors);
MadeShading make_axial_shading(const ShadingSource& source, const ShadingColors& colors);
MadeShading make_radial_shading(const ShadingSource& source, const ShadingColors& colors);
// Types 4 to 7.
MadeShading make_mesh_shading(const ShadingSource& source, ShadingColors colors, int type);

}  // namespace lumvet::color
