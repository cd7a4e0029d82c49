// SPDX-License-Identifier: Apache-2.0
// One image format: rows in, a file out. ImageWriter checks the order of calls and converts rows
// to what the format stores.
//
// Threads: one thread at a time.
#pragma once

#include <memory>

#include "lumvet/raster/image_file.h"
#include "raster/sample_sheet.h"

namespace lumvet::raster {

// What a row holds when it reaches an encoder.
enum class Stored {
  straight_rgba,  // 4 bytes, not multiplied by alpha
  rgb,            // 3 bytes
  gray,           // 1 byte
  bits,           // as PixelFormat::bilevel
  samples         // of a SampleSheet
};

struct ImageShape {
  int width = 0;   // pixels
  int height = 0;  // pixels
  Stored stored = Stored::rgb;
  const SampleSheet* sheet = nullptr;  // that has the samples
  int channels() const {
    if (sheet != nullptr) return sheet->channels + (sheet->has_alpha ? 1 : 0);
    return stored == Stored::straight_rgba ? 4 : stored == Stored::rgb ? 3 : 1;
  }
};

class Encoder {
 public:
  virtual ~Encoder() = default;
  // Errors: as ImageWriter::begin.
  virtual Status begin(const ImageShape& shape) = 0;
  virtual Status row(const std::uint8_t* pixels) = 0;
  virtual Status end() = 0;                        // of an image
  virtual Status finish() { return Done{}; }       // of the file
  virtual Stored stored(PixelFormat given) const;  // what rows of a format are kept as
};

std::unique_ptr<Encoder> make_png_encoder(ByteSink& sink, const ImageOptions& options);
std::unique_ptr<Encoder> make_jpeg_encoder(ByteSink& sink, const ImageOptions& options);
std::unique_ptr<Encoder> make_tiff_encoder(ByteSink& sink, const ImageOptions& options);
std::unique_ptr<Encoder> make_webp_encoder(ByteSink& sink, const ImageOptions& options);
std::unique_ptr<Encoder> make_pnm_encoder(ByteSink& sink, const ImageOptions& options);

// The profile that colors (or grays) of the screen are told by; the same bytes every time.
const Bytes& screen_profile(bool gray);

inline ByteView as_view(const void* data, std::size_t size) {
  return {static_cast<const std::uint8_t*>(data), size};
}

}  // namespace lumvet::raster
