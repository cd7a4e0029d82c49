// SPDX-License-Identifier: Apache-2.0
// Shapes that are painted one after the other and share an edge cover the pixels of that edge
// together: no light line is left between them, and what is painted twice is no darker for it.
//
// For every pixel that a shape covers in part it is kept what was below, what was painted, and
// which places within the pixel are painted (raster/sample_mask.h). The next shape there is known
// to lie beside the first, or upon it, by the places that both have. docs/decisions/seams.md tells
// more.
//
// Threads: one thread at a time.
#pragma once

#include <cstdint>
#include <cstdlib>
#include <cstring>
#include <memory>
#include <vector>

#include "raster/blend.h"
#include "raster/sample_mask.h"

namespace lumvet::rendering {

class SharedEdges {
 public:
  // Forgets all, for pixels of a tile.
  void begin(const raster::PixelRect& tile);
  // Forgets what was painted, as when it goes on with other pixels.
  void forget() { ++stamp_; }

  // The next shape lies inside of all the outlines that are added. False when the tile is too great
  // for what would be kept of it.
  bool begin_shape();
  void add(const Rect& rectangle) { next().set(rectangle); }
  void add(const raster::EdgeView& edges, FillRule rule, const raster::PixelRect& area) {
    next().set(edges, rule, area);
  }

  // Puts a color onto a pixel of the tile of which the shape covers `shape`, at most 254.
  void blend(std::uint8_t* pixel, int x, int y, const raster::Rgb& color, unsigned shape,
             unsigned opacity) {
    blend(pixel, x, y, color, shape, opacity, mask_at(x, y));
  }
  // The same for pixels side by side, of which each has an equal part of the outlines.
  void blend(std::uint8_t* pixels, int x, int y, int count, const raster::Rgb& color,
             unsigned shape, unsigned opacity) {
    const raster::SampleMask mask = mask_at(x, y);
    for (int i = 0; i < count; ++i, pixels += 4)
      blend(pixels, x + i, y, color, shape, opacity, mask);
  }

 private:
  static constexpr unsigned kNearlyWhole = 254;  // of 255

  struct Kept {
    raster::SampleMask mask;
    // What was painted, red, green, blue and opacity in 16 bits each, multiplied by what it covers.
    std::uint64_t painted;
    std::uint32_t covered;   // up to 255
    std::uint32_t backdrop;  // the pixel before
    std::uint32_t result;    // the pixel after; another one means that something came between
    std::uint32_t stamp;
  };
  // What a shape has of a pixel that is painted in part.
  struct Part {
    raster::SampleMask mask;
    raster::SampleMask common;
    unsigned shape;
    unsigned opacity;
    bool is_beside;
    bool is_whole;  // with what is painted already
  };

  static void mix(Kept& kept, const raster::Rgb& color, const Part& part);
  // Whether no more than one place is set; what lies at the very edge may be on either side of it.
  static bool is_next_to_none(raster::SampleMask mask) { return (mask & (mask - 1)) == 0; }
  // Four numbers of 16 bits up to 255 * 255, each by 255 and rounded.
  static std::uint32_t div255_each(std::uint64_t wide) {
    constexpr std::uint64_t kBytes = 0x00FF'00FF'00FF'00FF;
    wide += 0x0080'0080'0080'0080;
    return raster::narrowed((wide + (wide >> 8 & kBytes)) >> 8 & kBytes);
  }
  void blend(std::uint8_t* pixel, int x, int y, const raster::Rgb& color, unsigned shape,
             unsigned opacity, raster::SampleMask mask) {
    Kept& kept =
        kept_[static_cast<std::size_t>(y - tile_.top) * static_cast<std::size_t>(tile_.width()) +
              static_cast<std::size_t>(x - tile_.left)];
    std::uint32_t now = 0;
    std::memcpy(&now, pixel, sizeof now);
    if (kept.stamp != stamp_ || kept.result != now)
      kept = {
          .mask = 0, .painted = 0, .covered = 0, .backdrop = now, .result = now, .stamp = stamp_};
    const raster::SampleMask common = mask & kept.mask;
    kept.mask |= mask;
    const bool is_whole = is_next_to_none(~kept.mask);
    const bool is_beside = is_next_to_none(common) && (common == 0 || common != mask);
    const unsigned sum = kept.covered + shape;
    if (kept.covered == 0 || (is_beside && sum <= 255 && (!is_whole || sum >= kNearlyWhole))) {
      // In place of what was below there is the color now.
      const std::uint64_t paint = std::uint64_t{255} << 48 | std::uint64_t{color[2]} << 32 |
                                  std::uint64_t{color[1]} << 16 | color[0];
      const std::uint64_t backdrop =
          raster::spread(reinterpret_cast<const std::uint8_t*>(&kept.backdrop));
      const unsigned opaque = opacity == 255 ? shape : raster::div255(shape * opacity);
      kept.painted += paint * opaque + backdrop * (shape - opaque);
      kept.covered = sum;
      kept.result = div255_each(kept.painted + backdrop * (255 - sum));
    } else {
      mix(kept, color, {mask, common, shape, opacity, is_beside, is_whole});
    }
    std::memcpy(pixel, &kept.result, sizeof now);
  }
  raster::SampledOutline& next();
  raster::SampleMask mask_at(int x, int y) const {
    raster::SampleMask mask = raster::kAllSamples;
    for (std::size_t i = 0; i < used_; ++i) mask &= outlines_[i].at(x, y);
    return mask;
  }

  struct Free {
    void operator()(void* memory) const { std::free(memory); }
  };

  raster::PixelRect tile_;
  // All zero at first, in memory that costs nothing where no edge is.
  std::unique_ptr<Kept[], Free> kept_;
  std::size_t kept_size_ = 0;
  std::uint32_t stamp_ = 1;
  std::vector<raster::SampledOutline> outlines_;
  std::size_t used_ = 0;
};

}  // namespace lumvet::rendering
