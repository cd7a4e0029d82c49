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

namespace lumvet::rendering {

// What is put onto one pixel. `opacity` is how much of the colour shows where it is; `shape` is how
// much of the pixel it takes, which matters within knockout groups only.
struct Source {
  color::Rgb8 color{};
  unsigned opacity = 255;
  unsigned shape = 255;
};

class Layer {
 public:
  // The paper.
  Layer(std::size_t pixels, const std::array<std::uint8_t, 4>& background);
  // A group over `below`, in which shapes are kept when it lies in a knockout group.
  Layer(const content::BeginGroup& begin, const content::Within& within, const Layer& below);

  Bytes& pixels() { return pixels_; }  // premultiplied red, green, blue, alpha
  const content::Group& group() const { return group_; }
  const content::Within& within() const { return within_; }
  // Whether painting is nothing but one colour over another.
  bool is_simple() const { return own_.empty() && shape_.empty() && !group_.knockout; }

  void put(std::size_t i, const Source& source, color::BlendMode blend);
  // What the group came to at a pixel, without what was below it.
  Source result(std::size_t i) const;

 private:
  color::Rgb8 mixed(const std::uint8_t* backdrop, const color::Rgb8& source,
                    color::BlendMode blend) const;

  content::Group group_;
  content::Within within_;
  Bytes pixels_;
  Bytes start_;  // what was below when a group began that mixes with it
  Bytes own_;    // how opaque the group itself is, where `pixels_` holds what is below as well
  Bytes shape_;
};

}  // namespace lumvet::rendering
