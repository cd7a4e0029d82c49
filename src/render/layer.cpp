// SPDX-License-Identifier: Apache-2.0
#include "render/layer.h"

#include <algorithm>
#include <cmath>
#include <cstring>

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

std::uint8_t between(unsigned from, unsigned to, unsigned part) {
  return static_cast<std::uint8_t>(div255(from * (255 - part)) + div255(to * part));
}

std::uint8_t together(unsigned a, unsigned b) {
  return static_cast<std::uint8_t>(a + b - div255(a * b));
}

}  // namespace

Layer::Layer(std::size_t pixels, const std::array<std::uint8_t, 4>& background)
    : pixels_(pixels * 4) {
  for (std::size_t i = 0; i < pixels; ++i) std::memcpy(&pixels_[i * 4], background.data(), 4);
}

Layer::Layer(const content::BeginGroup& begin, const content::Within& within, const Layer& below)
    : group_(begin.group), within_(within) {
  const std::size_t pixels = below.pixels_.size() / 4;
  if (begin.mixes_with_below) {
    start_ = below.pixels_;
    pixels_ = start_;
    own_.assign(pixels, 0);
  } else {
    pixels_.assign(pixels * 4, 0);
  }
  if (below.group_.knockout || !below.shape_.empty()) shape_.assign(pixels, 0);
}

Rgb8 Layer::mixed(const std::uint8_t* backdrop, const Rgb8& source, BlendMode blend) const {
  if (blend == BlendMode::normal || backdrop[3] == 0) return source;
  const Rgb8 blended = color::blend(blend, without_alpha(backdrop), source);
  Rgb8 result;
  for (std::size_t k = 0; k < 3; ++k) result[k] = between(source[k], blended[k], backdrop[3]);
  return result;
}

void Layer::put(std::size_t i, const Source& source, BlendMode blend) {
  std::uint8_t* pixel = &pixels_[i * 4];
  if (!shape_.empty()) shape_[i] = together(shape_[i], source.shape);
  if (!group_.knockout) {
    const unsigned alpha = div255(source.opacity * source.shape);
    const Rgb8 color = mixed(pixel, source.color, blend);
    raster::blend_pixel(pixel, color[0], color[1], color[2], alpha);
    if (!own_.empty()) own_[i] = together(own_[i], alpha);
    return;
  }
  // Over what was there when the group began, in place of what it has drawn since.
  std::uint8_t fresh[4] = {};
  if (!start_.empty()) std::memcpy(fresh, &start_[i * 4], 4);
  const Rgb8 color = mixed(fresh, source.color, blend);
  raster::blend_pixel(fresh, color[0], color[1], color[2], source.opacity);
  for (std::size_t k = 0; k < 4; ++k) pixel[k] = between(pixel[k], fresh[k], source.shape);
  if (!own_.empty()) own_[i] = between(own_[i], source.opacity, source.shape);
}

Source Layer::result(std::size_t i) const {
  const std::uint8_t* pixel = &pixels_[i * 4];
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
