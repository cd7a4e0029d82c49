// SPDX-License-Identifier: Apache-2.0
// What interpreting a content stream amounts to. A Canvas receives drawing operations in display
// space: points from the top left corner of the page as shown, y downward.
//
// Threads: one thread at a time.
#pragma once

#include <memory>
#include <vector>

#include "images/picture.h"
#include "lumvet/geometry/path.h"
#include "lumvet/geometry/stroke_style.h"

namespace lumvet::content {

// What paints: a colour of the screen and how opaque it is, 0 to 255.
struct Paint {
  std::uint8_t red = 0;
  std::uint8_t green = 0;
  std::uint8_t blue = 0;
  std::uint8_t alpha = 255;
  bool operator==(const Paint&) const = default;
};

struct PlacedGlyph {
  std::shared_ptr<const Path> outline;  // in units of the font size
  Matrix placed;                        // to display space
};

// Names a clip that a canvas has been given; kNoClip lets everything through.
using ClipId = int;
inline constexpr ClipId kNoClip = -1;

class Canvas {
 public:
  virtual ~Canvas() = default;

  // What lies within `outer` and within the path.
  virtual ClipId clip(ClipId outer, Path path, FillRule rule) = 0;

  virtual void fill(Path path, FillRule rule, const Paint& paint, ClipId clip) = 0;
  // `path` and `style` are in a space of their own, which `placed` maps to display space.
  virtual void stroke(Path path, const Matrix& placed, const StrokeStyle& style, const Paint& paint,
                      ClipId clip) = 0;
  virtual void glyphs(std::vector<PlacedGlyph> glyphs, const Paint& paint, ClipId clip) = 0;
  // `placed` maps the unit square, whose top is y = 1, to display space. Stencils take the paint's
  // colour, pictures only its alpha.
  virtual void image(std::shared_ptr<const images::Picture> picture, const Matrix& placed,
                     bool interpolate, const Paint& paint, ClipId clip) = 0;
  // What comes until the matching end is put together first, then shown with `alpha`.
  virtual void begin_group(std::uint8_t alpha, ClipId clip) = 0;
  virtual void end_group() = 0;
};

}  // namespace lumvet::content
