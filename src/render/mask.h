// SPDX-License-Identifier: Apache-2.0
// How much of each pixel of a tile a clip lets through (ISO 32000-2, 8.5.4).
//
// Threads: a Mask is immutable once made, share freely.
#pragma once

#include <memory>

#include "lumvet/base/bytes.h"
#include "raster/blend.h"
#include "raster/coverage.h"
#include "render/prepared_scene.h"

namespace lumvet::rendering {

class Mask;
using MaskPtr = std::shared_ptr<const Mask>;

class Mask {
 public:
  // Everything within the tile.
  static MaskPtr all(const raster::PixelRect& tile);
  // What both let through. `coverage` is of the tile, and empty.
  static MaskPtr narrowed(const MaskPtr& outer, const PreparedClip& clip,
                          raster::Coverage& coverage);

  // Nothing is let through outside; empty when nothing is let through at all.
  const raster::PixelRect& box() const { return box_; }
  // Everything is let through within.
  const raster::PixelRect& full() const { return full_; }

  // At a pixel within the box.
  std::uint8_t at(int x, int y) const {
    unsigned value = values_.empty() ? 255 : *value_at(x, y);
    if (!columns_.empty())
      value =
          raster::div255(raster::div255(value * columns_[static_cast<std::size_t>(x - box_.left)]) *
                         rows_[static_cast<std::size_t>(y - box_.top)]);
    return static_cast<std::uint8_t>(value);
  }
  // What is let through from a pixel within the box on to the end of its row, where that stands
  // ready; null where it has to be multiplied first.
  const std::uint8_t* values_from(int x, int y) const {
    if (columns_.empty()) return values_.empty() ? nullptr : value_at(x, y);
    if (!values_.empty() || rows_[static_cast<std::size_t>(y - box_.top)] != 255) return nullptr;
    return &columns_[static_cast<std::size_t>(x - box_.left)];
  }
  // Of `count` pixels from (x, y) on, all within the box.
  void multiply_into(std::uint8_t* values, int x, int y, int count) const;

 private:
  const std::uint8_t* value_at(int x, int y) const {
    return &values_[static_cast<std::size_t>(y - box_.top) *
                        static_cast<std::size_t>(box_.width()) +
                    static_cast<std::size_t>(x - box_.left)];
  }
  void narrow_by_rectangle(const Rect& rectangle);
  void narrow_by_coverage(const PreparedClip& clip, raster::Coverage& coverage);

  raster::PixelRect box_;
  raster::PixelRect full_;
  // Rectangles let through the product of a part of the column and a part of the row; what is no
  // rectangle has values of its own besides. All are for the box.
  Bytes columns_;
  Bytes rows_;
  Bytes values_;
};

}  // namespace lumvet::rendering
