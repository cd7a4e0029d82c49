// SPDX-License-Identifier: Apache-2.0
// What interpreting a content stream amounts to. A Canvas receives drawing operations in display
// space: points from the top left corner of the page as shown, y downward.
//
// Threads: one thread at a time.
#pragma once

#include <array>
#include <functional>
#include <memory>
#include <vector>

#include "color/blend_mode.h"
#include "color/shading.h"
#include "content/page_image.h"
#include "lumvet/geometry/path.h"
#include "lumvet/geometry/stroke_style.h"

namespace lumvet::content {

struct SceneData;
using ScenePtr = std::shared_ptr<const SceneData>;
using ImagePtr = std::shared_ptr<const PageImage>;

// What paints: a color of the screen, how opaque it is, 0 to 255, and how it mixes with what is
// below.
struct Paint {
  std::uint8_t red = 0;
  std::uint8_t green = 0;
  std::uint8_t blue = 0;
  std::uint8_t alpha = 255;
  color::BlendMode blend = color::BlendMode::normal;
  bool alpha_is_shape = false;  // in groups that knock out, it takes no more of a place (11.6.4.3)
  bool in_gray = false;         // what has colors of its own shows without them
  bool in_inks = false;         // it mixes as inks do
  bool operator==(const Paint&) const = default;
};

struct PlacedGlyph {
  std::shared_ptr<const Path> outline;  // in units of the font size
  Matrix placed;                        // to display space
};

// Names of a clip and of a soft mask that a canvas has been given; none lets everything through.
using ClipId = int;
inline constexpr ClipId kNoClip = -1;
using MaskId = int;
inline constexpr MaskId kNoMask = -1;

// Where something shows.
struct Within {
  ClipId clip = kNoClip;
  MaskId mask = kNoMask;
};

// The colors in which a group mixes: those of what is around it, or its own.
enum class GroupColors { as_around, gray, screen, inks };

// What is put together before it is shown (11.4).
struct Group {
  std::uint8_t alpha = 255;
  color::BlendMode blend = color::BlendMode::normal;
  bool isolated = false;  // mixes with nothing below it
  bool knockout = false;  // each of its parts covers the parts before it
  GroupColors colors = GroupColors::as_around;
  bool in_gray = false;  // it has colors, which are taken out before it is shown
  bool in_inks = false;  // it mixes as inks do with what is below it
};

// How much of what is painted shows, by what a group would look like (11.5).
struct SoftMask {
  ScenePtr group;
  bool by_luminosity = false;  // otherwise by how opaque it is
  color::Rgb8 backdrop{};      // of luminosity
  // What each value from 0 to 255 becomes.
  std::array<std::uint8_t, 256> transfer{};
};

// The same drawing over and over (8.7.3), in a space of its own.
struct Tiling {
  ScenePtr cell;
  Rect box;  // of the cell
  double across = 0;
  double up = 0;  // from one cell to the next
  Matrix placed;  // to display space
};

class Canvas {
 public:
  virtual ~Canvas() = default;

  // What lies within `outer` and within the path, or the stroke of it.
  virtual ClipId clip(ClipId outer, Path path, FillRule rule) = 0;
  virtual ClipId clip_to_stroke(ClipId outer, Path path, const Matrix& placed,
                                const StrokeStyle& style) = 0;
  // The box around a clip.
  virtual Rect bounds_of(ClipId clip) const = 0;
  virtual MaskId soft_mask(SoftMask mask) = 0;

  virtual void fill(Path path, FillRule rule, const Paint& paint, const Within& within) = 0;
  // `path` and `style` are in a space of their own, which `placed` maps to display space.
  virtual void stroke(Path path, const Matrix& placed, const StrokeStyle& style, const Paint& paint,
                      const Within& within) = 0;
  virtual void glyphs(std::vector<PlacedGlyph> glyphs, const Rect& bounds, const Paint& paint,
                      const Within& within) = 0;
  // `placed` maps the unit square, whose top is y = 1, to display space. Stencils take the paint's
  // color, images only its alpha.
  virtual void image(ImagePtr image, const Matrix& placed, bool interpolate, const Paint& paint,
                     const Within& within) = 0;
  // Everywhere within. `placed` maps the shading's space to display space; of the paint only the
  // alpha and the mixing count.
  virtual void shading(std::shared_ptr<const color::Shading> shading, const Matrix& placed,
                       const Paint& paint, const Within& within) = 0;
  virtual void tiling(Tiling tiling, const Paint& paint, const Within& within) = 0;
  // What comes until the matching end is put together first, then shown.
  virtual void begin_group(const Group& group, const Within& within) = 0;
  virtual void end_group() = 0;

  // A scene of its own, which `draw` draws; nothing outside `bounds` of it is ever needed.
  using Draw = std::function<Status(Canvas&)>;
  virtual Result<ScenePtr> record(const Rect& bounds, const Draw& draw) = 0;
};

}  // namespace lumvet::content
