// SPDX-License-Identifier: Apache-2.0
// The same scene, written by cairo once as PDF and once as pixels. Our drawing of the former has to
// look like the latter.
#pragma once

#include <cairo-pdf.h>
#include <cairo.h>

#include <cmath>
#include <functional>

#include "lumvet/render/render.h"
#include "tests/support/catch.h"

namespace test {

inline constexpr int kSize = 240;

using Draw = std::function<void(cairo_t*)>;

inline cairo_status_t append(void* closure, const unsigned char* data, unsigned length) {
  auto* bytes = static_cast<lumvet::Bytes*>(closure);
  bytes->insert(bytes->end(), data, data + length);
  return CAIRO_STATUS_SUCCESS;
}

inline lumvet::Bytes as_pdf(const Draw& draw) {
  lumvet::Bytes bytes;
  cairo_surface_t* surface = cairo_pdf_surface_create_for_stream(append, &bytes, kSize, kSize);
  cairo_t* c = cairo_create(surface);
  draw(c);
  cairo_destroy(c);
  cairo_surface_destroy(surface);
  return bytes;
}

inline std::vector<std::uint8_t> as_pixels(const Draw& draw, double scale) {
  const int size = static_cast<int>(kSize * scale);
  cairo_surface_t* surface = cairo_image_surface_create(CAIRO_FORMAT_ARGB32, size, size);
  cairo_t* c = cairo_create(surface);
  cairo_set_source_rgb(c, 1, 1, 1);
  cairo_paint(c);
  cairo_scale(c, scale, scale);
  cairo_set_antialias(c, CAIRO_ANTIALIAS_BEST);
  cairo_set_source_rgb(c, 0, 0, 0);
  draw(c);
  cairo_surface_flush(surface);
  const unsigned char* data = cairo_image_surface_get_data(surface);
  std::vector<std::uint8_t> pixels(
      data, data + static_cast<std::size_t>(size) * static_cast<std::size_t>(size) * 4);
  cairo_destroy(c);
  cairo_surface_destroy(surface);
  return pixels;
}

struct Difference {
  double mean = 0;     // of all channels, 0 to 255
  double far_off = 0;  // the part of pixels that differ by more than 40
};

inline Difference compare(const Draw& draw, double scale) {
  const lumvet::Document document = lumvet::Document::open(as_pdf(draw)).value();
  const lumvet::Scene scene = lumvet::Scene::record(document.page(0).value()).value();
  REQUIRE(document.findings().empty());
  const int size = static_cast<int>(kSize * scale);
  std::vector<std::uint8_t> ours(static_cast<std::size_t>(size) * static_cast<std::size_t>(size) *
                                 4);
  REQUIRE(render_into(
              scene, {ours.data(), size, size, std::ptrdiff_t{size} * 4, lumvet::PixelFormat::bgra},
              {.scale = scale})
              .ok());
  const auto theirs = as_pixels(draw, scale);
  Difference difference;
  std::size_t far_off = 0;
  std::size_t drawn = 0;
  for (std::size_t i = 0; i < ours.size(); i += 4) {
    int most = 0;
    for (std::size_t k = 0; k < 3; ++k) {
      const int d = std::abs(ours[i + k] - theirs[i + k]);
      difference.mean += d;
      most = std::max(most, d);
    }
    far_off += most > 40;
    drawn += theirs[i] != 255 || theirs[i + 1] != 255 || theirs[i + 2] != 255;
  }
  REQUIRE(drawn > ours.size() / 4 / 50);  // an empty scene would agree with anything
  difference.mean /= static_cast<double>(ours.size()) * 0.75;
  difference.far_off = static_cast<double>(far_off) / static_cast<double>(ours.size() / 4);
  return difference;
}

}  // namespace test
