// SPDX-License-Identifier: Apache-2.0
#include "render/tiling_cell.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <vector>

#include "render/tile_painter.h"

namespace lumvet::rendering {
namespace {

constexpr double kMostSide = 2048;  // pixels

double mod(double value, double by) { return value - std::floor(value / by) * by; }

}  // namespace

// A place in a cell along one of its sides, in 2^-32 of a pixel of the cell, always within it.
class TilingCell::Axis {
 public:
  Axis(double per_x, double per_y, double at_origin, int size)
      : size_(std::int64_t{size} << 32),
        step_(steps(per_x, size)),
        per_y_(per_y),
        drift_(step_ - kPixel % size_),
        is_steady_(std::abs(drift_) <= kPart / 8),
        at_origin_(at_origin + per_x / 2 - 0.5),
        pixels_(size) {}

  std::int64_t place(int x, int y) const {
    const std::int64_t row = steps(per_y_ * (y + 0.5) + at_origin_, pixels_);
    // The product of a step, below the size, and a column may be beyond 64 bits.
    const auto columns = static_cast<__int128>(x) * step_;
    const auto place = static_cast<std::int64_t>((row + columns) % size_);
    return place < 0 ? place + size_ : place;
  }
  // A pixel of the cell further.
  std::int64_t below(std::int64_t place) const {
    place += std::int64_t{1} << 32;
    return place >= size_ ? place - size_ : place;
  }
  std::int64_t next(std::int64_t place) const {
    place += step_;
    return place >= size_ ? place - size_ : place;
  }
  // How many pixels from a place on are the same part of the way between two that follow each
  // other in the cell, before its end; 1 where that changes quickly.
  int alike(std::int64_t place) const {
    if (!is_steady_) return 1;
    const std::int64_t within = place % kPart;
    std::int64_t count = pixels_ - (place >> 32);
    if (drift_ > 0) count = std::min(count, (kPart - 1 - within) / drift_ + 1);
    if (drift_ < 0) count = std::min(count, within / -drift_ + 1);
    return static_cast<int>(count);
  }
  std::int64_t further(std::int64_t place, int count) const {
    place += count * step_;
    return place >= size_ ? place - size_ : place;
  }

 private:
  static std::int64_t steps(double pixels, int size) {
    constexpr double kSteps = 4294967296.0;
    const auto whole = static_cast<std::int64_t>(mod(pixels, size) * kSteps + 0.5);
    return whole % (std::int64_t{size} << 32);
  }

  static constexpr std::int64_t kPixel = std::int64_t{1} << 32;
  static constexpr std::int64_t kPart = kPixel / 256;

  std::int64_t size_;
  std::int64_t step_;
  double per_y_;
  std::int64_t drift_;  // of the places between pixels, from one to the next
  bool is_steady_;
  double at_origin_;
  int pixels_;
};

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
      const PreparedScene scene = prepare(*tiling_.cell, shifted, area, 1, thinnest_line_);
      TilePainter painter(scene, {0, 0, 0, 0});
      const std::uint8_t* drawn = painter.paint_apart(area);
      raster::blend_premultiplied_row(pixels_.data(), drawn, 255, width_ * height_);
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
  if (m.b == 0) return paint_level(across, down, area, out);
  const auto width = static_cast<std::size_t>(width_);
  raster::EightPlaces places{};
  for (int y = area.top; y < area.bottom; ++y) {
    std::int64_t u = across.place(area.left, y);
    std::int64_t v = down.place(area.left, y);
    for (int x = area.left; x < area.right;) {
      const int count = std::min(raster::EightPlaces::kCount, area.right - x);
      for (int i = 0; i < count; ++i) {
        const auto left = static_cast<std::size_t>(u >> 32);
        const std::size_t right = left + 1 == width ? 0 : left + 1;
        const std::uint8_t* upper = row(v);
        const std::uint8_t* lower = row(down.below(v));
        std::memcpy(&places.upper_left[i], upper + 4 * left, 4);
        std::memcpy(&places.upper_right[i], upper + 4 * right, 4);
        std::memcpy(&places.lower_left[i], lower + 4 * left, 4);
        std::memcpy(&places.lower_right[i], lower + 4 * right, 4);
        places.across[i] = raster::part_of(u);
        places.down[i] = raster::part_of(v);
        u = across.next(u);
        v = down.next(v);
      }
      raster::mix_both_ways(places, out, count);
      x += count;
      out += std::ptrdiff_t{count} * 4;
    }
  }
}

// Where rows of pixels run along rows of the cell, of which two are mixed first.
void TilingCell::paint_level(const Axis& across, const Axis& down, const raster::PixelRect& area,
                             std::uint8_t* out) const {
  const auto width = static_cast<std::size_t>(width_);
  raster::EightPlaces places{};
  Bytes mixed((width + 1) * 4);  // and once more its beginning
  for (int y = area.top; y < area.bottom; ++y) {
    std::int64_t u = across.place(area.left, y);
    const std::int64_t v = down.place(area.left, y);
    raster::mix_bytes(mixed.data(), row(v), row(down.below(v)), raster::part_of(v), width * 4);
    std::copy_n(mixed.data(), 4, &mixed[width * 4]);
    for (int x = area.left; x < area.right;) {
      const std::uint8_t* left = &mixed[static_cast<std::size_t>(u >> 32) * 4];
      int count = std::min(across.alike(u), area.right - x);
      if (count > 1) {
        raster::mix_bytes(out, left, left + 4, raster::part_of(u),
                          static_cast<std::size_t>(count) * 4);
        u = across.further(u, count);
      } else {
        count = std::min(raster::EightPlaces::kCount, area.right - x);
        for (int i = 0; i < count; ++i) {
          const std::uint8_t* at = &mixed[static_cast<std::size_t>(u >> 32) * 4];
          std::memcpy(&places.upper_left[i], at, 4);
          std::memcpy(&places.upper_right[i], at + 4, 4);
          places.across[i] = raster::part_of(u);
          u = across.next(u);
        }
        raster::mix_across(places, out, count);
      }
      x += count;
      out += std::ptrdiff_t{count} * 4;
    }
  }
}

const std::uint8_t* TilingCell::row(std::int64_t v) const {
  return &pixels_[static_cast<std::size_t>(v >> 32) * static_cast<std::size_t>(width_) * 4];
}

}  // namespace lumvet::rendering
