// SPDX-License-Identifier: Apache-2.0
// Draws one tile after another of a prepared scene.
//
// Threads: one thread at a time; each has a painter of its own.
#pragma once

#include <map>
#include <memory>
#include <unordered_map>
#include <vector>

#include "lumvet/raster/raster.h"
#include "raster/coverage.h"
#include "render/layer.h"
#include "render/prepared_scene.h"

namespace lumvet::rendering {

class TilePainter {
 public:
  TilePainter(const PreparedScene& scene, Color background)
      : scene_(scene), background_(background) {}

  // Premultiplied red green blue alpha, row by row; the caller may change them; valid until the
  // next call.
  Bytes& paint(const raster::PixelRect& tile);

 private:
  // Opacity per pixel of the tile; without values everything is let through.
  struct Mask {
    Bytes values;
    bool lets_nothing = false;
  };
  using MaskPtr = std::shared_ptr<const Mask>;

  // How much of a pixel shows: by the clip, and by the soft mask.
  struct Shown {
    const Mask& clip;
    const Mask& soft;
    unsigned clip_at(std::size_t i) const { return clip.values.empty() ? 255 : clip.values[i]; }
    unsigned soft_at(std::size_t i) const { return soft.values.empty() ? 255 : soft.values[i]; }
  };

  void apply(const PreparedOperation& operation);
  void draw(const content::FillPath& fill, const PreparedOperation& operation, const Shown& shown);
  void draw(const content::StrokePath& stroke, const PreparedOperation& operation,
            const Shown& shown);
  void draw(const content::ShowGlyphs& show, const PreparedOperation& operation,
            const Shown& shown);
  void draw(const content::ShowImage& image, const PreparedOperation& operation,
            const Shown& shown);
  void draw(const content::ShowShading& show, const PreparedOperation& operation,
            const Shown& shown);
  void draw(const content::ShowTiling& show, const PreparedOperation& operation,
            const Shown& shown);
  void draw(const content::BeginGroup& begin, const PreparedOperation& operation,
            const Shown& shown);
  void draw(const content::EndGroup& end, const PreparedOperation& operation, const Shown& shown);

  void paint_covered(FillRule rule, const content::Paint& paint, const Shown& shown);
  // Colours with opacity, as they come, over the part of the tile that an operation touches.
  void paint_area(const Bytes& colors, const raster::PixelRect& area, const content::Paint& paint,
                  const Shown& shown);
  MaskPtr mask_of(content::ClipId clip);
  MaskPtr narrowed(const Mask& outer, const PreparedClip& clip);
  MaskPtr soft_mask_of(content::MaskId mask);

  std::size_t index_of(int x, int y) const {
    return static_cast<std::size_t>(y - tile_.top) * static_cast<std::size_t>(tile_.width()) +
           static_cast<std::size_t>(x - tile_.left);
  }

  const PreparedScene& scene_;
  Color background_;
  raster::PixelRect tile_;
  std::unique_ptr<raster::Coverage> coverage_;
  std::vector<Layer> layers_;
  std::unordered_map<content::ClipId, MaskPtr> masks_;
  std::unordered_map<content::MaskId, MaskPtr> soft_masks_;
};

}  // namespace lumvet::rendering
