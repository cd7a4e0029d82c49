// SPDX-License-Identifier: Apache-2.0
// The cell of a tiling pattern (ISO 32000-2, 8.7.3) as pixels, drawn when it is first needed, and
// laid over an area again and again.
//
// Threads: internally synchronized.
#pragma once

#include <mutex>

#include "content/scene_data.h"
#include "lumvet/base/bytes.h"
#include "raster/coverage.h"

namespace lumvet::rendering {

class TilingCell {
 public:
  // `placed` maps the pattern's space to pixels and is invertible.
  TilingCell(const content::Tiling& tiling, const Matrix& placed, double thinnest_line)
      : tiling_(tiling), placed_(placed), thinnest_line_(thinnest_line) {}

  // Red, green, blue, opacity for every pixel, premultiplied.
  void paint(const raster::PixelRect& area, std::uint8_t* out) const;

 private:
  class Axis;
  void draw() const;
  void paint_level(const Axis& across, const Axis& down, const raster::PixelRect& area,
                   std::uint8_t* out) const;
  const std::uint8_t* row(std::int64_t v) const;

  content::Tiling tiling_;
  Matrix placed_;
  double thinnest_line_;
  mutable std::once_flag drawn_;
  mutable int width_ = 0;   // pixels, of one step across
  mutable int height_ = 0;  // pixels, of one step up
  mutable Bytes pixels_;    // premultiplied
};

}  // namespace lumvet::rendering
