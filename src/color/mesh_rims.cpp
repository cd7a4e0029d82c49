// SPDX-License-Identifier: Apache-2.0
#include "color/mesh_rims.h"

#include <bit>

namespace lumvet::color {

MeshRims::MeshRims(const PixelArea& area, std::uint8_t* pixels)
    : area_(area),
      pixels_(pixels),
      is_rim_(static_cast<std::size_t>(area.width) * static_cast<std::size_t>(area.height)),
      places_(is_rim_.size()),
      blocks_across_((area.width + kBlock - 1) / kBlock),
      has_rim_(static_cast<std::size_t>(blocks_across_) *
               static_cast<std::size_t>((area.height + kBlock - 1) / kBlock)) {
  const auto width = static_cast<std::size_t>(area.width);
  const auto height = static_cast<std::size_t>(area.height);
  if (width == 0 || height == 0) return;
  // Of each pixel and its neighbors in the row, whether any is covered (1) and any is not (2).
  Bytes seen(width * height);
  Bytes line(width + 2);
  for (std::size_t y = 0; y < height; ++y) {
    const std::uint8_t* opacity = pixels_ + y * width * 4 + 3;
    for (std::size_t x = 0; x < width; ++x) line[x + 1] = opacity[x * 4] != 0 ? 1 : 2;
    line.front() = line[1];
    line.back() = line[width];
    std::uint8_t* row = seen.data() + y * width;
    for (std::size_t x = 0; x < width; ++x)
      row[x] = static_cast<std::uint8_t>(line[x] | line[x + 1] | line[x + 2]);
  }
  constexpr std::uint8_t kBoth = 3;
  for (std::size_t y = 0; y < height; ++y) {
    const std::uint8_t* row = seen.data() + y * width;
    const std::uint8_t* above = y == 0 ? row : row - width;
    const std::uint8_t* below = y + 1 == height ? row : row + width;
    std::uint8_t* rims = is_rim_.data() + y * width;
    for (std::size_t x = 0; x < width; ++x)
      rims[x] = (row[x] | above[x] | below[x]) == kBoth ? 1 : 0;
    std::uint8_t* blocks = has_rim_.data() + y / kBlock * static_cast<std::size_t>(blocks_across_);
    for (std::size_t x = 0; x < width; x += kBlock) {
      std::uint8_t any = 0;
      for (std::size_t i = x; i < std::min<std::size_t>(x + kBlock, width); ++i) any |= rims[i];
      blocks[x / kBlock] |= any;
    }
  }
}

bool MeshRims::is_near(const Rect& bounds) const {
  if (!(bounds.left <= bounds.right && bounds.bottom <= bounds.top)) return false;
  const Range columns = range_of(bounds.left, bounds.right, area_.left, area_.width);
  const Range rows = range_of(bounds.bottom, bounds.top, area_.top, area_.height);
  for (int y = rows.first; y < rows.end; y = (y / kBlock + 1) * kBlock)
    for (int x = columns.first; x < columns.end; x = (x / kBlock + 1) * kBlock)
      if (has_rim_[static_cast<std::size_t>(y / kBlock) * static_cast<std::size_t>(blocks_across_) +
                   static_cast<std::size_t>(x / kBlock)] != 0)
        return true;
  return false;
}

std::uint16_t MeshRims::places_in(const std::array<Point, 3>& corners, int x, int y) const {
  const auto& [a, b, c] = corners;
  const double twice = (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x);
  if (twice == 0 || !std::isfinite(twice)) return 0;
  constexpr double kSlack = 1e-9;
  const double over = 1 / twice;
  std::uint16_t places = 0;
  for (int i = 0; i < kPlaces * kPlaces; ++i) {
    const int row = i / kPlaces;
    const double px = area_.left + x + (i % kPlaces + 0.5) / kPlaces - a.x;
    const double py = area_.top + y + (row + 0.5) / kPlaces - a.y;
    const double wb = (px * (c.y - a.y) - py * (c.x - a.x)) * over;
    const double wc = (py * (b.x - a.x) - px * (b.y - a.y)) * over;
    const bool is_inside = wb >= -kSlack && wc >= -kSlack && wb + wc <= 1 + kSlack;
    places = static_cast<std::uint16_t>(places | static_cast<unsigned>(is_inside) << i);
  }
  return places;
}

Point MeshRims::middle_of(std::uint16_t places, int x, int y) const {
  Point sum;
  for (int i = 0; i < kPlaces * kPlaces; ++i) {
    if ((places >> i & 1) == 0) continue;
    const int row = i / kPlaces;
    sum.x += (i % kPlaces + 0.5) / kPlaces;
    sum.y += (row + 0.5) / kPlaces;
  }
  const double count = std::popcount(places);
  return {area_.left + x + sum.x / count, area_.top + y + sum.y / count};
}

void MeshRims::finish() {
  constexpr unsigned kAll = kPlaces * kPlaces;
  for (int y = 0; y < area_.height; ++y) {
    const std::uint8_t* blocks =
        has_rim_.data() + static_cast<std::ptrdiff_t>(y / kBlock) * blocks_across_;
    for (int block = 0; block < blocks_across_; ++block) {
      if (blocks[block] == 0) continue;
      const std::size_t end = index(std::min((block + 1) * kBlock, area_.width) - 1, y) + 1;
      for (std::size_t i = index(block * kBlock, y); i < end; ++i) {
        if (is_rim_[i] == 0 || pixels_[4 * i + 3] == 0) continue;
        const auto count = static_cast<unsigned>(std::popcount(places_[i]));
        pixels_[4 * i + 3] = static_cast<std::uint8_t>((count * 255 + kAll / 2) / kAll);
      }
    }
  }
}

}  // namespace lumvet::color
