// SPDX-License-Identifier: Apache-2.0
// A scene as the drawing library's document, as its pixels, and as ours.
#pragma once

#include <cairo-pdf.h>

#include <algorithm>

#include "lumvet/render/render.h"
#include "tests/scenes/scene.h"

namespace test {

inline cairo_status_t append(void* closure, const unsigned char* data, unsigned length) {
  auto* bytes = static_cast<lumvet::Bytes*>(closure);
  bytes->insert(bytes->end(), data, data + length);
  return CAIRO_STATUS_SUCCESS;
}

inline lumvet::Bytes as_document(const Draw& draw) {
  lumvet::Bytes bytes;
  cairo_surface_t* surface = cairo_pdf_surface_create_for_stream(append, &bytes, kSize, kSize);
  cairo_t* c = cairo_create(surface);
  draw(c);
  cairo_destroy(c);
  cairo_surface_destroy(surface);
  return bytes;
}

inline int pixels_at(double scale) { return static_cast<int>(std::lround(kSize * scale)); }

inline void draw_on(cairo_surface_t* surface, const Draw& draw, double scale,
                    cairo_antialias_t quality) {
  cairo_t* c = cairo_create(surface);
  cairo_set_source_rgb(c, 1, 1, 1);
  cairo_paint(c);
  cairo_scale(c, scale, scale);
  cairo_set_antialias(c, quality);
  cairo_set_source_rgb(c, 0, 0, 0);
  draw(c);
  cairo_destroy(c);
  cairo_surface_flush(surface);
}

// Blue, green, red, alpha.
inline std::vector<std::uint8_t> as_pixels(const Draw& draw, double scale) {
  const int size = pixels_at(scale);
  cairo_surface_t* surface = cairo_image_surface_create(CAIRO_FORMAT_ARGB32, size, size);
  draw_on(surface, draw, scale, CAIRO_ANTIALIAS_BEST);
  const unsigned char* data = cairo_image_surface_get_data(surface);
  std::vector<std::uint8_t> pixels(
      data, data + static_cast<std::size_t>(size) * static_cast<std::size_t>(size) * 4);
  cairo_surface_destroy(surface);
  return pixels;
}

inline std::vector<std::uint8_t> as_our_pixels(const lumvet::Scene& scene, double scale) {
  const int size = pixels_at(scale);
  std::vector<std::uint8_t> pixels(static_cast<std::size_t>(size) * static_cast<std::size_t>(size) *
                                   4);
  render_into(scene,
              {pixels.data(), size, size, std::ptrdiff_t{size} * 4, lumvet::PixelFormat::bgra},
              {.scale = scale})
      .value();
  return pixels;
}

struct Difference {
  double mean = 0;     // of all channels, 0 to 255
  double far_off = 0;  // the part of pixels that no neighbor of the other image comes near
  double drawn = 0;    // the part of pixels that are not paper
};

class Comparison {
 public:
  Comparison(const std::vector<std::uint8_t>& ours, const std::vector<std::uint8_t>& theirs,
             int size)
      : ours_(ours), theirs_(theirs), size_(size) {}

  Difference measure() const {
    Difference difference;
    int far_off = 0;
    int drawn = 0;
    for (int y = 0; y < size_; ++y)
      for (int x = 0; x < size_; ++x) {
        const std::uint8_t* p = at(theirs_, x, y);
        drawn += p[0] != 255 || p[1] != 255 || p[2] != 255;
        for (int k = 0; k < 3; ++k) difference.mean += std::abs(at(ours_, x, y)[k] - p[k]);
        constexpr int kFar = 32;
        far_off += nearest(ours_, theirs_, x, y) > kFar || nearest(theirs_, ours_, x, y) > kFar;
      }
    const double pixels = static_cast<double>(size_) * size_;
    difference.mean /= 3 * pixels;
    difference.far_off = far_off / pixels;
    difference.drawn = drawn / pixels;
    return difference;
  }

 private:
  const std::uint8_t* at(const std::vector<std::uint8_t>& pixels, int x, int y) const {
    return &pixels[static_cast<std::size_t>(y * size_ + x) * 4];
  }

  // How far a pixel is from the most alike of the nine around its place in the other image.
  int nearest(const std::vector<std::uint8_t>& one, const std::vector<std::uint8_t>& other, int x,
              int y) const {
    const std::uint8_t* p = at(one, x, y);
    int least = 255;
    for (int v = std::max(0, y - 1); v <= std::min(size_ - 1, y + 1); ++v)
      for (int u = std::max(0, x - 1); u <= std::min(size_ - 1, x + 1); ++u) {
        const std::uint8_t* q = at(other, u, v);
        least = std::min(
            least, std::max({std::abs(p[0] - q[0]), std::abs(p[1] - q[1]), std::abs(p[2] - q[2])}));
      }
    return least;
  }

  const std::vector<std::uint8_t>& ours_;
  const std::vector<std::uint8_t>& theirs_;
  int size_;
};

}  // namespace test
