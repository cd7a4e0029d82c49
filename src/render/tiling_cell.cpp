// SPDX-License-Identifier: Apache-2.0
#include "render/tiling_cell.h"

#include <algorithm>
#include <cmath>

#include "render/tile_painter.h"

namespace lumvet::rendering {
namespace {

constexpr double kMostSide = 2048;  // pixels

double mod(double value, double by) { return value - std::floor(value / by) * by; }

}  // namespace

// Everything that cells around it leave on the stretch from the cell's corner to the next ones'.
void TilingCell::draw() const {
  const Rect& box = tiling_.box;
  const double across = std::hypot(placed_.a, placed_.b) * tiling_.across;
  const double up = std::hypot(placed_.c, placed_.d) * tiling_.up;
  width_ = static_cast<int>(std::clamp(std::round(across), 1.0, kMostSide));
  height_ = static_cast<int>(std::clamp(std::round(up), 1.0, kMostSide));
  const raster::PixelRect area{0, 0, width_, height_};
  pixels_.assign(static_cast<std::size_t>(width_) * static_cast<std::size_t>(height_) * 4, 0);
  const Matrix to_cell = Matrix::translation(-box.left, -box.bottom)
                             .then(Matrix::scaling(width_ / tiling_.across, height_ / tiling_.up));
  constexpr double kMostOverlap = 8;  // of cells that are larger than the step between them
  const int columns =
      static_cast<int>(std::clamp(std::ceil(box.width() / tiling_.across), 1.0, kMostOverlap));
  const int rows =
      static_cast<int>(std::clamp(std::ceil(box.height() / tiling_.up), 1.0, kMostOverlap));
  for (int row = 1 - rows; row <= 0; ++row)
    for (int column = 1 - columns; column <= 0; ++column) {
      const Matrix shifted =
          Matrix::translation(column * tiling_.across, row * tiling_.up).then(to_cell);
      const PreparedScene scene = prepare(*tiling_.cell, shifted, area, 1, {});
      TilePainter painter(scene, {0, 0, 0, 0});
      const Bytes drawn = painter.paint(area);
      for (std::size_t i = 0; i < pixels_.size(); i += 4)
        raster::blend_premultiplied(&pixels_[i], &drawn[i], 255);
    }
}

// The four pixels of the cell around each place, mixed, so that steps need not be whole pixels.
void TilingCell::paint(const raster::PixelRect& area, std::uint8_t* out) const {
  std::call_once(drawn_, [this] { draw(); });
  // From pixels to the cell's own, in 1/65536; what lies whole steps away is the same.
  const Matrix to_cell = placed_.inverse()
                             .then(Matrix::translation(-tiling_.box.left, -tiling_.box.bottom))
                             .then(Matrix::scaling(width_ / tiling_.across, height_ / tiling_.up));
  constexpr double kSteps = 65536;
  const std::int64_t around = std::int64_t{width_} << 16;
  const std::int64_t along = std::int64_t{height_} << 16;
  const auto steps_of = [](double value, double size) {
    return static_cast<std::int64_t>(std::floor(mod(value, size) * kSteps + 0.5));
  };
  for (int y = area.top; y < area.bottom; ++y)
    for (int x = area.left; x < area.right; ++x, out += 4) {
      const Point p = to_cell.apply({x + 0.5, y + 0.5});
      const std::int64_t u = steps_of(p.x - 0.5, width_) % around;
      const std::int64_t v = steps_of(p.y - 0.5, height_) % along;
      const auto left = static_cast<std::size_t>(u >> 16);
      const auto top = static_cast<std::size_t>(v >> 16);
      const auto width = static_cast<std::size_t>(width_);
      const std::size_t right = left + 1 == width ? 0 : left + 1;
      const std::size_t bottom = top + 1 == static_cast<std::size_t>(height_) ? 0 : top + 1;
      mix({&pixels_[(top * width + left) * 4], &pixels_[(top * width + right) * 4],
           &pixels_[(bottom * width + left) * 4], &pixels_[(bottom * width + right) * 4]},
          static_cast<unsigned>(u >> 8 & 0xFF), static_cast<unsigned>(v >> 8 & 0xFF), out);
    }
}

// Straight colours from four premultiplied ones; the parts of the right and the lower ones in 1/256.
void TilingCell::mix(const std::array<const std::uint8_t*, 4>& corners, unsigned right,
                     unsigned below, std::uint8_t* out) {
  unsigned sums[4];
  for (std::size_t k = 0; k < 4; ++k) {
    const unsigned upper = corners[0][k] * (256 - right) + corners[1][k] * right;
    const unsigned lower = corners[2][k] * (256 - right) + corners[3][k] * right;
    sums[k] = upper * (256 - below) + lower * below;
  }
  constexpr unsigned kWhole = 255u << 16;
  constexpr unsigned kHalf = 1u << 15;
  if (sums[3] == kWhole || sums[3] == 0) {
    for (std::size_t k = 0; k < 4; ++k) out[k] = static_cast<std::uint8_t>((sums[k] + kHalf) >> 16);
    return;
  }
  for (std::size_t k = 0; k < 3; ++k)
    out[k] = static_cast<std::uint8_t>(
        std::min<std::uint64_t>(255, (std::uint64_t{sums[k]} * 255 + sums[3] / 2) / sums[3]));
  out[3] = static_cast<std::uint8_t>((sums[3] + kHalf) >> 16);
}

}  // namespace lumvet::rendering
