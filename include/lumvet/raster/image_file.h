// SPDX-License-Identifier: Apache-2.0
// Images as files: PNG, JPEG, TIFF, WebP and the portable anymap.
//
//   lumvet::write_image(sheet, "sheet.jpg", {.dpi = 150});
//
// Images that do not fit into memory, or several in one file, go in row by row:
//
//   lumvet::ImageWriter writer(file, {.format = lumvet::ImageFormat::tiff, .dpi = 600});
//   writer.begin(width, height, lumvet::PixelFormat::bilevel);
//   while (has_more()) writer.write_rows(rows, count, stride);
//   writer.finish();
//
// Every image says that its colors are sRGB, and its resolution where that is known.
// Threads: an ImageWriter is for one thread at a time; the functions are free.
#pragma once

#include <memory>

#include "lumvet/raster/raster.h"

namespace lumvet {

enum class ImageFormat { png, jpeg, tiff, webp, pnm };

struct ImageOptions {
  ImageFormat format = ImageFormat::png;
  double dpi = 0;        // pixels to the inch; 0: not noted
  int quality = 85;      // 1 to 100, of JPEG and WebP
  bool lossless = true;  // WebP without loss, whatever the quality
  int threads = 0;       // of large PNG images; 0: one for each core. The bytes are the same.
};

// By the ending of a name: png, jpg, jpeg, tif, tiff, webp, ppm, pgm, pbm, pnm, in any case.
// Errors: invalid_argument.
LUMVET_EXPORT Result<ImageFormat> image_format_of(const std::filesystem::path& path);

// Whether one file may hold several images: TIFF and the anymap.
LUMVET_EXPORT bool holds_several(ImageFormat format);

class LUMVET_EXPORT ImageWriter {
 public:
  // `sink` outlives the writer. TIFF goes straight to a PatchableSink and is otherwise kept in
  // memory until finish(); WebP always is.
  ImageWriter(ByteSink& sink, const ImageOptions& options);
  ImageWriter(ImageWriter&&) noexcept;
  ImageWriter& operator=(ImageWriter&&) noexcept;
  ~ImageWriter();

  // The next image. JPEG and the anymap have no alpha: what is transparent becomes white. Black
  // and white is packed by group 4 in TIFF. Errors: invalid_argument for sizes that the format
  // does not know, for a second image where it holds one, and for JPEG and WebP of
  // PixelFormat::bilevel; io.
  Status begin(int width, int height, PixelFormat format);
  // From the top; `stride` bytes from one row to the next. Errors: invalid_argument for more rows
  // than the image has, io.
  Status write_rows(const std::uint8_t* rows, int count, std::ptrdiff_t stride);
  // Errors: invalid_argument when rows are missing, io.
  Status finish();

 private:
  struct Impl;
  std::unique_ptr<Impl> impl_;
};

// Errors: as ImageWriter's.
LUMVET_EXPORT Result<Bytes> encode_image(const Raster& raster, const ImageOptions& options);
// In the format that the path's ending names, whatever the options say. Errors: exists, and as
// ImageWriter's and image_format_of.
LUMVET_EXPORT Status write_image(const Raster& raster, const std::filesystem::path& path,
                                 ImageOptions options = {}, IfExists if_exists = IfExists::refuse);

}  // namespace lumvet
