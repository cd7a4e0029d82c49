// SPDX-License-Identifier: Apache-2.0
#include "render/layer.h"

#include <algorithm>
#include <cmath>
#include <cstring>

#include "color/inks.h"
#include "render/blend_rows.h"

namespace lumvet::rendering {
namespace {

using color::BlendMode;
using color::Rgb8;
using raster::div255;

std::uint8_t narrow(unsigned value) { return static_cast<std::uint8_t>(std::min(value, 255u)); }

Rgb8 without_alpha(const std::uint8_t* pixel) {
  const unsigned alpha = pixel[3];
  if (alpha == 0) return {};
  if (alpha == 255) return {pixel[0], pixel[1], pixel[2]};
  const auto whole = [alpha](unsigned value) { return narrow((value * 255 + alpha / 2) / alpha); };
  return {whole(pixel[0]), whole(pixel[1]), whole(pixel[2])};
}

Rgb8 color_at(const SourceRow& row, int i) {
  if (row.colors == nullptr) return row.color;
  const std::uint8_t* c = row.colors + std::ptrdiff_t{i} * 4;
  return {c[0], c[1], c[2]};
}

std::uint8_t between(unsigned from, unsigned to, unsigned part) {
  return static_cast<std::uint8_t>(div255(from * (255 - part)) + div255(to * part));
}

std::uint8_t together(unsigned a, unsigned b) {
  return static_cast<std::uint8_t>(a + b - div255(a * b));
}

// A mode on the screen or in inks, of which the latter takes long: pixels like the one before are
// passed over.
class PixelBlender {
 public:
  PixelBlender(BlendMode mode, bool in_inks) : mode_(mode), in_inks_(in_inks), screen_(mode) {}

  Rgb8 blend(const Rgb8& backdrop, const Rgb8& source) {
    if (!in_inks_) return screen_.blend(backdrop, source);
    if (backdrop != backdrop_ || source != source_ || !has_result_) {
      result_ = color::blend_in_inks(mode_, backdrop, source);
      backdrop_ = backdrop;
      source_ = source;
      has_result_ = true;
    }
    return result_;
  }

  // Of many on the screen.
  void blend(const std::uint8_t* backdrop, const std::uint8_t* source, std::uint8_t* out,
             int count) const {
    screen_.blend(backdrop, source, out, count);
  }

 private:
  BlendMode mode_;
  bool in_inks_;
  color::Blender screen_;
  bool has_result_ = false;
  Rgb8 backdrop_{};
  Rgb8 source_{};
  Rgb8 result_{};
};

}  // namespace

void Layer::fill(const std::array<std::uint8_t, 4>& pixel) {
  std::uint8_t* row = pixels_;
  for (int y = 0; y < area_.height(); ++y, row += stride_)
    raster::fill_row(row, pixel, area_.width());
}

Layer::Layer(const content::BeginGroup& begin, const raster::PixelRect& area, const Layer& below,
             Bytes room)
    : area_(area),
      group_(begin.group),
      kept_(std::move(room)),
      stride_(std::ptrdiff_t{area.width()} * 4) {
  const std::size_t pixels =
      static_cast<std::size_t>(area.width()) * static_cast<std::size_t>(area.height());
  if (begin.mixes_with_below) {
    start_.reserve(pixels * 4);
    for (int y = area.top; y < area.bottom; ++y) {
      const std::uint8_t* row = below.pixel(area.left, y);
      start_.insert(start_.end(), row, row + stride_);
    }
    kept_ = start_;
    own_.assign(pixels, 0);
  } else {
    kept_.assign(pixels * 4, 0);
  }
  pixels_ = kept_.data();
  if (below.group_.knockout || !below.shape_.empty()) shape_.assign(pixels, 0);
}

// Shape times opacity for every pixel of a row; null when they are the same for all.
const std::uint8_t* Layer::alphas_of(const SourceRow& row) {
  if (row.shapes == nullptr && row.opacities == nullptr) return nullptr;
  if (row.opacities == nullptr && row.opacity == 255) return row.shapes;
  if (row.shapes == nullptr && row.shape == 255) return row.opacities;
  const auto count = static_cast<std::size_t>(row.count);
  const std::uint8_t* some = row.shapes != nullptr ? row.shapes : row.opacities;
  alphas_.assign(some, some + count);
  if (row.shapes != nullptr && row.opacities != nullptr)
    raster::multiply(alphas_.data(), row.opacities, row.count);
  else
    raster::multiply(alphas_.data(), row.shapes != nullptr ? row.opacity : row.shape, row.count);
  return alphas_.data();
}

SourceRow Layer::straight(SourceRow row) {
  const auto count = static_cast<std::size_t>(row.count);
  straight_.resize(count * 4);
  if (row.opacities != nullptr)
    opacities_.assign(row.opacities, row.opacities + count);
  else
    opacities_.assign(count, static_cast<std::uint8_t>(row.opacity));
  for (std::size_t i = 0; i < count; ++i) {
    const Rgb8 color = without_alpha(row.colors + 4 * i);
    std::copy_n(color.data(), 3, &straight_[4 * i]);
    opacities_[i] = static_cast<std::uint8_t>(div255(opacities_[i] * row.colors[4 * i + 3]));
  }
  row.colors = straight_.data();
  row.opacities = opacities_.data();
  row.is_premultiplied = false;
  return row;
}

void Layer::put(const raster::Coverage::Run& run, const Rgb8& color, std::uint8_t alpha) {
  std::uint8_t* pixels = pixel(run.x, run.y);
  if (run.values == nullptr && run.count == 1)  // as at both ends of every row of a rectangle
    return raster::blend_pixel(pixels, color[0], color[1], color[2],
                               div255(unsigned{run.value} * alpha));
  if (run.values == nullptr)
    return raster::blend_row(pixels, color, div255(unsigned{run.value} * alpha), run.count);
  const std::uint8_t* alphas = run.values;
  if (alpha != 255) {
    alphas_.assign(run.values, run.values + run.count);
    raster::multiply(alphas_.data(), alpha, run.count);
    alphas = alphas_.data();
  }
  raster::blend_row(pixels, color, alphas, run.count);
}

void Layer::put(const SourceRow& row) {
  if (row.is_premultiplied && (!is_simple() || row.blend != BlendMode::normal))
    return put(straight(row));
  if (!is_simple()) {
    for (int i = 0; i < row.count; ++i) {
      Source source{color_at(row, i), row.opacities == nullptr ? row.opacity : row.opacities[i],
                    row.shapes == nullptr ? row.shape : row.shapes[i], row.in_inks};
      if (row.opacity_is_shape) {
        source.shape = div255(source.shape * source.opacity);
        source.opacity = 255;
      }
      if (source.opacity != 0 || source.shape != 0) put(row.x + i, row.y, source, row.blend);
    }
    return;
  }
  if (row.blend != BlendMode::normal) return mix(row);
  std::uint8_t* pixels = pixel(row.x, row.y);
  const std::uint8_t* alphas = alphas_of(row);
  const unsigned alpha = div255(row.shape * row.opacity);
  if (row.is_premultiplied && alphas == nullptr)
    raster::blend_premultiplied_row(pixels, row.colors, alpha, row.count);
  else if (row.is_premultiplied)
    raster::blend_premultiplied_row(pixels, row.colors, alphas, row.count);
  else if (row.colors == nullptr && alphas == nullptr)
    raster::blend_row(pixels, row.color, alpha, row.count);
  else if (row.colors == nullptr)
    raster::blend_row(pixels, row.color, alphas, row.count);
  else if (alphas == nullptr)
    raster::blend_row(pixels, row.colors, alpha, row.count);
  else
    raster::blend_row(pixels, row.colors, alphas, row.count);
}

// A row by a blend mode, where that is all there is to it.
void Layer::mix(const SourceRow& row) {
  const std::uint8_t* alphas = alphas_of(row);
  if (!row.in_inks && blends_in_rows(row.blend)) return mix_blocks(row, alphas);
  const std::uint8_t alpha = static_cast<std::uint8_t>(div255(row.shape * row.opacity));
  PixelBlender blender(row.blend, row.in_inks);
  constexpr int kSome = 64;
  for (int done = 0; done < row.count; done += kSome) {
    const int count = std::min(kSome, row.count - done);
    std::uint8_t* pixel = this->pixel(row.x + done, row.y);
    std::uint8_t same[kSome];
    if (alphas == nullptr) std::fill_n(same, count, alpha);
    const std::uint8_t* some_alphas = alphas == nullptr ? same : alphas + done;
    if (!row.in_inks && raster::are_opaque(pixel, static_cast<std::size_t>(count))) {
      std::uint8_t sources[kSome * 4];
      std::uint8_t mixed[kSome * 4];
      if (row.colors == nullptr)
        raster::fill_row(sources, {row.color[0], row.color[1], row.color[2], 255}, count);
      blender.blend(pixel, row.colors == nullptr ? sources : row.colors + std::ptrdiff_t{done} * 4,
                    mixed, count);
      raster::blend_row(pixel, mixed, some_alphas, count);
      continue;
    }
    for (int i = 0; i < count; ++i, pixel += 4) {
      if (some_alphas[i] == 0) continue;
      const Rgb8 source = color_at(row, done + i);
      Rgb8 color = source;
      if (pixel[3] != 0) {
        const Rgb8 blended = blender.blend(without_alpha(pixel), source);
        for (std::size_t k = 0; k < 3; ++k) color[k] = between(source[k], blended[k], pixel[3]);
      }
      raster::blend_pixel(pixel, color[0], color[1], color[2], some_alphas[i]);
    }
  }
}

// The same for many pixels at once; the last block is filled up with what does not matter.
void Layer::mix_blocks(const SourceRow& row, const std::uint8_t* alphas) {
  std::uint8_t* pixels = pixel(row.x, row.y);
  const auto alpha = static_cast<std::uint8_t>(div255(row.shape * row.opacity));
  std::uint8_t block[kBlendBlock * 4] = {};
  std::uint8_t colors[kBlendBlock * 4] = {};
  std::uint8_t block_alphas[kBlendBlock];
  std::fill_n(block_alphas, kBlendBlock, alpha);
  if (row.colors == nullptr)
    raster::fill_row(colors, {row.color[0], row.color[1], row.color[2], 255}, kBlendBlock);
  for (int done = 0; done < row.count; done += kBlendBlock, pixels += kBlendBlock * 4) {
    const int count = std::min(kBlendBlock, row.count - done);
    const auto bytes = static_cast<std::size_t>(count) * 4;
    if (alphas != nullptr) std::copy_n(alphas + done, count, block_alphas);
    if (alphas != nullptr &&
        std::all_of(block_alphas, block_alphas + count, [](std::uint8_t a) { return a == 0; }))
      continue;
    if (row.colors != nullptr) std::memcpy(colors, row.colors + std::ptrdiff_t{done} * 4, bytes);
    if (count == kBlendBlock) {
      blend_block(row.blend, pixels, colors, block_alphas);
      continue;
    }
    std::memcpy(block, pixels, bytes);
    blend_block(row.blend, block, colors, block_alphas);
    std::memcpy(pixels, block, bytes);
  }
}

void Layer::put(const Layer& group, int x, int y, int count, const std::uint8_t* shapes,
                const std::uint8_t* opacities) {
  const content::Group& how = group.group_;
  const bool copies = group.is_simple() && is_simple() && how.blend == BlendMode::normal;
  if (copies) {
    const std::uint8_t* alphas =
        alphas_of({.count = count, .opacities = opacities, .opacity = how.alpha, .shapes = shapes});
    if (alphas == nullptr)
      raster::blend_premultiplied_row(pixel(x, y), group.pixel(x, y), how.alpha, count);
    else
      raster::blend_premultiplied_row(pixel(x, y), group.pixel(x, y), alphas, count);
    return;
  }
  for (int i = 0; i < count; ++i) {
    Source source = group.result(x + i, y);
    source.in_inks = how.in_inks;
    const unsigned opacity = opacities == nullptr ? how.alpha : opacities[i];
    source.opacity = div255(source.opacity * opacity);
    if (shapes != nullptr) source.shape = div255(source.shape * shapes[i]);
    if (source.opacity != 0 || source.shape != 0) put(x + i, y, source, how.blend);
  }
}

Rgb8 Layer::mixed(const std::uint8_t* backdrop, const Source& source, BlendMode blend) {
  if (blend == BlendMode::normal || backdrop[3] == 0) return source.color;
  const auto mix = source.in_inks ? color::blend_in_inks : color::blend;
  const Rgb8 blended = mix(blend, without_alpha(backdrop), source.color);
  Rgb8 result;
  for (std::size_t k = 0; k < 3; ++k) result[k] = between(source.color[k], blended[k], backdrop[3]);
  return result;
}

void Layer::put(int x, int y, const Source& source, BlendMode blend) {
  std::uint8_t* pixel = this->pixel(x, y);
  const std::size_t i = index_of(x, y);
  if (!shape_.empty()) shape_[i] = together(shape_[i], source.shape);
  if (!group_.knockout) {
    const unsigned alpha = div255(source.opacity * source.shape);
    const Rgb8 color = mixed(pixel, source, blend);
    raster::blend_pixel(pixel, color[0], color[1], color[2], alpha);
    if (!own_.empty()) own_[i] = together(own_[i], alpha);
    return;
  }
  // Over what was there when the group began, in place of what it has drawn since.
  std::uint8_t fresh[4] = {};
  if (!start_.empty()) std::memcpy(fresh, &start_[i * 4], 4);
  const Rgb8 color = mixed(fresh, source, blend);
  raster::blend_pixel(fresh, color[0], color[1], color[2], source.opacity);
  for (std::size_t k = 0; k < 4; ++k) pixel[k] = between(pixel[k], fresh[k], source.shape);
  if (!own_.empty()) own_[i] = between(own_[i], source.opacity, source.shape);
}

Source Layer::result(int x, int y) const {
  const std::uint8_t* pixel = this->pixel(x, y);
  const std::size_t i = index_of(x, y);
  Source source;
  const unsigned alpha = own_.empty() ? pixel[3] : own_[i];
  source.color = without_alpha(pixel);
  if (!own_.empty() && alpha != 0 && alpha != 255) {
    // C = Cn + (Cn - C0) × α0 × (1/αg - 1)
    const std::uint8_t* below = &start_[i * 4];
    const Rgb8 start = without_alpha(below);
    const double factor = below[3] / 255.0 * (255.0 / alpha - 1);
    for (std::size_t k = 0; k < 3; ++k) {
      const double c = source.color[k] + (source.color[k] - start[k]) * factor;
      source.color[k] = static_cast<std::uint8_t>(std::lround(std::clamp(c, 0.0, 255.0)));
    }
  }
  source.shape = shape_.empty() ? 255 : shape_[i];
  source.opacity =
      source.shape == 0 ? 0 : std::min(255u, (alpha * 255 + source.shape / 2) / source.shape);
  return source;
}

}  // namespace lumvet::rendering
