// SPDX-License-Identifier: Apache-2.0
#include "render/tiling_cell.h"

#include <algorithm>
#include <cmath>
#include <cstring>

#include "render/tile_painter.h"

namespace lumvet::rendering {
namespace {

constexpr double kMostSide = 2048;  // pixels

double mod(double value, double by) { return value - std::floor(value / by) * by; }

// A place in a cell along one of its sides, in 2^-32 of a pixel of the cell, always within it.
class Axis {
 public:
  Axis(double per_x, double per_y, double at_origin, int size)
      : size_(std::int64_t{size} << 32),
        step_(steps(per_x, size)),
        per_y_(per_y),
        at_origin_(at_origin + per_x / 2 - 0.5),
        pixels_(size) {}

  std::int64_t place(int x, int y) const {
    const std::int64_t row = steps(per_y_ * (y + 0.5) + at_origin_, pixels_);
    // The product of a step, below the size, and a column may be beyond 64 bits.
    const auto columns = static_cast<__int128>(x) * step_;
    const auto place = static_cast<std::int64_t>((row + columns) % size_);
    return place < 0 ? place + size_ : place;
  }
  std::int64_t next(std::int64_t place) const {
    place += step_;
    return place >= size_ ? place - size_ : place;
  }

 private:
  static std::int64_t steps(double pixels, int size) {
    constexpr double kSteps = 4294967296.0;
    const auto whole = static_cast<std::int64_t>(mod(pixels, size) * kSteps + 0.5);
    return whole % (std::int64_t{size} << 32);
  }

  std::int64_t size_;
  std::int64_t step_;
  double per_y_;
  double at_origin_;
  int pixels_;
};

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
      TilePainter painter(scene, {0, 0, 0, 0}, {});
      const Bytes drawn = painter.paint(area);
      raster::blend_premultiplied_row(pixels_.data(), drawn.data(), 255, width_ * height_);
    }
}

// The four pixels of the cell around each place, mixed, so that steps need not be whole pixels.
void TilingCell::paint(const raster::PixelRect& area, std::uint8_t* out) const {
  std::call_once(drawn_, [this] { draw(); });
  // From pixels to the cell's own, in 2^-32; what lies whole steps away is the same. From one pixel
  // to the next whole numbers are added, so that it does not matter where a row begins.
  const Matrix m = placed_.inverse()
                       .then(Matrix::translation(-tiling_.box.left, -tiling_.box.bottom))
                       .then(Matrix::scaling(width_ / tiling_.across, height_ / tiling_.up));
  const Axis across(m.a, m.c, m.e, width_);
  const Axis down(m.b, m.d, m.f, height_);
  const auto width = static_cast<std::size_t>(width_);
  for (int y = area.top; y < area.bottom; ++y) {
    std::int64_t u = across.place(area.left, y);
    std::int64_t v = down.place(area.left, y);
    for (int x = area.left; x < area.right; ++x, out += 4) {
      const auto left = static_cast<std::size_t>(u >> 32);
      const auto top = static_cast<std::size_t>(v >> 32);
      const std::size_t right = left + 1 == width ? 0 : left + 1;
      const std::size_t bottom = top + 1 == static_cast<std::size_t>(height_) ? 0 : top + 1;
      mix({&pixels_[(top * width + left) * 4], &pixels_[(top * width + right) * 4],
           &pixels_[(bottom * width + left) * 4], &pixels_[(bottom * width + right) * 4]},
          static_cast<unsigned>(u >> 24 & 0xFF), static_cast<unsigned>(v >> 24 & 0xFF), out);
      u = across.next(u);
      v = down.next(v);
    }
  }
}

// Straight colours from four premultiplied ones; the parts of the right and the lower ones in
// 1/256.
void TilingCell::mix(const std::array<const std::uint8_t*, 4>& corners, unsigned right,
                     unsigned below, std::uint8_t* out) {
  if (right == 0 && below == 0 && (corners[0][3] == 255 || corners[0][3] == 0)) {
    std::memcpy(out, corners[0], 4);
    return;
  }
  const auto wide = [&](std::size_t i) { return raster::spread(corners[i], 4); };
  const std::uint64_t mixed = raster::between(raster::between(wide(0), wide(1), right),
                                              raster::between(wide(2), wide(3), right), below);
  const auto alpha = static_cast<unsigned>(mixed >> 48);
  for (std::size_t k = 0; k < 3; ++k) {
    const auto channel = static_cast<unsigned>(mixed >> (16 * k) & 0xFF);
    out[k] = static_cast<std::uint8_t>(
        alpha == 255 || alpha == 0 ? channel : std::min(255u, (channel * 255 + alpha / 2) / alpha));
  }
  out[3] = static_cast<std::uint8_t>(alpha);
}

}  // namespace lumvet::rendering
