// SPDX-License-Identifier: Apache-2.0
// Colors that change from place to place (ISO 32000-2, 8.7.4.5).
//
// Threads: immutable, share freely.
#pragma once

#include <memory>
#include <optional>

#include "base/findings_list.h"
#include "color/blend_mode.h"
#include "color/color_space.h"
#include "lumvet/geometry/matrix.h"

namespace lumvet::color {

// A row-by-row rectangle of pixels: [left, left + width) × [top, top + height).
struct PixelArea {
  int left = 0;
  int top = 0;
  int width = 0;
  int height = 0;
};

// Whether the border of a mesh is as opaque as it covers its pixels, or wholly where it has their
// middle; so that of meshes side by side each pixel belongs to one.
enum class Rims { smooth, sharp };

class Shading {
 public:
  virtual ~Shading() = default;

  // Red, green, blue, and 255 where there is a color, 0 where there is none, at the middle of
  // every pixel; at smooth rims something between. `to_pixels` maps the shading's space and is
  // invertible.
  virtual void paint(const PixelArea& area, const Matrix& to_pixels, Rims rims,
                     std::uint8_t* out) const = 0;
  virtual bool is_mesh() const { return false; }
  // Around all of it that has a color, in the shading's space; nothing where it has no end.
  virtual std::optional<Rect> reach() const { return std::nullopt; }

  // Nothing outside is painted, in the shading's space (/BBox).
  const std::optional<Rect>& box() const { return box_; }
  // What a pattern shows where the shading has no color.
  const std::optional<Rgb8>& background() const { return background_; }

  // Errors: malformed, unsupported, limit, io, need_more_data.
  static Result<std::shared_ptr<const Shading>> make(const Object& object, const Dict& resources,
                                                     const objects::Resolver& resolver,
                                                     Budget& budget, Findings& findings,
                                                     Intent intent = Intent::relative);

 private:
  std::optional<Rect> box_;
  std::optional<Rgb8> background_;
};

}  // namespace lumvet::color
