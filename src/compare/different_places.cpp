// SPDX-License-Identifier: Apache-2.0
#include "compare/different_places.h"

#include <algorithm>
#include <cstdlib>
#include <cstring>

namespace lumvet::compare {
namespace {

constexpr int kCell = 6;            // pixels each way
constexpr int kReach = 2;           // cells that lie so close belong together
constexpr std::size_t kMost = 200;  // boxes; more are taken together

// Squares of pixels in which something differs.
class Cells {
 public:
  Cells(const Raster& before, const Raster& after, int tolerance, int cell)
      : width_((before.width() + cell - 1) / cell),
        height_((before.height() + cell - 1) / cell),
        marked_(static_cast<std::size_t>(width_) * static_cast<std::size_t>(height_)) {
    const auto parts = before.stride() / static_cast<std::size_t>(std::max(1, before.width()));
    for (int y = 0; y < before.height(); ++y) {
      const std::uint8_t* a = before.row(y);
      const std::uint8_t* b = after.row(y);
      if (std::memcmp(a, b, before.stride()) == 0) continue;
      for (int x = 0; x < before.width(); ++x)
        for (std::size_t part = 0; part < parts; ++part) {
          const std::size_t at = static_cast<std::size_t>(x) * parts + part;
          if (std::abs(a[at] - b[at]) > tolerance) marked_[place(x / cell, y / cell)] = true;
        }
    }
  }

  std::vector<PixelBox> boxes() {
    std::vector<PixelBox> found;
    for (int y = 0; y < height_; ++y)
      for (int x = 0; x < width_; ++x)
        if (marked_[place(x, y)]) found.push_back(taken_from(x, y));
    return found;
  }

 private:
  struct Cell {
    int x;
    int y;
  };

  std::size_t place(int x, int y) const {
    return static_cast<std::size_t>(y) * static_cast<std::size_t>(width_) +
           static_cast<std::size_t>(x);
  }

  // The box of all cells that hang together with one, which are marked no more afterwards.
  PixelBox taken_from(int x, int y) {
    PixelBox box{x, y, x + 1, y + 1};
    std::vector<Cell> open = {{x, y}};
    marked_[place(x, y)] = false;
    while (!open.empty()) {
      const Cell cell = open.back();
      open.pop_back();
      box = {std::min(box.left, cell.x), std::min(box.top, cell.y), std::max(box.right, cell.x + 1),
             std::max(box.bottom, cell.y + 1)};
      for (int v = std::max(0, cell.y - kReach); v <= std::min(height_ - 1, cell.y + kReach); ++v)
        for (int u = std::max(0, cell.x - kReach); u <= std::min(width_ - 1, cell.x + kReach); ++u)
          if (marked_[place(u, v)]) {
            marked_[place(u, v)] = false;
            open.push_back({u, v});
          }
    }
    return box;
  }

  int width_;
  int height_;
  std::vector<bool> marked_;
};

bool overlap(const PixelBox& a, const PixelBox& b) {
  return a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom;
}

PixelBox together(const PixelBox& a, const PixelBox& b) {
  return {std::min(a.left, b.left), std::min(a.top, b.top), std::max(a.right, b.right),
          std::max(a.bottom, b.bottom)};
}

}  // namespace

std::vector<PixelBox> different_places(const Raster& before, const Raster& after, int tolerance) {
  int cell = kCell;
  std::vector<PixelBox> found = Cells(before, after, tolerance, cell).boxes();
  while (found.size() > kMost) {
    cell *= 2;
    found = Cells(before, after, tolerance, cell).boxes();
  }
  std::vector<PixelBox> boxes;
  for (PixelBox next : found) {
    // Each time that it grows, it may reach others.
    for (std::size_t i = 0; i < boxes.size();)
      if (overlap(next, boxes[i])) {
        next = together(next, boxes[i]);
        boxes.erase(boxes.begin() + static_cast<std::ptrdiff_t>(i));
        i = 0;
      } else {
        ++i;
      }
    boxes.push_back(next);
  }
  for (PixelBox& box : boxes)
    box = {box.left * cell, box.top * cell, std::min(box.right * cell, before.width()),
           std::min(box.bottom * cell, before.height())};
  std::sort(boxes.begin(), boxes.end(), [](const PixelBox& a, const PixelBox& b) {
    return a.top != b.top ? a.top < b.top : a.left < b.left;
  });
  return boxes;
}

}  // namespace lumvet::compare
