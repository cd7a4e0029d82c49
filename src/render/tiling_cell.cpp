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
      const Bytes& drawn = painter.paint(area);
      for (std::size_t i = 0; i < pixels_.size(); i += 4)
        raster::blend_premultiplied(&pixels_[i], &drawn[i], 255);
    }
}

// The four pixels of the cell around each place, mixed, so that steps need not be whole pixels.
void TilingCell::paint(const raster::PixelRect& area, std::uint8_t* out) const {
  std::call_once(drawn_, [this] { draw(); });
  const Matrix from_pixels = placed_.inverse();
  const auto pixel_at = [this](int x, int y) {
    const auto column = static_cast<std::size_t>((x + width_) % width_);
    const auto row = static_cast<std::size_t>((y + height_) % height_);
    return &pixels_[(row * static_cast<std::size_t>(width_) + column) * 4];
  };
  for (int y = area.top; y < area.bottom; ++y)
    for (int x = area.left; x < area.right; ++x, out += 4) {
      const Point p = from_pixels.apply({x + 0.5, y + 0.5});
      const double u = mod(p.x - tiling_.box.left, tiling_.across) / tiling_.across * width_ - 0.5;
      const double v = mod(p.y - tiling_.box.bottom, tiling_.up) / tiling_.up * height_ - 0.5;
      const int left = static_cast<int>(std::floor(u));
      const int top = static_cast<int>(std::floor(v));
      const double fx = u - left;
      const double fy = v - top;
      const std::uint8_t* corners[] = {pixel_at(left, top), pixel_at(left + 1, top),
                                       pixel_at(left, top + 1), pixel_at(left + 1, top + 1)};
      const double weights[] = {(1 - fx) * (1 - fy), fx * (1 - fy), (1 - fx) * fy, fx * fy};
      double sums[4] = {};
      for (std::size_t i = 0; i < 4; ++i)
        for (std::size_t k = 0; k < 4; ++k) sums[k] += weights[i] * corners[i][k];
      const double alpha = sums[3];
      for (std::size_t k = 0; k < 3; ++k)
        out[k] = alpha <= 0
                     ? std::uint8_t{0}
                     : static_cast<std::uint8_t>(std::min(255.0, sums[k] * 255 / alpha + 0.5));
      out[3] = static_cast<std::uint8_t>(alpha + 0.5);
    }
}

}  // namespace lumvet::rendering
