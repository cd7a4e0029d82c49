// SPDX-License-Identifier: Apache-2.0
// A scene at one scale: every operation as straight edges in pixels, ready for any tile.
//
// Threads: immutable once prepared, share freely.
#pragma once

#include <memory>
#include <optional>
#include <vector>

#include "content/scene_data.h"
#include "raster/coverage.h"
#include "render/edge_store.h"
#include "render/glyph_cache.h"

namespace lumvet::rendering {

struct PreparedGlyph {
  std::shared_ptr<const GlyphEdges> glyph;
  std::int32_t x = 0;  // of its origin, in 1/256 pixel
  std::int32_t y = 0;

  // The pixels it touches.
  raster::PixelRect bounds() const {
    const raster::Edge& box = glyph->box;
    return {(x + box.x0) >> 8, (y + box.y0) >> 8, (x + box.x1 + 255) >> 8, (y + box.y1 + 255) >> 8};
  }
};

class TilingCell;

struct PreparedOperation {
  const content::Operation* source = nullptr;
  raster::PixelRect bounds;       // within the area asked for
  raster::EdgeView edges;         // of fills, strokes, images and the boxes of shadings
  std::optional<Rect> rectangle;  // in pixels, in place of edges when they are one that is upright
  std::vector<PreparedGlyph> glyphs;
  std::shared_ptr<const images::Image> image;
  std::shared_ptr<const TilingCell> cell;  // of patterns
  FillRule rule = FillRule::nonzero;
  bool is_clipped = false;  // what its clips leave of it is all that it has
};

struct PreparedClip {
  content::ClipId outer = content::kNoClip;
  raster::EdgeView edges;
  raster::PixelRect bounds;
  FillRule rule = FillRule::nonzero;
  std::optional<Rect> rectangle;  // in pixels, when the clip is one that stands upright
  std::vector<Point> corners;     // in pixels, when the clip is convex and has few
};

struct PreparedScene;

struct PreparedMask {
  const content::SoftMask* source = nullptr;
  bool has_transfer = false;  // one that changes something
  std::shared_ptr<const PreparedScene> scene;
};

struct PreparedScene {
  Matrix to_pixels;
  std::vector<PreparedClip> clips;  // as in the scene
  std::vector<PreparedMask> masks;  // as in the scene
  // Those that touch the area, in order, some in each.
  std::vector<std::vector<PreparedOperation>> operations;
  std::vector<EdgeStore> edges;  // of clips and operations
  // Images whose rows come while they are drawn.
  std::vector<std::shared_ptr<const images::Image>> arriving;
};

// Lines stay within a small part of a pixel of the curves they stand for.
// Thinner ones than `thinnest_line`, in pixels, are drawn that wide.
PreparedScene prepare(const content::SceneData& scene, const Matrix& to_pixels,
                      const raster::PixelRect& area, int threads, double thinnest_line);

}  // namespace lumvet::rendering
