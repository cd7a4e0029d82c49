// SPDX-License-Identifier: Apache-2.0
// A buffer of pixels: in color, gray, or black and white.
//
//   lumvet::Raster sheet = lumvet::Raster::make(800, 600).value();
//   sheet.write_png("sheet.png");
//
// image_file.h writes it in other formats.
//
// Row 0 is the top one. Threads: a value; const methods may run concurrently.
#pragma once

#include <cstdint>
#include <filesystem>

#include "lumvet/base/bytes.h"
#include "lumvet/base/export.h"
#include "lumvet/base/limits.h"
#include "lumvet/base/result.h"
#include "lumvet/io/byte_sink.h"

namespace lumvet {

// A color as people name it: 0-255 each, not multiplied by alpha.
struct PixelColor {
  std::uint8_t red = 0;
  std::uint8_t green = 0;
  std::uint8_t blue = 0;
  std::uint8_t alpha = 255;
  bool operator==(const PixelColor&) const = default;
};

inline constexpr PixelColor kWhite{255, 255, 255, 255};
inline constexpr PixelColor kTransparent{0, 0, 0, 0};

// How a pixel lies in memory.
enum class PixelFormat {
  rgba,  // 4 bytes, colors multiplied by alpha
  bgra,
  rgb,  // 3 bytes; what would be transparent shows white
  bgr,
  gray,     // 1 byte, 255 is white
  bilevel,  // 8 pixels a byte, the leftmost in the highest bit, 1 is white; rows begin with a byte
};

// How gray becomes black or white: by its lightness alone, fit for text and drawings, or by an
// ordered pattern of dots, fit for photographs.
enum class Halftone { threshold, ordered };

LUMVET_EXPORT std::size_t bytes_per_row(PixelFormat format, int width);

// Somebody else's pixels.
struct PixelBuffer {
  std::uint8_t* data = nullptr;  // the top left pixel
  int width = 0;                 // pixels
  int height = 0;                // pixels
  std::ptrdiff_t stride = 0;     // bytes from one row to the next; negative when rows run upward
  PixelFormat format = PixelFormat::rgba;
};

class LUMVET_EXPORT PixelMemory {
 public:
  enum class Start { zeros, uninitialized };

  PixelMemory() = default;
  // `size` bytes. Those that start with anything are for who writes all of them: touching them for
  // the first time is then shared by the threads that do.
  explicit PixelMemory(std::size_t size, Start start = Start::zeros);
  PixelMemory(const PixelMemory& other);
  PixelMemory(PixelMemory&& other) noexcept;
  PixelMemory& operator=(PixelMemory other) noexcept;
  ~PixelMemory();

  std::uint8_t* data() { return data_; }
  const std::uint8_t* data() const { return data_; }
  std::size_t size() const { return size_; }
  bool operator==(const PixelMemory& other) const;

 private:
  std::uint8_t* data_ = nullptr;
  std::size_t size_ = 0;
};

class LUMVET_EXPORT Raster {
 public:
  Raster() = default;
  // All transparent, or black, unless it may start with anything. Errors: invalid_argument for
  // sizes below 1, limit beyond Limits::pixels.
  static Result<Raster> make(int width, int height, const Limits& limits = {},
                             PixelFormat format = PixelFormat::rgba,
                             PixelMemory::Start start = PixelMemory::Start::zeros);

  int width() const { return width_; }    // pixels
  int height() const { return height_; }  // pixels
  PixelFormat format() const { return format_; }
  std::size_t stride() const { return bytes_per_row(format_, width_); }
  std::uint8_t* row(int y) { return bytes_.data() + static_cast<std::size_t>(y) * stride(); }
  const std::uint8_t* row(int y) const {
    return bytes_.data() + static_cast<std::size_t>(y) * stride();
  }
  ByteView bytes() const { return {bytes_.data(), bytes_.size()}; }
  PixelBuffer buffer() {
    return {bytes_.data(), width_, height_, static_cast<std::ptrdiff_t>(stride()), format_};
  }
  // The pixel as a color; transparent outside.
  PixelColor at(int x, int y) const;

  // As a PNG image, with `dpi` pixels to the inch noted in it when that is above 0; without an
  // alpha channel when every pixel is opaque. Errors: invalid_argument when empty, io.
  Result<Bytes> png(double dpi = 0) const;
  // Errors: exists, io.
  Status write_png(const std::filesystem::path& path, IfExists if_exists = IfExists::refuse,
                   double dpi = 0) const;

  bool operator==(const Raster&) const = default;

 private:
  int width_ = 0;
  int height_ = 0;
  PixelFormat format_ = PixelFormat::rgba;
  PixelMemory bytes_;
};

}  // namespace lumvet
