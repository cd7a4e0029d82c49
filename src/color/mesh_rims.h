// SPDX-License-Identifier: Apache-2.0
// The rims of a mesh, smoothed: pixels at its border become as opaque as the part of them that the
// mesh covers, told by 16 places within each.
//
// Threads: one thread at a time.
#pragma once

#include <algorithm>
#include <array>
#include <cmath>
#include <vector>

#include "color/shading.h"
#include "lumvet/base/bytes.h"

namespace lumvet::color {

class MeshRims {
 public:
  // `pixels` of the area have a color and 255 where the mesh has the middle of a pixel, otherwise
  // zeros; they outlive this.
  MeshRims(const PixelArea& area, std::uint8_t* pixels);

  // Whether anything of a rectangle, in pixels, lies near a rim.
  bool is_near(const Rect& bounds) const;

  // A triangle of the mesh, in pixels. color_at(point) is the color there, if possible of a place
  // within the triangle.
  template <typename ColorAt>
  void add(const std::array<Point, 3>& corners, const ColorAt& color_at) {
    Rect bounds = Rect::nothing();
    for (const Point p : corners) bounds.include(p);
    if (!is_near(bounds)) return;
    const Range columns = range_of(bounds.left, bounds.right, area_.left, area_.width);
    const Range rows = range_of(bounds.bottom, bounds.top, area_.top, area_.height);
    for (int y = rows.first; y < rows.end; ++y)
      for (int x = columns.first; x < columns.end; ++x) {
        const std::size_t at = index(x, y);
        if (is_rim_[at] == 0) continue;
        const std::uint16_t places = places_in(corners, x, y);
        if (places == 0) continue;
        places_[at] = static_cast<std::uint16_t>(places_[at] | places);
        std::uint8_t* pixel = pixels_ + at * 4;
        if (pixel[3] != 0) continue;
        const Rgb8 color = color_at(middle_of(places, x, y));
        std::copy(color.begin(), color.end(), pixel);
        pixel[3] = 255;
      }
  }

  // Makes the pixels as opaque as they are covered, once all triangles were added.
  void finish();

 private:
  static constexpr int kPlaces = 4;  // each way
  static constexpr int kBlock = 8;   // pixels each way, that are looked at together

  struct Range {
    int first;
    int end;
  };

  static Range range_of(double low, double high, int from, int count) {
    const auto bounded = [&](double value) {
      return std::clamp(value - from, 0.0, static_cast<double>(count));
    };
    const double end = bounded(high);
    const int whole = static_cast<int>(end);
    return {static_cast<int>(bounded(low)), whole < end ? whole + 1 : whole};
  }
  std::size_t index(int x, int y) const {
    return static_cast<std::size_t>(y) * static_cast<std::size_t>(area_.width) +
           static_cast<std::size_t>(x);
  }
  // A bit for each place of a pixel that lies inside.
  std::uint16_t places_in(const std::array<Point, 3>& corners, int x, int y) const;
  // In the middle of those that are set.
  Point middle_of(std::uint16_t places, int x, int y) const;

  PixelArea area_;
  std::uint8_t* pixels_;
  Bytes is_rim_;  // 1 or 0, of pixels
  std::vector<std::uint16_t> places_;
  int blocks_across_;
  Bytes has_rim_;  // of blocks
};

}  // namespace lumvet::color
