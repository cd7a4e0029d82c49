// SPDX-License-Identifier: Apache-2.0
#include "images.h"

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <numbers>

#include <jpeglib.h>

namespace demo {
namespace {

double hash(int x, int y, unsigned seed) {
  auto h = static_cast<std::uint32_t>(x) * 374761393u + static_cast<std::uint32_t>(y) * 668265263u +
           seed * 2246822519u;
  h = (h ^ (h >> 13)) * 1274126177u;
  return (h ^ (h >> 16)) / 4294967295.0;
}

// Values that change smoothly from place to place.
double smooth(double x, double y, unsigned seed) {
  const int ix = static_cast<int>(std::floor(x));
  const int iy = static_cast<int>(std::floor(y));
  const auto ease = [](double t) { return t * t * (3 - 2 * t); };
  const double fx = ease(x - ix);
  const double fy = ease(y - iy);
  const double upper = hash(ix, iy, seed) * (1 - fx) + hash(ix + 1, iy, seed) * fx;
  const double lower = hash(ix, iy + 1, seed) * (1 - fx) + hash(ix + 1, iy + 1, seed) * fx;
  return upper * (1 - fy) + lower * fy;
}

double rough(double x, double y, unsigned seed) {
  return 0.5 * smooth(x, y, seed) + 0.3 * smooth(2 * x, 2 * y, seed + 1) +
         0.2 * smooth(5 * x, 5 * y, seed + 2);
}

struct Light {
  double r, g, b;
};

Light mix(Light a, Light b, double t) {
  return {a.r + (b.r - a.r) * t, a.g + (b.g - a.g) * t, a.b + (b.b - a.b) * t};
}

std::uint8_t to_byte(double unit) {
  return static_cast<std::uint8_t>(std::lround(std::clamp(unit, 0.0, 1.0) * 255));
}

// u to the right and v downward, 0 to 1.
Light scene_at(double u, double v, unsigned seed) {
  const double far_hills = 0.34 + 0.16 * (rough(u * 3, 0.3, seed) - 0.5);
  const double near_hills = 0.50 + 0.20 * (rough(u * 5, 7.7, seed + 9) - 0.5);
  const double shore = 0.70 + 0.015 * (rough(u * 12, 3.1, seed + 5) - 0.5);
  const double deck = 0.56 - 0.05 * std::sin(u * std::numbers::pi);
  const double arch =
      0.70 - 0.13 * std::sin(std::clamp((u - 0.12) / 0.76, 0.0, 1.0) * std::numbers::pi);
  const bool in_arch = u > 0.12 && u < 0.88;
  const bool post = in_arch && std::fmod(u * 22, 1.0) < 0.10 && v > deck && v < arch;
  const bool rail_post = std::fmod(u * 44, 1.0) < 0.08 && v > deck - 0.045 && v < deck;
  const bool rail = std::abs(v - (deck - 0.045)) < 0.004 || std::abs(v - (deck - 0.024)) < 0.002;
  if (rail || rail_post) return {0.28, 0.17, 0.12};
  if (v > deck && v < deck + 0.022)
    return mix({0.45, 0.30, 0.20}, {0.36, 0.24, 0.16}, rough(u * 60, v * 10, seed));
  if (post || (in_arch && std::abs(v - arch) < 0.009)) return {0.50, 0.24, 0.15};
  if (v > shore) {  // water
    const double ripple = rough(u * 9, v * 70, seed + 3);
    const Light water = mix({0.20, 0.36, 0.44}, {0.62, 0.74, 0.78}, ripple * 0.7);
    return mix(water, {0.10, 0.20, 0.26}, (v - shore) / (1 - shore) * 0.6);
  }
  if (v > near_hills)
    return mix({0.22, 0.34, 0.16}, {0.42, 0.50, 0.24}, rough(u * 40, v * 40, seed + 4));
  if (v > far_hills)
    return mix({0.40, 0.50, 0.48}, {0.55, 0.62, 0.62}, rough(u * 14, v * 14, seed + 6));
  const double cloud = std::clamp(rough(u * 4, v * 9, seed + 7) * 2.2 - 0.9, 0.0, 1.0);
  return mix(mix({0.42, 0.62, 0.82}, {0.85, 0.90, 0.92}, v / 0.4), {0.97, 0.97, 0.96}, cloud);
}

}  // namespace

Photo bridge_photo(int width, int height, unsigned seed) {
  Photo photo{width, height, {}};
  photo.rgb.reserve(static_cast<std::size_t>(width) * static_cast<std::size_t>(height) * 3);
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < width; ++x) {
      const double u = (x + 0.5) / width;
      const double v = (y + 0.5) / height;
      const Light light = scene_at(u, v, seed);
      const double grain = (hash(x, y, seed + 11) - 0.5) * 0.03;
      const double edge = 1 - 0.25 * (std::pow(u - 0.5, 2) + std::pow(v - 0.5, 2));
      for (const double channel : {light.r, light.g, light.b})
        photo.rgb.push_back(to_byte(channel * edge + grain));
    }
  return photo;
}

Seal make_seal(int size) {
  Seal seal{size, {}};
  for (int y = 0; y < size; ++y)
    for (int x = 0; x < size; ++x) {
      const double dx = (x + 0.5) / size * 2 - 1;
      const double dy = (y + 0.5) / size * 2 - 1;
      const double r = std::hypot(dx, dy);
      const double wave = 0.90 + 0.04 * std::cos(std::atan2(dy, dx) * 24);
      const bool bridge = std::abs(dy - 0.10) < 0.05 ||
                          (dy > 0.10 && std::abs(std::hypot(dx, dy - 0.75) - 0.62) < 0.05);
      const bool mark = r < 0.62 && bridge;
      const bool ring = std::abs(r - 0.74) < 0.03;
      const Light light =
          mark || ring ? Light{0.97, 0.94, 0.88} : mix({0.62, 0.13, 0.13}, {0.45, 0.07, 0.09}, r);
      for (const double channel : {light.r, light.g, light.b, (wave - r) / 0.08})
        seal.rgba.push_back(to_byte(channel));
    }
  return seal;
}

lumvet::Bytes scanned_gray(const lumvet::Raster& sheet, double degrees, unsigned seed) {
  const int width = sheet.width();
  const int height = sheet.height();
  const double c = std::cos(degrees * std::numbers::pi / 180);
  const double s = std::sin(degrees * std::numbers::pi / 180);
  lumvet::Bytes gray;
  gray.reserve(static_cast<std::size_t>(width) * static_cast<std::size_t>(height));
  const auto luma = [&](int x, int y) {
    if (x < 0 || y < 0 || x >= width || y >= height) return 90.0;
    const std::uint8_t* p = sheet.row(y) + x * 4;
    return 0.299 * p[0] + 0.587 * p[1] + 0.114 * p[2];
  };
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < width; ++x) {
      const double dx = x - width / 2.0;
      const double dy = y - height / 2.0;
      const double fx = c * dx + s * dy + width / 2.0;
      const double fy = -s * dx + c * dy + height / 2.0;
      const int ix = static_cast<int>(std::floor(fx));
      const int iy = static_cast<int>(std::floor(fy));
      const double tx = fx - ix;
      const double ty = fy - iy;
      double value = (luma(ix, iy) * (1 - tx) + luma(ix + 1, iy) * tx) * (1 - ty) +
                     (luma(ix, iy + 1) * (1 - tx) + luma(ix + 1, iy + 1) * tx) * ty;
      value = value * 0.93 + 8 * smooth(x / 90.0, y / 90.0, seed) + 10 * (hash(x, y, seed) - 0.5);
      gray.push_back(static_cast<std::uint8_t>(std::clamp(value, 0.0, 255.0)));
    }
  return gray;
}

lumvet::Bytes to_jpeg(const lumvet::Bytes& samples, int width, int height, int channels,
                      int quality) {
  jpeg_compress_struct jpeg{};
  jpeg_error_mgr errors{};
  jpeg.err = jpeg_std_error(&errors);
  jpeg_create_compress(&jpeg);
  unsigned char* buffer = nullptr;
  unsigned long size = 0;
  jpeg_mem_dest(&jpeg, &buffer, &size);
  jpeg.image_width = static_cast<JDIMENSION>(width);
  jpeg.image_height = static_cast<JDIMENSION>(height);
  jpeg.input_components = channels;
  jpeg.in_color_space = channels == 1 ? JCS_GRAYSCALE : JCS_RGB;
  jpeg_set_defaults(&jpeg);
  jpeg_set_quality(&jpeg, quality, TRUE);
  jpeg_start_compress(&jpeg, TRUE);
  while (jpeg.next_scanline < jpeg.image_height) {
    JSAMPROW row = const_cast<JSAMPROW>(
        &samples[std::size_t{jpeg.next_scanline} * static_cast<std::size_t>(width * channels)]);
    jpeg_write_scanlines(&jpeg, &row, 1);
  }
  jpeg_finish_compress(&jpeg);
  lumvet::Bytes bytes(buffer, buffer + size);
  jpeg_destroy_compress(&jpeg);
  std::free(buffer);
  return bytes;
}

}  // namespace demo
