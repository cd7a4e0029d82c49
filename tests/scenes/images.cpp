// SPDX-License-Identifier: Apache-2.0
// Images: colored, gray, half transparent, stencils, photographs; enlarged, shrunk, turned.
#include <cstdio>  // jpeglib.h needs it

#include <jpeglib.h>

#include <cstdlib>

#include "tests/scenes/scene.h"

namespace test {
namespace {

struct Pixel {
  unsigned red;
  unsigned green;
  unsigned blue;
  unsigned alpha;
};
using Texture = std::function<Pixel(int x, int y)>;

cairo_surface_t* image_of(int width, int height, bool opaque, const Texture& texture) {
  cairo_surface_t* image =
      cairo_image_surface_create(opaque ? CAIRO_FORMAT_RGB24 : CAIRO_FORMAT_ARGB32, width, height);
  unsigned char* data = cairo_image_surface_get_data(image);
  const int stride = cairo_image_surface_get_stride(image);
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < width; ++x) {
      const Pixel p = texture(x, y);
      unsigned char* out = data + y * stride + x * 4;
      out[0] = static_cast<unsigned char>(p.blue * p.alpha / 255);
      out[1] = static_cast<unsigned char>(p.green * p.alpha / 255);
      out[2] = static_cast<unsigned char>(p.red * p.alpha / 255);
      out[3] = static_cast<unsigned char>(p.alpha);
    }
  cairo_surface_mark_dirty(image);
  return image;
}

unsigned wave(double value) { return static_cast<unsigned>(127.5 + 127.4 * std::sin(value)); }

Pixel photo(int x, int y) {
  return {wave(x * 0.06), wave(y * 0.05 + 1), wave((x + y) * 0.03), 255};
}
Pixel faded_photo(int x, int y) {
  return {wave(x * 0.06), wave(y * 0.05 + 1), wave((x + y) * 0.03), wave(x * 0.02 - y * 0.03)};
}
Pixel gray(int x, int y) {
  const unsigned value = wave(x * 0.05 - y * 0.02);
  return {value, value, value, 255};
}
Pixel squares(int x, int y) {
  return {static_cast<unsigned>(x) * 16 & 255, static_cast<unsigned>(y) * 16 & 255,
          static_cast<unsigned>((x ^ y) & 1) * 255, x < 8 ? 255u : 128u};
}
// Smooth enough that every good way to shrink it agrees.
Pixel soft(int x, int y) { return {wave(x * 0.011), wave(y * 0.013), wave((x - y) * 0.007), 255}; }

// The image, put over just its own rectangle: by itself the drawing library would let it fade or
// end in steps at its border, which no document says.
void paint(cairo_t* c, cairo_surface_t* image, double x, double y, int width, int height,
           cairo_filter_t filter) {
  cairo_set_source_surface(c, image, x, y);
  cairo_pattern_set_filter(cairo_get_source(c), filter);
  cairo_pattern_set_extend(cairo_get_source(c), CAIRO_EXTEND_PAD);
  cairo_rectangle(c, x, y, width, height);
  cairo_fill(c);
}

void paint_in_middle(cairo_t* c, cairo_surface_t* image, int width, int height,
                     cairo_filter_t filter, double size, double angle) {
  cairo_translate(c, 120, 120);
  cairo_rotate(c, angle);
  cairo_scale(c, size / width, size / width);
  paint(c, image, -width / 2.0, -height / 2.0, width, height, filter);
}

Draw placed(int width, int height, bool opaque, Texture texture, cairo_filter_t filter, double size,
            double angle) {
  return [=](cairo_t* c) {
    cairo_surface_t* image = image_of(width, height, opaque, texture);
    paint_in_middle(c, image, width, height, filter, size, angle);
    cairo_surface_destroy(image);
  };
}

// Pixels that a codec has already packed: what the document holds is the JPEG image itself.
Draw photograph(double size, double angle) {
  return [=](cairo_t* c) {
    constexpr int kWidth = 300;
    constexpr int kHeight = 200;
    std::vector<unsigned char> rgb;
    for (int y = 0; y < kHeight; ++y)
      for (int x = 0; x < kWidth; ++x) {
        const Pixel p = photo(x, y);
        rgb.insert(rgb.end(),
                   {static_cast<unsigned char>(p.red), static_cast<unsigned char>(p.green),
                    static_cast<unsigned char>(p.blue)});
      }
    jpeg_compress_struct info{};
    jpeg_error_mgr errors{};
    info.err = jpeg_std_error(&errors);
    jpeg_create_compress(&info);
    unsigned char* packed = nullptr;
    unsigned long packed_size = 0;
    jpeg_mem_dest(&info, &packed, &packed_size);
    info.image_width = kWidth;
    info.image_height = kHeight;
    info.input_components = 3;
    info.in_color_space = JCS_RGB;
    jpeg_set_defaults(&info);
    jpeg_set_quality(&info, 96, TRUE);
    jpeg_start_compress(&info, TRUE);
    while (info.next_scanline < info.image_height) {
      JSAMPROW row = &rgb[std::size_t{info.next_scanline} * kWidth * 3];
      jpeg_write_scanlines(&info, &row, 1);
    }
    jpeg_finish_compress(&info);
    jpeg_destroy_compress(&info);
    cairo_surface_t* image = image_of(kWidth, kHeight, true, photo);
    cairo_surface_set_mime_data(image, CAIRO_MIME_TYPE_JPEG, packed, packed_size, std::free,
                                packed);
    paint_in_middle(c, image, kWidth, kHeight, CAIRO_FILTER_GOOD, size, angle);
    cairo_surface_destroy(image);
  };
}

// Color through a stencil of 8 bits or of one.
Draw stencil(cairo_format_t format, double angle) {
  return [=](cairo_t* c) {
    constexpr int kSide = 60;
    cairo_surface_t* mask = cairo_image_surface_create(format, kSide, kSide);
    unsigned char* data = cairo_image_surface_get_data(mask);
    const int stride = cairo_image_surface_get_stride(mask);
    for (int y = 0; y < kSide; ++y)
      for (int x = 0; x < kSide; ++x) {
        const bool set = (x - 30) * (x - 30) + (y - 30) * (y - 30) < 25 * 25 && (x + y) % 9 > 2;
        if (format == CAIRO_FORMAT_A8)
          data[y * stride + x] = static_cast<unsigned char>(set ? 55 + 3 * x : 0);
        else if (set)
          data[y * stride + x / 8] =
              static_cast<unsigned char>(data[y * stride + x / 8] | 1 << x % 8);
      }
    cairo_surface_mark_dirty(mask);
    cairo_translate(c, 120, 120);
    cairo_rotate(c, angle);
    cairo_scale(c, 3, 3);
    cairo_set_source_rgb(c, 0.7, 0.1, 0.3);
    cairo_pattern_t* pattern = cairo_pattern_create_for_surface(mask);
    cairo_pattern_set_filter(pattern, CAIRO_FILTER_NEAREST);
    cairo_matrix_t matrix;
    cairo_matrix_init_translate(&matrix, kSide / 2.0, kSide / 2.0);
    cairo_pattern_set_matrix(pattern, &matrix);
    cairo_mask(c, pattern);
    cairo_pattern_destroy(pattern);
    cairo_surface_destroy(mask);
  };
}

// An image cut into strips that adjoin: no seam may show.
void strips(cairo_t* c) {
  for (int i = 0; i < 10; ++i) {
    cairo_surface_t* strip =
        image_of(200, 20, true, [i](int x, int y) { return photo(x, y + 20 * i); });
    paint(c, strip, 20, 20 + 20 * i, 200, 20, CAIRO_FILTER_NEAREST);
    cairo_surface_destroy(strip);
  }
}

void clipped_image(cairo_t* c) {
  cairo_arc(c, 120, 120, 90, 0, 2 * M_PI);
  cairo_clip(c);
  placed(64, 64, true, photo, CAIRO_FILTER_NEAREST, 210, 0.3)(c);
}

void faint_image(cairo_t* c) {
  cairo_surface_t* image = image_of(100, 100, true, photo);
  for (int i = 0; i < 4; ++i) {
    cairo_set_source_surface(c, image, 10 + 40 * i, 10 + 40 * i);
    cairo_pattern_set_filter(cairo_get_source(c), CAIRO_FILTER_NEAREST);
    cairo_paint_with_alpha(c, 0.3 + 0.2 * i);
  }
  cairo_surface_destroy(image);
}

}  // namespace

std::vector<OracleScene> image_scenes() {
  const auto nearest = CAIRO_FILTER_NEAREST;
  return {
      {"squares", placed(16, 16, false, squares, nearest, 200, 0)},
      {"squares, turned", placed(16, 16, false, squares, nearest, 150, 0.5)},
      {"photo, as it is", placed(200, 200, true, photo, nearest, 200, 0)},
      {"photo, turned", placed(200, 200, true, photo, nearest, 170, 0.7)},
      {"photo, upside down", placed(200, 160, true, photo, nearest, 200, M_PI)},
      {"photo, on its side", placed(160, 200, true, photo, nearest, 160, M_PI / 2)},
      {"photo, enlarged", placed(50, 50, true, photo, nearest, 220, 0)},
      {"photo, smooth", placed(60, 60, true, photo, CAIRO_FILTER_BILINEAR, 220, 0)},
      {"photo, smooth and turned", placed(60, 60, true, photo, CAIRO_FILTER_BILINEAR, 160, 0.4)},
      {"soft photo, halved", placed(440, 440, true, soft, CAIRO_FILTER_GOOD, 220, 0)},
      {"soft photo, a fifth", placed(1100, 1100, true, soft, CAIRO_FILTER_GOOD, 220, 0)},
      {"soft photo, shrunk and turned", placed(700, 700, true, soft, CAIRO_FILTER_GOOD, 160, 0.6)},
      {"gray photo", placed(180, 180, true, gray, nearest, 180, 0)},
      {"gray photo, turned", placed(180, 180, true, gray, nearest, 150, 1.1)},
      {"faded photo", placed(200, 200, false, faded_photo, nearest, 200, 0)},
      {"faded photo, turned", placed(200, 200, false, faded_photo, nearest, 160, 0.8)},
      {"faded photo, enlarged", placed(40, 40, false, faded_photo, nearest, 200, 0)},
      {"JPEG photograph", photograph(220, 0)},
      {"JPEG photograph, turned", photograph(200, 0.5)},
      {"stencil of 8 bits", stencil(CAIRO_FORMAT_A8, 0)},
      {"stencil of 8 bits, turned", stencil(CAIRO_FORMAT_A8, 0.4)},
      {"stencil", stencil(CAIRO_FORMAT_A1, 0)},
      {"stencil, turned", stencil(CAIRO_FORMAT_A1, 0.4)},
      {"strips", strips},
      {"clipped image", clipped_image},
      {"faint image", faint_image},
  };
}

}  // namespace test
