// SPDX-License-Identifier: Apache-2.0
// How a tile is painted by shapes that share edges with others.
#include <algorithm>
#include <array>

#include "render/tile_painter.h"

namespace lumvet::rendering {

using raster::PixelRect;

bool TilePainter::shares(const PreparedOperation& operation, const content::Paint& paint,
                         const Shown& shown) {
  if (!operation.source->touches || paint.in_gray || !shown.soft.values.empty() ||
      !layers_.back().blends_plainly(paint.blend))
    return false;
  SharedEdges& shared = workspace_->shared;
  if (!shared.begin_shape()) return false;
  const PixelRect& area = shown.area;
  if (operation.rectangle)
    shared.add(*operation.rectangle);
  else if (!operation.edges.empty())
    shared.add(operation.edges, operation.rule, area);
  if (operation.is_clipped) return true;
  for (content::ClipId at = operation.source->within.clip; at != content::kNoClip;) {
    const PreparedClip& clip = scene_.clips[static_cast<std::size_t>(at)];
    at = clip.outer;
    if (!clip.rectangle)
      shared.add(clip.edges, clip.rule, area);
    else if (clip.rectangle->left > area.left || clip.rectangle->right < area.right ||
             clip.rectangle->bottom > area.top || clip.rectangle->top < area.bottom)
      shared.add(*clip.rectangle);
  }
  return true;
}

void TilePainter::put_shared(const raster::Coverage::Run& run, const color::Rgb8& color,
                             std::uint8_t alpha) {
  Layer& layer = layers_.back();
  if (run.values == nullptr && run.value == 255) return layer.put(run, color, alpha);
  std::uint8_t* pixel = layer.pixels_at(run.x, run.y);
  if (run.values == nullptr)  // of a rectangle, or beneath all of an outline's edges
    return workspace_->shared.blend(pixel, run.x, run.y, run.count, color, run.value, alpha);
  const std::array<std::uint8_t, 4> whole{color[0], color[1], color[2], 255};
  for (int i = 0; i < run.count; ++i, pixel += 4) {
    const unsigned shape = run.values[i];
    if (shape == 255 && alpha == 255)
      std::copy(whole.begin(), whole.end(), pixel);
    else if (shape == 255)
      raster::blend_pixel(pixel, color[0], color[1], color[2], alpha);
    else if (shape != 0)
      workspace_->shared.blend(pixel, run.x + i, run.y, color, shape, alpha);
  }
}

void TilePainter::put_shared(const SourceRow& row) {
  if (row.shapes == nullptr && row.shape == 255) return layers_.back().put(row);
  // From one pixel to the next: those that are covered wholly are put together.
  const auto part_of = [&row](int from, int count) {
    SourceRow part = row;
    part.x += from;
    part.count = count;
    if (row.colors != nullptr) part.colors += std::ptrdiff_t{from} * 4;
    if (row.opacities != nullptr) part.opacities += from;
    part.shapes = nullptr;
    part.shape = 255;
    return part;
  };
  int first_whole = 0;
  const auto put_whole = [&](int end) {
    if (first_whole < end) layers_.back().put(part_of(first_whole, end - first_whole));
    first_whole = end + 1;
  };
  for (int i = 0; i < row.count; ++i) {
    const unsigned shape = row.shapes != nullptr ? row.shapes[i] : row.shape;
    if (shape == 255) continue;
    put_whole(i);
    if (shape == 0) continue;
    color::Rgb8 color = row.color;
    if (row.colors != nullptr) std::copy_n(row.colors + std::ptrdiff_t{i} * 4, 3, color.data());
    workspace_->shared.blend(layers_.back().pixels_at(row.x + i, row.y), row.x + i, row.y, color,
                             shape, row.opacities != nullptr ? row.opacities[i] : row.opacity);
  }
  put_whole(row.count);
}

}  // namespace lumvet::rendering
