// SPDX-License-Identifier: Apache-2.0
#include "lumvet/render/highlight.h"

#include <algorithm>
#include <cmath>

#include "base/luminance.h"

namespace lumvet {
namespace {

// A quad on a sheet, in pixels, whichever way round its corners go.
class PlacedQuad {
 public:
  PlacedQuad(const Quad& quad, const Viewport& viewport) {
    double area = 0;
    for (std::size_t i = 0; i < quad.size(); ++i) {
      corners_[i] = quad[i] * viewport.scale + Point{viewport.x, viewport.y};
      bounds_.include(corners_[i]);
    }
    for (std::size_t i = 0; i < quad.size(); ++i) area += cross(i, {0, 0});
    if (area < 0) std::reverse(corners_.begin(), corners_.end());
  }

  const Rect& bounds() const { return bounds_; }
  bool holds(Point p) const {
    for (std::size_t i = 0; i < corners_.size(); ++i)
      if (cross(i, p) < 0) return false;
    return true;
  }

 private:
  double cross(std::size_t i, Point p) const {
    const Point side = corners_[(i + 1) % corners_.size()] - corners_[i];
    const Point to = p - corners_[i];
    return side.x * to.y - side.y * to.x;
  }

  Quad corners_{};
  Rect bounds_ = Rect::nothing();
};

// Calls visit(x, y, whether it lies within a quad) for the pixels of a row.
template <typename Visit>
void each_pixel(int y, int width, const std::vector<PlacedQuad>& quads, const Visit& visit) {
  const double middle = y + 0.5;
  std::vector<const PlacedQuad*> on_row;
  for (const PlacedQuad& quad : quads)
    if (quad.bounds().bottom <= middle && quad.bounds().top >= middle) on_row.push_back(&quad);
  for (int x = 0; x < width; ++x)
    visit(x, std::any_of(on_row.begin(), on_row.end(), [&](const PlacedQuad* quad) {
            return quad->holds({x + 0.5, middle});
          }));
}

std::vector<PlacedQuad> placed(const std::vector<Quad>& quads, const Viewport& viewport) {
  std::vector<PlacedQuad> list;
  list.reserve(quads.size());
  for (const Quad& quad : quads) list.emplace_back(quad, viewport);
  return list;
}

// The bytes of a pixel, and those of its colors, from the first on.
struct PixelParts {
  int bytes;
  std::vector<std::uint8_t> color;
};

PixelParts parts_of(PixelFormat format, PixelColor color) {
  const auto gray = static_cast<std::uint8_t>(luminance(color.red, color.green, color.blue));
  switch (format) {
    case PixelFormat::rgba: return {4, {color.red, color.green, color.blue}};
    case PixelFormat::bgra: return {4, {color.blue, color.green, color.red}};
    case PixelFormat::rgb: return {3, {color.red, color.green, color.blue}};
    case PixelFormat::bgr: return {3, {color.blue, color.green, color.red}};
    case PixelFormat::gray: return {1, {gray}};
    case PixelFormat::bilevel: break;
  }
  return {0, {}};
}

}  // namespace

Status highlight(const PixelBuffer& sheet, const std::vector<Quad>& quads, const Viewport& viewport,
                 PixelColor color) {
  const PixelParts parts = parts_of(sheet.format, color);
  if (parts.bytes == 0)
    return Error(ErrorCode::unsupported,
                 "colors cannot be shown in black and white; draw the page in another format");
  const std::vector<PlacedQuad> list = placed(quads, viewport);
  for (int y = 0; y < sheet.height; ++y)
    each_pixel(y, sheet.width, list, [&](int x, bool is_within) {
      if (!is_within) return;
      std::uint8_t* pixel = sheet.data + y * sheet.stride + std::ptrdiff_t{x} * parts.bytes;
      for (const std::uint8_t level : parts.color) {
        *pixel = static_cast<std::uint8_t>(*pixel * level / 255);
        ++pixel;
      }
    });
  return Done{};
}

Status highlight(Raster& sheet, const std::vector<Quad>& quads, const Viewport& viewport,
                 PixelColor color) {
  return highlight(sheet.buffer(), quads, viewport, color);
}

Result<Raster> picture_of(const Scene& scene, const std::vector<Quad>& quads,
                          RenderOptions options) {
  Rect around = Rect::nothing();
  for (const Quad& quad : quads)
    for (const Point corner : quad) around.include(corner);
  if (!(around.right > around.left && around.top > around.bottom))
    return Error(ErrorCode::invalid_argument, "nothing is selected that a picture could be of");
  options.area = PageArea{around.left, around.bottom, around.width(), around.height()};
  options.format = PixelFormat::rgba;
  LUMVET_TRY(Raster picture, render(scene, options));
  const double scale = picture.width() / around.width();
  const std::vector<PlacedQuad> list =
      placed(quads, {scale, -around.left * scale, -around.bottom * scale});
  const PixelColor& paper = options.background;
  const auto multiplied = [&](std::uint8_t level) {
    return static_cast<std::uint8_t>(level * paper.alpha / 255);
  };
  const std::uint8_t outside[] = {multiplied(paper.red), multiplied(paper.green),
                                  multiplied(paper.blue), paper.alpha};
  for (int y = 0; y < picture.height(); ++y)
    each_pixel(y, picture.width(), list, [&](int x, bool is_within) {
      if (!is_within) std::copy_n(outside, 4, picture.row(y) + std::ptrdiff_t{x} * 4);
    });
  return picture;
}

}  // namespace lumvet
