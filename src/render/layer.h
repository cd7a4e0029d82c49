// SPDX-License-Identifier: Apache-2.0
// The pixels that drawing goes to: the paper, or a group that is put together before it is shown
// (ISO 32000-2, 11.4). The formulas are those of 11.3.6 and 11.4.6, over premultiplied 8-bit
// channels.
//
// Threads: one thread at a time.
#pragma once

#include "content/scene_data.h"
#include "lumvet/base/bytes.h"
#include "raster/blend.h"
#include "raster/coverage.h"
#include "raster/pixel_formats.h"

namespace lumvet::rendering {

// What is put onto one pixel. `opacity` is how much of the color shows where it is; `shape` is how
// much of the pixel it takes, which matters within knockout groups only.
struct Source {
  color::Rgb8 color{};
  unsigned opacity = 255;
  unsigned shape = 255;
  bool in_inks = false;  // it mixes as inks do
};

// The same for pixels side by side: one value for all where there is no row of them.
struct SourceRow {
  int x = 0;
  int y = 0;
  int count = 0;
  const std::uint8_t* colors = nullptr;  // 4 bytes each, of which the fourth does not count,
  bool is_premultiplied = false;         // unless they are multiplied by it
  color::Rgb8 color{};
  const std::uint8_t* opacities = nullptr;
  unsigned opacity = 255;
  const std::uint8_t* shapes = nullptr;
  unsigned shape = 255;
  color::BlendMode blend = color::BlendMode::normal;
  bool opacity_is_shape = false;
  bool in_inks = false;
};

class Layer {
 public:
  // The paper: somebody else's pixels, premultiplied red, green, blue, alpha, `stride` bytes from
  // one row to the next.
  Layer(const raster::PixelRect& area, std::uint8_t* pixels, std::ptrdiff_t stride)
      : area_(area), pixels_(pixels), stride_(stride) {}
  void fill(const std::array<std::uint8_t, 4>& pixel);
  // A group over the part `area` of `below`, in which shapes are kept when it lies in a knockout
  // group. `room` may have memory to be used again.
  Layer(const content::BeginGroup& begin, const raster::PixelRect& area, const Layer& below,
        Bytes room);
  Bytes take_room() { return std::move(kept_); }

  const raster::PixelRect& area() const { return area_; }
  const content::Group& group() const { return group_; }

  // All pixels of `row` lie within the area.
  void put(const SourceRow& row);
  // Whether a color simply goes over what is there.
  bool blends_plainly(color::BlendMode blend) const {
    return is_simple() && blend == color::BlendMode::normal;
  }
  // One that does, over what is covered; all of the run lies within the area.
  void put(const raster::Coverage::Run& run, const color::Rgb8& color, std::uint8_t alpha);
  // Where the pixels are, for who covers them without mixing.
  std::uint8_t* pixels_at(int x, int y) { return pixel(x, y); }
  void take_color_out() { raster::take_color_out(kept_.data(), kept_.size() / 4); }
  // A group that was put together, as far as `shapes` let it show: a value for each pixel of its
  // row from x on, or none for all of them.
  void put(const Layer& group, int x, int y, int count, const std::uint8_t* shapes,
           const std::uint8_t* opacities);

 private:
  // Whether painting is nothing but one color over another.
  bool is_simple() const { return own_.empty() && shape_.empty() && !group_.knockout; }
  std::uint8_t* pixel(int x, int y) const {
    return pixels_ + (y - area_.top) * stride_ + std::ptrdiff_t{x - area_.left} * 4;
  }
  std::size_t index_of(int x, int y) const {
    return static_cast<std::size_t>(y - area_.top) * static_cast<std::size_t>(area_.width()) +
           static_cast<std::size_t>(x - area_.left);
  }

  void put(int x, int y, const Source& source, color::BlendMode blend);
  // What the group came to at a pixel, without what was below it.
  Source result(int x, int y) const;
  const std::uint8_t* alphas_of(const SourceRow& row);
  // The same row with its colors as they are, and what they were multiplied by as opacities.
  SourceRow straight(SourceRow row);
  void mix(const SourceRow& row);
  void mix_blocks(const SourceRow& row, const std::uint8_t* alphas);
  static color::Rgb8 mixed(const std::uint8_t* backdrop, const Source& source,
                           color::BlendMode blend);

  raster::PixelRect area_;
  content::Group group_;
  Bytes kept_;  // the pixels of a group
  std::uint8_t* pixels_ = nullptr;
  std::ptrdiff_t stride_ = 0;
  Bytes start_;  // what was below when a group began that mixes with it
  Bytes own_;    // how opaque the group itself is, where `pixels_` holds what is below as well
  Bytes shape_;
  Bytes alphas_;     // of a row
  Bytes straight_;   // of a row
  Bytes opacities_;  // of a row
};

}  // namespace lumvet::rendering
