// SPDX-License-Identifier: Apache-2.0
#include "render/tile_painter.h"

#include <algorithm>
#include <array>
#include <cstring>

#include "raster/blend.h"
#include "render/picture_sampler.h"
#include "render/tiling_cell.h"

namespace lumvet::rendering {

using raster::div255;
using raster::PixelRect;

Bytes& TilePainter::paint(const PixelRect& tile) {
  tile_ = tile;
  if (!coverage_ || !(coverage_->area() == tile))
    coverage_ = std::make_unique<raster::Coverage>(tile);
  masks_.clear();
  soft_masks_.clear();
  layers_.clear();
  const std::size_t pixels =
      static_cast<std::size_t>(tile.width()) * static_cast<std::size_t>(tile.height());
  std::array<std::uint8_t, 4> pixel{};
  raster::blend_pixel(pixel.data(), background_.red, background_.green, background_.blue,
                      background_.alpha);
  layers_.emplace_back(pixels, pixel);
  for (const PreparedOperation& operation : scene_.operations)
    if (!operation.bounds.intersected(tile).is_empty()) apply(operation);
  return layers_[0].pixels();
}

void TilePainter::apply(const PreparedOperation& operation) {
  const content::Within& within = operation.source->within;
  const bool is_group = std::holds_alternative<content::BeginGroup>(operation.source->what) ||
                        std::holds_alternative<content::EndGroup>(operation.source->what);
  const MaskPtr clip = mask_of(within.clip);
  if (clip->lets_nothing && !is_group) return;
  const MaskPtr soft = soft_mask_of(within.mask);
  if (soft->lets_nothing && !is_group) return;
  const Shown shown{*clip, *soft};
  std::visit([&](const auto& what) { draw(what, operation, shown); }, operation.source->what);
}

void TilePainter::draw(const content::FillPath& fill, const PreparedOperation& operation,
                       const Shown& shown) {
  coverage_->add(operation.lines);
  paint_covered(operation.rule, fill.paint, shown);
}

void TilePainter::draw(const content::StrokePath& stroke, const PreparedOperation& operation,
                       const Shown& shown) {
  coverage_->add(operation.lines);
  paint_covered(FillRule::nonzero, stroke.paint, shown);
}

void TilePainter::draw(const content::ShowGlyphs& show, const PreparedOperation& operation,
                       const Shown& shown) {
  for (const PreparedGlyph& glyph : operation.glyphs) {
    if (glyph.bounds.intersected(tile_).is_empty()) continue;
    for (const raster::Polyline& line : *glyph.lines) {
      if (line.points.size() < 2) continue;
      const auto moved = [&](Point p) { return Point{p.x + glyph.at.x, p.y + glyph.at.y}; };
      Point before = moved(line.points.back());
      for (const Point p : line.points) {
        const Point here = moved(p);
        coverage_->add(before, here);
        before = here;
      }
    }
  }
  paint_covered(FillRule::nonzero, show.paint, shown);
}

void TilePainter::paint_covered(FillRule rule, const content::Paint& paint, const Shown& shown) {
  Layer& layer = layers_.back();
  const bool is_simple = layer.is_simple() && paint.blend == color::BlendMode::normal;
  const color::Rgb8 color{paint.red, paint.green, paint.blue};
  coverage_->sweep(rule, [&](int y, int x, const std::uint8_t* values, int count) {
    const std::size_t start = index_of(x, y);
    std::uint8_t* pixel = &layer.pixels()[start * 4];
    for (int i = 0; i < count; ++i, pixel += 4) {
      if (values[i] == 0) continue;
      const std::size_t at = start + static_cast<std::size_t>(i);
      const unsigned shape = div255(values[i] * shown.clip_at(at));
      const unsigned opacity = div255(paint.alpha * shown.soft_at(at));
      if (!is_simple) {
        layer.put(at, {color, opacity, shape}, paint.blend);
        continue;
      }
      const unsigned alpha = div255(shape * opacity);
      if (alpha == 255) {
        pixel[0] = paint.red;
        pixel[1] = paint.green;
        pixel[2] = paint.blue;
        pixel[3] = 255;
      } else if (alpha != 0) {
        raster::blend_pixel(pixel, paint.red, paint.green, paint.blue, alpha);
      }
    }
  });
}

void TilePainter::draw(const content::ShowImage& image, const PreparedOperation& operation,
                       const Shown& shown) {
  const Matrix placed = image.placed.then(scene_.to_pixels);
  if (!placed.is_invertible()) return;
  const PictureSampler sampler(*image.picture, placed, image.interpolate);
  const bool stencil = image.picture->channels == 1;
  coverage_->add(operation.lines);
  Layer& layer = layers_.back();
  const content::Paint& paint = image.paint;
  const bool is_simple = layer.is_simple() && paint.blend == color::BlendMode::normal;
  // Most pictures cover whatever is below them.
  const bool covers = is_simple && !stencil && paint.alpha == 255 && shown.clip.values.empty() &&
                      shown.soft.values.empty();
  Bytes samples(static_cast<std::size_t>(tile_.width()) * 4);
  coverage_->sweep(FillRule::nonzero, [&](int y, int x, const std::uint8_t* values, int count) {
    const std::size_t start = index_of(x, y);
    sampler.row(x, y, count, samples.data());
    const std::uint8_t* sample = samples.data();
    std::uint8_t* pixel = &layer.pixels()[start * 4];
    for (int i = 0; i < count; ++i, sample += 4, pixel += 4) {
      if (covers && (values[i] & sample[3]) == 255) {
        std::memcpy(pixel, sample, 4);
        continue;
      }
      const std::size_t at = start + static_cast<std::size_t>(i);
      Source source{{sample[0], sample[1], sample[2]}};
      source.shape = div255(values[i] * shown.clip_at(at));
      source.opacity = div255(div255(paint.alpha * shown.soft_at(at)) * sample[3]);
      if (stencil) {  // it takes the place that it paints, no more
        source.color = {paint.red, paint.green, paint.blue};
        source.shape = div255(source.shape * sample[0]);
      }
      if (!is_simple) {
        layer.put(at, source, paint.blend);
        continue;
      }
      const unsigned alpha = div255(source.shape * source.opacity);
      if (alpha != 0)
        raster::blend_pixel(pixel, source.color[0], source.color[1], source.color[2], alpha);
    }
  });
}

void TilePainter::draw(const content::ShowShading& show, const PreparedOperation& operation,
                       const Shown& shown) {
  const Matrix placed = show.placed.then(scene_.to_pixels);
  const PixelRect area = operation.bounds.intersected(tile_);
  if (!placed.is_invertible() || area.is_empty()) return;
  Bytes colors(static_cast<std::size_t>(area.width()) * static_cast<std::size_t>(area.height()) *
               4);
  show.shading->paint({area.left, area.top, area.width(), area.height()}, placed, colors.data());
  if (operation.lines.empty()) return paint_area(colors, area, show.paint, shown);
  // Its box, with smooth edges.
  Mask box;
  box.values.assign(
      static_cast<std::size_t>(tile_.width()) * static_cast<std::size_t>(tile_.height()), 0);
  coverage_->add(operation.lines);
  coverage_->sweep(FillRule::nonzero, [&](int y, int x, const std::uint8_t* values, int count) {
    for (int i = 0; i < count; ++i) {
      const std::size_t at = index_of(x + i, y);
      box.values[at] = static_cast<std::uint8_t>(div255(values[i] * shown.clip_at(at)));
    }
  });
  paint_area(colors, area, show.paint, {box, shown.soft});
}

void TilePainter::draw(const content::ShowTiling& show, const PreparedOperation& operation,
                       const Shown& shown) {
  const PixelRect area = operation.bounds.intersected(tile_);
  if (area.is_empty() || !operation.cell) return;
  Bytes colors(static_cast<std::size_t>(area.width()) * static_cast<std::size_t>(area.height()) *
               4);
  operation.cell->paint(area, colors.data());
  paint_area(colors, area, show.paint, shown);
}

void TilePainter::paint_area(const Bytes& colors, const PixelRect& area,
                             const content::Paint& paint, const Shown& shown) {
  Layer& layer = layers_.back();
  const std::uint8_t* color = colors.data();
  for (int y = area.top; y < area.bottom; ++y)
    for (int x = area.left; x < area.right; ++x, color += 4) {
      if (color[3] == 0) continue;
      const std::size_t at = index_of(x, y);
      const unsigned shape = shown.clip_at(at);
      const unsigned opacity = div255(div255(paint.alpha * shown.soft_at(at)) * color[3]);
      if (shape != 0 && opacity != 0)
        layer.put(at, {{color[0], color[1], color[2]}, opacity, shape}, paint.blend);
    }
}

void TilePainter::draw(const content::BeginGroup& begin, const PreparedOperation& operation,
                       const Shown&) {
  layers_.emplace_back(begin, operation.source->within, layers_.back());
}

void TilePainter::draw(const content::EndGroup&, const PreparedOperation& operation,
                       const Shown& shown) {
  if (layers_.size() < 2) return;
  const Layer layer = std::move(layers_.back());
  layers_.pop_back();
  if (shown.clip.lets_nothing || shown.soft.lets_nothing) return;
  Layer& below = layers_.back();
  const PixelRect area = operation.bounds.intersected(tile_);
  for (int y = area.top; y < area.bottom; ++y)
    for (int x = area.left; x < area.right; ++x) {
      const std::size_t at = index_of(x, y);
      Source source = layer.result(at);
      source.opacity = div255(source.opacity * div255(layer.group().alpha * shown.soft_at(at)));
      source.shape = div255(source.shape * shown.clip_at(at));
      if (source.opacity != 0 || source.shape != 0) below.put(at, source, layer.group().blend);
    }
}

TilePainter::MaskPtr TilePainter::soft_mask_of(content::MaskId id) {
  static const MaskPtr kAll = std::make_shared<const Mask>();
  if (id == content::kNoMask) return kAll;
  MaskPtr& known = soft_masks_[id];
  if (known) return known;
  const PreparedMask& prepared = scene_.masks[static_cast<std::size_t>(id)];
  const content::SoftMask& source = *prepared.source;
  const auto& [red, green, blue] = source.backdrop;
  const std::uint8_t opaque = source.by_luminosity ? 255 : 0;
  TilePainter painter(*prepared.scene, {red, green, blue, opaque});
  const Bytes& pixels = painter.paint(tile_);
  Mask mask;
  mask.values.resize(pixels.size() / 4);
  mask.lets_nothing = true;
  for (std::size_t i = 0; i < mask.values.size(); ++i) {
    const std::uint8_t* p = &pixels[i * 4];
    // 0.30 red, 0.59 green, 0.11 blue (11.3.5.3), in 1/256
    const unsigned value =
        source.by_luminosity ? (77u * p[0] + 151u * p[1] + 28u * p[2] + 128) / 256 : p[3];
    mask.values[i] = source.transfer[std::min(value, 255u)];
    mask.lets_nothing = mask.lets_nothing && mask.values[i] == 0;
  }
  known = std::make_shared<const Mask>(std::move(mask));
  return known;
}

TilePainter::MaskPtr TilePainter::mask_of(content::ClipId clip) {
  static const MaskPtr kAll = std::make_shared<const Mask>();
  // From the innermost out to one that is known, then back in.
  std::vector<content::ClipId> chain;
  MaskPtr mask = kAll;
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
    const PreparedClip& inner = scene_.clips[static_cast<std::size_t>(*at)];
    // Most clips are rectangles around the whole tile, which change nothing.
    const bool changes =
        !(inner.rectangle && inner.rectangle->left <= tile_.left &&
          inner.rectangle->right >= tile_.right && inner.rectangle->bottom <= tile_.top &&
          inner.rectangle->top >= tile_.bottom);
    if (changes && !mask->lets_nothing) mask = narrowed(*mask, inner);
    masks_[*at] = mask;
  }
  return mask;
}

TilePainter::MaskPtr TilePainter::narrowed(const Mask& outer, const PreparedClip& clip) {
  Mask mask;
  mask.values.assign(
      static_cast<std::size_t>(tile_.width()) * static_cast<std::size_t>(tile_.height()), 0);
  coverage_->add(clip.lines);
  coverage_->sweep(clip.rule, [&](int y, int x, const std::uint8_t* values, int count) {
    std::copy_n(values, count, &mask.values[index_of(x, y)]);
  });
  if (!outer.values.empty())
    for (std::size_t i = 0; i < mask.values.size(); ++i)
      mask.values[i] =
          static_cast<std::uint8_t>(div255(unsigned{mask.values[i]} * outer.values[i]));
  const auto is = [](std::uint8_t wanted) {
    return [wanted](std::uint8_t v) { return v == wanted; };
  };
  mask.lets_nothing = std::all_of(mask.values.begin(), mask.values.end(), is(0));
  if (std::all_of(mask.values.begin(), mask.values.end(), is(255))) mask.values.clear();
  return std::make_shared<const Mask>(std::move(mask));
}

}  // namespace lumvet::rendering
