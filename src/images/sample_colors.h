// SPDX-License-Identifier: Apache-2.0
// What the samples of an image are, and the colors they stand for (ISO 32000-2, 8.9.5.2).
//
// Threads: values; a ColorReader one thread at a time.
#pragma once

#include <algorithm>
#include <cmath>
#include <memory>
#include <vector>

#include "color/color_space.h"

namespace lumvet::images {

inline std::uint8_t to_byte(double unit) {
  return static_cast<std::uint8_t>(std::lround(std::clamp(unit, 0.0, 1.0) * 255));
}

// What the dictionary and the codec say together.
struct Shape {
  int width = 0;
  int height = 0;
  unsigned bits = 8;
  std::size_t components = 1;
  std::vector<double> decode;  // low and high of each component
  std::size_t row_bytes() const {
    return (static_cast<std::size_t>(width) * components * bits + 7) / 8;
  }
  // So many of a row's samples are there.
  std::size_t samples_in(ByteView row) const {
    return std::min(static_cast<std::size_t>(width), row.size() * 8 / (bits * components));
  }
};

inline void put(const color::Rgb& color, std::uint8_t* out) {
  out[0] = to_byte(color.red);
  out[1] = to_byte(color.green);
  out[2] = to_byte(color.blue);
}

// Packed values of a pixel to its color.
class ColorReader {
 public:
  ColorReader(const Shape& shape, std::shared_ptr<const color::ColorSpace> space)
      : shape_(shape), space_(std::move(space)), values_(shape.components) {}

  color::Rgb color_of(const std::vector<unsigned>& raw) {
    const double most = static_cast<double>((1u << shape_.bits) - 1);
    const std::vector<double>& decode = shape_.decode;
    for (std::size_t k = 0; k < values_.size(); ++k)
      values_[k] = decode[2 * k] + raw[k] / most * (decode[2 * k + 1] - decode[2 * k]);
    return space_->to_rgb(values_);
  }

 private:
  Shape shape_;
  std::shared_ptr<const color::ColorSpace> space_;
  std::vector<double> values_;
};

}  // namespace lumvet::images
