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
#include "raster/screen_gamma.h"
#include "render/layer.h"
#include "render/mask.h"
#include "render/prepared_scene.h"
#include "render/workspace.h"

namespace lumvet::rendering {

class TilePainter {
 public:
  // `gamma`, where given, outlives the painter and is for the edges of letters.
  TilePainter(const PreparedScene& scene, PixelColor background,
              const raster::ScreenGamma* gamma = nullptr)
      : scene_(scene), background_(background), gamma_(gamma) {}

  // Premultiplied red green blue alpha, row by row, `stride` bytes from one to the next; once
  // cancelled not all of it.
  void paint(const raster::PixelRect& tile, std::uint8_t* pixels, std::ptrdiff_t stride);
  // The same, row after row, in memory of the painter's own until it is used again.
  const std::uint8_t* paint_apart(const raster::PixelRect& tile);

 private:
  // Opacity per pixel of a part of the tile.
  struct SoftMaskValues {
    raster::PixelRect area = {};
    Bytes values = {};  // empty: all opaque
    bool lets_nothing = false;

    const std::uint8_t* at(int x, int y) const {
      return &values[static_cast<std::size_t>(y - area.top) *
                         static_cast<std::size_t>(area.width()) +
                     static_cast<std::size_t>(x - area.left)];
    }
  };

  // How much of a pixel shows: by the clip, and by the soft mask.
  struct Shown {
    const Mask& clip;
    const SoftMaskValues& soft;
    raster::PixelRect area;  // outside nothing shows
  };

  void lay_paper();
  void forget_soft_masks();
  // Whether nothing below it shows within the tile.
  bool hides_all(const PreparedOperation& operation) const;
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

  // Everything that an operation's lines cover of an area, run by run.
  template <typename Take>
  void sweep(const PreparedOperation& operation, const raster::PixelRect& area, FillRule rule,
             const Take& take);
  // `sweep(take)` calls take for every run.
  template <typename Sweep>
  void paint_runs(const PreparedOperation& operation, const content::Paint& paint,
                  const Shown& shown, const Sweep& sweep);
  void paint_run(const raster::Coverage::Run& run, const content::Paint& paint, const Shown& shown);
  // The colors of the workspace with their opacity, as they come, over an area.
  void paint_area(const raster::PixelRect& area, const content::Paint& paint, const Shown& shown,
                  bool is_shared);
  // Room for the colors of an area.
  std::uint8_t* colors_of(const raster::PixelRect& area);
  const std::uint8_t* through_clip(const SourceRow& row, const Mask& clip);
  // The pieces of a run that show, each with its shape; nothing else is asked of the clip.
  template <typename Take>
  void through(const Shown& shown, const raster::Coverage::Run& run, const Take& take);
  // Whether it shares the pixels of its edges with others, whose outlines are looked at then.
  bool shares(const PreparedOperation& operation, const content::Paint& paint, const Shown& shown);
  // A row of what shares them.
  void put_shared(const SourceRow& row);
  void put_shared(const raster::Coverage::Run& run, const color::Rgb8& color, std::uint8_t alpha);
  // What shows of `row`, whose opacity the soft mask lowers, is put onto the layer as the paint
  // says.
  void put(SourceRow row, const content::Paint& paint, const Shown& shown);

  MaskPtr mask_of(content::ClipId clip);
  const SoftMaskValues& soft_mask_of(content::MaskId mask, const raster::PixelRect& area);

  const PreparedScene& scene_;
  PixelColor background_;
  const raster::ScreenGamma* gamma_;
  raster::PixelRect tile_;
  BorrowedWorkspace workspace_ = borrow_workspace();
  std::vector<Layer> layers_;
  MaskPtr whole_;  // the tile, unclipped
  std::unordered_map<content::ClipId, MaskPtr> masks_;
  std::unordered_map<content::MaskId, SoftMaskValues> soft_masks_;
  std::map<content::MaskId, TilePainter> mask_painters_;
};

}  // namespace lumvet::rendering
