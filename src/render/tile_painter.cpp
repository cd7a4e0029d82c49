// SPDX-License-Identifier: Apache-2.0
#include "render/tile_painter.h"

#include <algorithm>
#include <array>
#include <cstring>

#include "raster/blend.h"
#include "render/picture_sampler.h"

namespace lumvet::rendering {

using raster::div255;
using raster::PixelRect;

const Bytes& TilePainter::paint(const PixelRect& tile) {
  tile_ = tile;
  if (!coverage_ || !(coverage_->area() == tile))
    coverage_ = std::make_unique<raster::Coverage>(tile);
  masks_.clear();
  layers_.resize(1);
  const std::size_t pixels =
      static_cast<std::size_t>(tile.width()) * static_cast<std::size_t>(tile.height());
  Bytes& base = layers_[0].pixels;
  base.resize(pixels * 4);
  std::array<std::uint8_t, 4> pixel{};
  raster::blend_pixel(pixel.data(), background_.red, background_.green, background_.blue,
                      background_.alpha);
  for (std::size_t i = 0; i < pixels; ++i) std::memcpy(&base[i * 4], pixel.data(), pixel.size());
  for (const PreparedOperation& operation : scene_.operations)
    if (!operation.bounds.intersected(tile).is_empty()) apply(operation);
  return layers_[0].pixels;
}

void TilePainter::apply(const PreparedOperation& operation) {
  const MaskPtr mask = mask_of(operation.source->clip);
  const bool is_group = std::holds_alternative<content::BeginGroup>(operation.source->what) ||
                        std::holds_alternative<content::EndGroup>(operation.source->what);
  if (mask->lets_nothing && !is_group) return;
  std::visit([&](const auto& what) { draw(what, operation, *mask); }, operation.source->what);
}

void TilePainter::draw(const content::FillPath& fill, const PreparedOperation& operation,
                       const Mask& mask) {
  coverage_->add(operation.lines);
  paint_covered(operation.rule, fill.paint, mask);
}

void TilePainter::draw(const content::StrokePath& stroke, const PreparedOperation& operation,
                       const Mask& mask) {
  coverage_->add(operation.lines);
  paint_covered(FillRule::nonzero, stroke.paint, mask);
}

void TilePainter::draw(const content::ShowGlyphs& show, const PreparedOperation& operation,
                       const Mask& mask) {
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
  paint_covered(FillRule::nonzero, show.paint, mask);
}

void TilePainter::paint_covered(FillRule rule, const content::Paint& paint, const Mask& mask) {
  Bytes& pixels = layers_.back().pixels;
  coverage_->sweep(rule, [&](int y, int x, const std::uint8_t* values, int count) {
    const std::size_t start = index_of(x, y);
    std::uint8_t* pixel = &pixels[start * 4];
    const std::uint8_t* opacity = mask.values.empty() ? nullptr : &mask.values[start];
    for (int i = 0; i < count; ++i, pixel += 4) {
      unsigned alpha = values[i];
      if (alpha == 0) continue;
      if (opacity != nullptr) alpha = div255(alpha * opacity[i]);
      alpha = div255(alpha * paint.alpha);
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
                       const Mask& mask) {
  const Matrix placed = image.placed.then(scene_.to_pixels);
  if (!placed.is_invertible()) return;
  const PictureSampler sampler(*image.picture, placed, image.interpolate);
  const bool stencil = image.picture->channels == 1;
  coverage_->add(operation.lines);
  Bytes& pixels = layers_.back().pixels;
  Bytes samples(static_cast<std::size_t>(tile_.width()) * 4);
  coverage_->sweep(FillRule::nonzero, [&](int y, int x, const std::uint8_t* values, int count) {
    const std::size_t start = index_of(x, y);
    sampler.row(x, y, count, samples.data());
    const std::uint8_t* sample = samples.data();
    std::uint8_t* pixel = &pixels[start * 4];
    const std::uint8_t* opacity = mask.values.empty() ? nullptr : &mask.values[start];
    for (int i = 0; i < count; ++i, sample += 4, pixel += 4) {
      unsigned alpha = div255(values[i] * image.paint.alpha);
      if (opacity != nullptr) alpha = div255(alpha * opacity[i]);
      alpha = div255(alpha * sample[3]);
      if (stencil) {
        raster::blend_pixel(pixel, image.paint.red, image.paint.green, image.paint.blue,
                            div255(alpha * sample[0]));
      } else if (alpha == 255) {
        std::memcpy(pixel, sample, 4);  // its fourth byte is 255 as well
      } else if (alpha != 0) {
        raster::blend_pixel(pixel, sample[0], sample[1], sample[2], alpha);
      }
    }
  });
}

void TilePainter::draw(const content::BeginGroup& begin, const PreparedOperation& operation,
                       const Mask&) {
  Layer layer;
  layer.pixels.resize(layers_[0].pixels.size());
  layer.alpha = begin.alpha;
  layer.clip = operation.source->clip;
  layers_.push_back(std::move(layer));
}

void TilePainter::draw(const content::EndGroup&, const PreparedOperation&, const Mask&) {
  if (layers_.size() < 2) return;
  const Layer layer = std::move(layers_.back());
  layers_.pop_back();
  const MaskPtr mask = mask_of(layer.clip);
  if (mask->lets_nothing) return;
  Bytes& below = layers_.back().pixels;
  for (std::size_t i = 0; i * 4 < below.size(); ++i) {
    const unsigned opacity = mask->values.empty() ? 255u : mask->values[i];
    raster::blend_premultiplied(&below[i * 4], &layer.pixels[i * 4], div255(opacity * layer.alpha));
  }
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
