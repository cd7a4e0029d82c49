// SPDX-License-Identifier: Apache-2.0
#include "render/shared_edges.h"

#include <algorithm>
#include <bit>
#include <cstring>

namespace lumvet::rendering {
namespace {

constexpr std::size_t kMostPixels = std::size_t{1} << 18;

}  // namespace

void SharedEdges::begin(const raster::PixelRect& tile) {
  tile_ = tile;
  forget();
}

bool SharedEdges::begin_shape() {
  used_ = 0;
  const auto pixels =
      static_cast<std::size_t>(tile_.width()) * static_cast<std::size_t>(tile_.height());
  if (pixels > kMostPixels) return false;
  if (kept_size_ >= pixels) return true;
  kept_.reset(static_cast<Kept*>(std::calloc(pixels, sizeof(Kept))));
  kept_size_ = kept_ ? pixels : 0;
  return kept_ != nullptr;
}

raster::SampledOutline& SharedEdges::next() {
  if (used_ == outlines_.size()) outlines_.emplace_back();
  return outlines_[used_++];
}

// However they lie: what is painted is parted into what the shape hides and what it does not.
void SharedEdges::mix(Kept& kept, const raster::Rgb& color, const Part& part) {
  const float shape = static_cast<float>(part.shape);
  const float alpha = static_cast<float>(part.opacity) / 255;
  const auto before = static_cast<float>(kept.covered);
  float upon = 0;
  if (!part.is_beside)
    upon = std::min(before, shape * static_cast<float>(std::popcount(part.common)) /
                                static_cast<float>(std::popcount(part.mask)));
  const float beside = shape - upon;
  const float hidden = alpha * upon / before;
  float covered = before + beside;
  const bool is_whole = part.is_whole || covered > 255;
  const float scale = is_whole ? 255 / covered : 1;
  if (is_whole) covered = 255;
  std::uint64_t painted = 0;
  std::uint32_t result = 0;
  for (unsigned k = 0; k < 4; ++k) {
    const auto paint = static_cast<float>(k < 3 ? color[k] : 255);
    const auto backdrop = static_cast<float>(kept.backdrop >> (8 * k) & 0xFF);
    const auto was = static_cast<float>(kept.painted >> (16 * k) & 0xFFFF);
    const float now = std::clamp(
        scale * (was * (1 - hidden) + alpha * shape * paint + (1 - alpha) * beside * backdrop),
        0.0F, 65025.0F);
    painted |= static_cast<std::uint64_t>(now + 0.5F) << (16 * k);
    const float mixed = (now + (255 - covered) * backdrop) / 255;
    result |= static_cast<std::uint32_t>(std::clamp(mixed + 0.5F, 0.0F, 255.0F)) << (8 * k);
  }
  kept.painted = painted;
  kept.covered = static_cast<unsigned>(covered + 0.5F);
  kept.result = result;
}

}  // namespace lumvet::rendering
