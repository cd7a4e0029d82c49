// SPDX-License-Identifier: Apache-2.0
#include "render/tile_painter.h"

#include <algorithm>
#include <array>

#include "base/allowance.h"
#include "raster/blend.h"
#include "raster/pixel_formats.h"
#include "render/image_sampler.h"
#include "render/tiling_cell.h"

namespace lumvet::rendering {

using raster::PixelRect;

const std::uint8_t* TilePainter::paint_apart(const PixelRect& tile) {
  const std::ptrdiff_t stride = std::ptrdiff_t{tile.width()} * 4;
  Bytes& apart = workspace_->apart;
  const std::size_t bytes =
      static_cast<std::size_t>(stride) * static_cast<std::size_t>(tile.height());
  if (apart.size() < bytes) apart.resize(bytes);
  paint(tile, apart.data(), stride);
  return apart.data();
}

void TilePainter::paint(const PixelRect& tile, std::uint8_t* pixels, std::ptrdiff_t stride) {
  tile_ = tile;
  workspace_->coverage.cover(tile);
  workspace_->shared.begin(tile);
  whole_ = Mask::all(tile);
  masks_.clear();
  forget_soft_masks();
  layers_.clear();
  layers_.emplace_back(tile, pixels, stride);
  bool has_paper = false;
  for (const auto& some : scene_.operations)
    for (const PreparedOperation& operation : some) {
      if (operation.bounds.intersected(tile).is_empty()) continue;
      if (!goes_on()) return;
      if (!has_paper && !hides_all(operation)) lay_paper();
      has_paper = true;
      apply(operation);
    }
  if (!has_paper) lay_paper();
}

void TilePainter::forget_soft_masks() {
  for (auto& [id, mask] : soft_masks_) workspace_->rooms.push_back(std::move(mask.values));
  soft_masks_.clear();
}

void TilePainter::lay_paper() {
  std::array<std::uint8_t, 4> pixel{};
  raster::blend_pixel(pixel.data(), background_.red, background_.green, background_.blue,
                      background_.alpha);
  layers_.back().fill(pixel);
}

bool TilePainter::hides_all(const PreparedOperation& operation) const {
  const auto has_tile = [this](const std::optional<Rect>& rectangle) {
    return rectangle && rectangle->left <= tile_.left && rectangle->right >= tile_.right &&
           rectangle->bottom <= tile_.top && rectangle->top >= tile_.bottom;
  };
  const content::Within& within = operation.source->within;
  if (!has_tile(operation.rectangle) || within.mask != content::kNoMask) return false;
  for (content::ClipId at = within.clip; at != content::kNoClip;) {
    const PreparedClip& clip = scene_.clips[static_cast<std::size_t>(at)];
    if (!has_tile(clip.rectangle)) return false;
    at = clip.outer;
  }
  const auto is_opaque = [](const content::Paint& paint) {
    return paint.alpha == 255 && paint.blend == color::BlendMode::normal;
  };
  if (const auto* fill = std::get_if<content::FillPath>(&operation.source->what))
    return is_opaque(fill->paint);
  const auto* image = std::get_if<content::ShowImage>(&operation.source->what);
  return image != nullptr && is_opaque(image->paint) && !image->image->is_stencil() &&
         !operation.image->mask && image->placed.then(scene_.to_pixels).is_invertible();
}

void TilePainter::apply(const PreparedOperation& operation) {
  const content::Within& within = operation.source->within;
  const bool is_group = std::holds_alternative<content::BeginGroup>(operation.source->what) ||
                        std::holds_alternative<content::EndGroup>(operation.source->what);
  const MaskPtr clip = operation.is_clipped ? whole_ : mask_of(within.clip);
  const PixelRect area =
      operation.bounds.intersected(clip->box()).intersected(layers_.back().area());
  if (area.is_empty() && !is_group) return;
  const SoftMaskValues& soft = soft_mask_of(within.mask, area);
  if (soft.lets_nothing && !is_group) return;
  const Shown shown{*clip, soft, area};
  std::visit([&](const auto& what) { draw(what, operation, shown); }, operation.source->what);
}

template <typename Take>
void TilePainter::sweep(const PreparedOperation& operation, const PixelRect& area, FillRule rule,
                        const Take& take) {
  workspace_->coverage.cover(area);
  if (operation.rectangle) return workspace_->coverage.sweep_rectangle(*operation.rectangle, take);
  workspace_->coverage.add(operation.edges);
  workspace_->coverage.sweep(rule, take);
}

// The shapes of a row that a clip narrows.
const std::uint8_t* TilePainter::through_clip(const SourceRow& row, const Mask& clip) {
  if (row.shapes == nullptr && row.shape == 255)
    if (const std::uint8_t* values = clip.values_from(row.x, row.y)) return values;
  Bytes& shapes = workspace_->shapes;
  if (row.shapes != nullptr)
    shapes.assign(row.shapes, row.shapes + row.count);
  else
    shapes.assign(static_cast<std::size_t>(row.count), static_cast<std::uint8_t>(row.shape));
  clip.multiply_into(shapes.data(), row.x, row.y, row.count);
  return shapes.data();
}

template <typename Take>
void TilePainter::through(const Shown& shown, const raster::Coverage::Run& run, const Take& take) {
  const int left = std::max(run.x, shown.area.left);
  const int right = std::min(run.x + run.count, shown.area.right);
  if (run.y < shown.area.top || run.y >= shown.area.bottom || left >= right) return;
  const auto part = [&](int from, int to, bool is_full) {
    if (from >= to) return;
    SourceRow row{.x = from, .y = run.y, .count = to - from, .shape = run.value};
    if (run.values != nullptr) row.shapes = run.values + (from - run.x);
    if (!is_full && row.count == 1) {  // as at both ends of every row of a rectangle
      row.shape = raster::div255(unsigned{shown.clip.at(from, run.y)} *
                                 (row.shapes != nullptr ? *row.shapes : row.shape));
      row.shapes = nullptr;
      if (row.shape == 0) return;
    } else if (!is_full) {
      row.shapes = through_clip(row, shown.clip);
    }
    take(row);
  };
  const PixelRect& full = shown.clip.full();
  if (run.y < full.top || run.y >= full.bottom || full.left >= full.right)
    return part(left, right, false);
  const int full_left = std::clamp(full.left, left, right);
  const int full_right = std::clamp(full.right, full_left, right);
  part(left, full_left, false);
  part(full_left, full_right, true);
  part(full_right, right, false);
}

// Most of what is drawn covers what is below it, and is cut by nothing but the tile.
template <typename Sweep>
void TilePainter::paint_runs(const PreparedOperation& operation, const content::Paint& paint,
                             const Shown& shown, const Sweep& sweep) {
  using Run = raster::Coverage::Run;
  Layer& layer = layers_.back();
  if (!shown.soft.values.empty() || !layer.blends_plainly(paint.blend))
    return sweep([&](const Run& run) { paint_run(run, paint, shown); });
  const color::Rgb8 color{paint.red, paint.green, paint.blue};
  const bool is_clipped = shown.area.intersected(shown.clip.full()) != shown.area;
  const bool is_shared = shares(operation, paint, shown);
  if (is_shared && !is_clipped)
    return sweep([&](const Run& run) { put_shared(run, color, paint.alpha); });
  if (is_shared)
    return sweep([&](const Run& run) {
      through(shown, run, [&](SourceRow& row) {
        row.color = color;
        row.opacity = paint.alpha;
        put_shared(row);
      });
    });
  if (!is_clipped) return sweep([&](const Run& run) { layer.put(run, color, paint.alpha); });
  sweep([&](const Run& run) {
    through(shown, run, [&](const SourceRow& row) {
      layer.put(Run{row.y, row.x, row.count, row.shapes, static_cast<std::uint8_t>(row.shape)},
                color, paint.alpha);
    });
  });
}

void TilePainter::draw(const content::FillPath& fill, const PreparedOperation& operation,
                       const Shown& shown) {
  paint_runs(operation, fill.paint, shown,
             [&](const auto& take) { sweep(operation, shown.area, operation.rule, take); });
}

void TilePainter::draw(const content::StrokePath& stroke, const PreparedOperation& operation,
                       const Shown& shown) {
  paint_runs(operation, stroke.paint, shown,
             [&](const auto& take) { sweep(operation, shown.area, FillRule::nonzero, take); });
}

void TilePainter::draw(const content::ShowGlyphs& show, const PreparedOperation& operation,
                       const Shown& shown) {
  workspace_->coverage.cover(shown.area);
  for (const PreparedGlyph& glyph : operation.glyphs)
    if (!glyph.bounds().intersected(shown.area).is_empty())
      workspace_->coverage.add(glyph.glyph->edges, glyph.x, glyph.y);
  raster::Coverage& coverage = workspace_->coverage;
  if (gamma_ == nullptr)
    return paint_runs(operation, show.paint, shown,
                      [&](const auto& take) { coverage.sweep(FillRule::nonzero, take); });
  const auto& opacities =
      gamma_->opacities(luminance(show.paint.red, show.paint.green, show.paint.blue));
  coverage.sweep(FillRule::nonzero, [&](raster::Coverage::Run run) {
    run.value = opacities[run.value];
    if (run.values != nullptr) {
      workspace_->values.assign(run.values, run.values + run.count);
      for (std::uint8_t& value : workspace_->values) value = opacities[value];
      run.values = workspace_->values.data();
    }
    paint_run(run, show.paint, shown);
  });
}

void TilePainter::put(SourceRow row, const content::Paint& paint, const Shown& shown) {
  row.blend = paint.blend;
  row.opacity_is_shape = paint.alpha_is_shape;
  row.in_inks = paint.in_inks;
  if (paint.in_gray && row.colors != nullptr) {
    const auto count = static_cast<std::size_t>(row.count);
    workspace_->grays.assign(row.colors, row.colors + count * 4);
    raster::take_color_out(workspace_->grays.data(), count);
    row.colors = workspace_->grays.data();
  }
  if (!shown.soft.values.empty()) {
    const std::uint8_t* soft = shown.soft.at(row.x, row.y);
    workspace_->opacities.assign(soft, soft + row.count);
    if (row.opacities != nullptr)
      raster::multiply(workspace_->opacities.data(), row.opacities, row.count);
    else
      raster::multiply(workspace_->opacities.data(), row.opacity, row.count);
    row.opacities = workspace_->opacities.data();
  }
  layers_.back().put(row);
}

void TilePainter::paint_run(const raster::Coverage::Run& run, const content::Paint& paint,
                            const Shown& shown) {
  through(shown, run, [&](SourceRow& row) {
    row.color = {paint.red, paint.green, paint.blue};
    row.opacity = paint.alpha;
    put(row, paint, shown);
  });
}

void TilePainter::draw(const content::ShowImage& image, const PreparedOperation& operation,
                       const Shown& shown) {
  const Matrix placed = image.placed.then(scene_.to_pixels);
  if (!placed.is_invertible()) return;
  ImageSampler sampler(*operation.image, placed, image.interpolate);
  const bool is_stencil = image.image->is_stencil();
  const content::Paint& paint = image.paint;
  workspace_->values.resize(static_cast<std::size_t>(tile_.width()));
  // As photographs and scanned sheets mostly are.
  const bool covers = !is_stencil && sampler.is_opaque() && paint.alpha == 255 && !paint.in_gray &&
                      shown.soft.values.empty() && layers_.back().blends_plainly(paint.blend) &&
                      shown.area.intersected(shown.clip.full()) == shown.area;
  const bool is_shared = !is_stencil && shares(operation, paint, shown);
  sweep(operation, shown.area, FillRule::nonzero, [&](const raster::Coverage::Run& run) {
    if (covers && run.values == nullptr && run.value == 255)
      return sampler.row_into(run.x, run.y, run.count, layers_.back().pixels_at(run.x, run.y));
    const std::uint8_t* all = sampler.row(run.x, run.y, run.count);
    const std::uint8_t* opacities =
        sampler.is_opaque() ? nullptr : sampler.opacities(run.x, run.y, run.count);
    through(shown, run, [&](SourceRow& row) {
      const std::uint8_t* samples = all + std::ptrdiff_t{row.x - run.x} * 4;
      row.opacity = paint.alpha;
      if (is_stencil) {  // it takes the place that it paints, no more
        row.color = {paint.red, paint.green, paint.blue};
        for (std::size_t i = 0; i < static_cast<std::size_t>(row.count); ++i)
          workspace_->values[i] = samples[4 * i];
        if (row.shapes != nullptr)
          raster::multiply(workspace_->values.data(), row.shapes, row.count);
        else
          raster::multiply(workspace_->values.data(), row.shape, row.count);
        row.shapes = workspace_->values.data();
      } else {
        row.colors = samples;
      }
      if (!is_stencil && opacities != nullptr) {
        row.opacities = opacities + (row.x - run.x);
        if (paint.alpha != 255) {
          std::copy_n(row.opacities, row.count, workspace_->values.data());
          raster::multiply(workspace_->values.data(), paint.alpha, row.count);
          row.opacities = workspace_->values.data();
        }
      }
      if (is_shared)
        put_shared(row);
      else
        put(row, paint, shown);
    });
  });
}

void TilePainter::draw(const content::ShowShading& show, const PreparedOperation& operation,
                       const Shown& shown) {
  const Matrix placed = show.placed.then(scene_.to_pixels);
  const PixelRect& area = shown.area;
  if (!placed.is_invertible()) return;
  const color::Rims rims = operation.source->touches ? color::Rims::sharp : color::Rims::smooth;
  show.shading->paint({area.left, area.top, area.width(), area.height()}, placed, rims,
                      colors_of(area));
  const bool is_shared = shares(operation, show.paint, shown);
  if (operation.edges.empty()) return paint_area(area, show.paint, shown, is_shared);
  // Its box, with smooth edges, is one clip more.
  PreparedClip box;
  box.edges = operation.edges;
  box.bounds = tile_;
  const MaskPtr within =
      Mask::narrowed(std::make_shared<const Mask>(shown.clip), box, workspace_->coverage);
  paint_area(area, show.paint, {*within, shown.soft, area.intersected(within->box())}, is_shared);
}

void TilePainter::draw(const content::ShowTiling& show, const PreparedOperation& operation,
                       const Shown& shown) {
  if (!operation.cell) return;
  const PixelRect& area = shown.area;
  std::uint8_t* colors = colors_of(area);
  operation.cell->paint(area, colors);
  for (int y = area.top; y < area.bottom; ++y, colors += std::ptrdiff_t{area.width()} * 4)
    through(shown, {y, area.left, area.width(), nullptr, 255}, [&](SourceRow& row) {
      row.colors = colors + std::ptrdiff_t{row.x - area.left} * 4;
      row.is_premultiplied = true;
      row.opacity = show.paint.alpha;
      put(row, show.paint, shown);
    });
}

std::uint8_t* TilePainter::colors_of(const PixelRect& area) {
  const std::size_t bytes =
      static_cast<std::size_t>(area.width()) * static_cast<std::size_t>(area.height()) * 4;
  if (workspace_->colors.size() < bytes) workspace_->colors.resize(bytes);
  return workspace_->colors.data();
}

void TilePainter::paint_area(const PixelRect& area, const content::Paint& paint, const Shown& shown,
                             bool is_shared) {
  workspace_->values.resize(static_cast<std::size_t>(area.width()));
  for (int y = shown.area.top; y < shown.area.bottom; ++y) {
    const std::uint8_t* from = &workspace_->colors[static_cast<std::size_t>(y - area.top) *
                                                   static_cast<std::size_t>(area.width()) * 4];
    through(shown, {y, area.left, area.width(), nullptr, 255}, [&](SourceRow& row) {
      row.colors = from + std::ptrdiff_t{row.x - area.left} * 4;
      const auto count = static_cast<std::size_t>(row.count);
      row.opacity = paint.alpha;
      if (!raster::are_opaque(row.colors, count)) {
        raster::take_opacities(row.colors, count, workspace_->values.data());
        raster::multiply(workspace_->values.data(), paint.alpha, row.count);
        row.opacities = workspace_->values.data();
      }
      if (is_shared)
        put_shared(row);
      else
        put(row, paint, shown);
    });
  }
}

void TilePainter::draw(const content::BeginGroup& begin, const PreparedOperation&,
                       const Shown& shown) {
  Layer group(begin, shown.area.is_empty() ? PixelRect{} : shown.area, layers_.back(),
              workspace_->take_room());
  layers_.push_back(std::move(group));
  workspace_->shared.forget();
}

void TilePainter::draw(const content::EndGroup&, const PreparedOperation&, const Shown& shown) {
  if (layers_.size() < 2) return;
  Layer group = std::move(layers_.back());
  layers_.pop_back();
  workspace_->shared.forget();
  if (group.group().in_gray) group.take_color_out();
  for (int y = shown.area.top; y < shown.area.bottom; ++y)
    through(shown, {y, shown.area.left, shown.area.width(), nullptr, 255}, [&](SourceRow& row) {
      const std::uint8_t* opacities = nullptr;
      if (!shown.soft.values.empty()) {
        const std::uint8_t* soft = shown.soft.at(row.x, y);
        workspace_->opacities.assign(soft, soft + row.count);
        raster::multiply(workspace_->opacities.data(), group.group().alpha, row.count);
        opacities = workspace_->opacities.data();
      }
      layers_.back().put(group, row.x, y, row.count, row.shapes, opacities);
    });
  workspace_->rooms.push_back(group.take_room());
}

// For the part of the tile that is asked for first; who asks for more has it for the whole tile.
const TilePainter::SoftMaskValues& TilePainter::soft_mask_of(content::MaskId id,
                                                             const PixelRect& wanted) {
  static const SoftMaskValues kAll;
  if (id == content::kNoMask || wanted.is_empty()) return kAll;
  const auto known = soft_masks_.find(id);
  const bool is_known = known != soft_masks_.end();
  if (is_known && known->second.area.intersected(wanted) == wanted) return known->second;
  const PixelRect area = is_known ? tile_ : wanted;
  const PreparedMask& prepared = scene_.masks[static_cast<std::size_t>(id)];
  const content::SoftMask& source = *prepared.source;
  const auto& [red, green, blue] = source.backdrop;
  const std::uint8_t opaque = source.by_luminosity ? 255 : 0;
  constexpr std::size_t kMostPainters = 8;  // each has memory of its own
  if (mask_painters_.size() >= kMostPainters && !mask_painters_.contains(id))
    mask_painters_.clear();
  TilePainter& painter =
      mask_painters_.try_emplace(id, *prepared.scene, PixelColor{red, green, blue, opaque})
          .first->second;
  const std::uint8_t* pixels = painter.paint_apart(area);
  SoftMaskValues mask{.area = area, .values = workspace_->take_room()};
  mask.values.resize(static_cast<std::size_t>(area.width()) *
                     static_cast<std::size_t>(area.height()));
  std::uint8_t* values = mask.values.data();
  if (source.by_luminosity)
    raster::take_luminances(pixels, mask.values.size(), values);
  else
    raster::take_opacities(pixels, mask.values.size(), values);
  if (prepared.has_transfer)
    for (std::uint8_t& value : mask.values) value = source.transfer[value];
  mask.lets_nothing =
      std::all_of(mask.values.begin(), mask.values.end(), [](std::uint8_t v) { return v == 0; });
  constexpr std::size_t kMostMasks = 32;  // of the size of a tile
  if (soft_masks_.size() >= kMostMasks && !is_known) forget_soft_masks();
  return soft_masks_[id] = std::move(mask);
}

MaskPtr TilePainter::mask_of(content::ClipId clip) {
  // From the innermost out to one that is known, then back in.
  std::vector<content::ClipId> chain;
  MaskPtr mask = whole_;
  for (content::ClipId at = clip; at != content::kNoClip;
       at = scene_.clips[static_cast<std::size_t>(at)].outer) {
    const auto found = masks_.find(at);
    if (found != masks_.end()) {
      mask = found->second;
      break;
    }
    chain.push_back(at);
  }
  constexpr std::size_t kMostKept = 64;
  if (masks_.size() + chain.size() > kMostKept) masks_.clear();
  for (auto at = chain.rbegin(); at != chain.rend(); ++at) {
    mask = Mask::narrowed(mask, scene_.clips[static_cast<std::size_t>(*at)], workspace_->coverage);
    masks_[*at] = mask;
  }
  return mask;
}

}  // namespace lumvet::rendering
