// SPDX-License-Identifier: Apache-2.0
// How a color mixes with what is below it (ISO 32000-2, 11.3.5), in red, green and blue from 0 to
// 255.
//
// Threads: free functions.
#pragma once

#include <array>
#include <cstdint>
#include <optional>
#include <string_view>

#include "lumvet/color/blend_mode.h"

namespace lumvet::color {

using lumvet::BlendMode;

// By the standard's name, "Multiply"; "Compatible" is normal; nothing for others.
std::optional<BlendMode> blend_mode_named(std::string_view name);
std::string_view name_of(BlendMode mode);

using Rgb8 = std::array<std::uint8_t, 3>;

// B(backdrop, source).
Rgb8 blend(BlendMode mode, const Rgb8& backdrop, const Rgb8& source);

// The same mode many times over.
class Blender {
 public:
  explicit Blender(BlendMode mode);
  Rgb8 blend(const Rgb8& backdrop, const Rgb8& source) const {
    if (table_ == nullptr) return color::blend(mode_, backdrop, source);
    return {table_[backdrop[0] << 8 | source[0]], table_[backdrop[1] << 8 | source[1]],
            table_[backdrop[2] << 8 | source[2]]};
  }

  // Of `count` pixels of four bytes, of which the fourth does not count.
  void blend(const std::uint8_t* backdrop, const std::uint8_t* source, std::uint8_t* out,
             int count) const;

 private:
  BlendMode mode_;
  const std::uint8_t* table_ = nullptr;  // of modes that take each component by itself
};

}  // namespace lumvet::color
