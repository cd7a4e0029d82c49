// SPDX-License-Identifier: Apache-2.0
#include <algorithm>
#include <cctype>
#include <string>

#include "lumvet/raster/image_file.h"
#include "raster/encoder.h"
#include "raster/pixel_formats.h"

namespace lumvet {

using raster::Encoder;
using raster::Stored;

namespace raster {

Stored Encoder::stored(PixelFormat given) const {
  switch (given) {
    case PixelFormat::rgba:
    case PixelFormat::bgra: return Stored::straight_rgba;
    case PixelFormat::gray: return Stored::gray;
    case PixelFormat::bilevel: return Stored::bits;
    default: return Stored::rgb;
  }
}

namespace {

std::unique_ptr<Encoder> make_encoder(ByteSink& sink, const ImageOptions& options) {
  switch (options.format) {
    case ImageFormat::jpeg: return make_jpeg_encoder(sink, options);
    case ImageFormat::tiff: return make_tiff_encoder(sink, options);
    case ImageFormat::webp: return make_webp_encoder(sink, options);
    case ImageFormat::pnm: return make_pnm_encoder(sink, options);
    default: return make_png_encoder(sink, options);
  }
}

}  // namespace
}  // namespace raster

Result<ImageFormat> image_format_of(const std::filesystem::path& path) {
  std::string ending = path.extension().string();
  std::transform(ending.begin(), ending.end(), ending.begin(),
                 [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
  if (ending == ".png") return ImageFormat::png;
  if (ending == ".jpg" || ending == ".jpeg") return ImageFormat::jpeg;
  if (ending == ".tif" || ending == ".tiff") return ImageFormat::tiff;
  if (ending == ".webp") return ImageFormat::webp;
  if (ending == ".ppm" || ending == ".pgm" || ending == ".pbm" || ending == ".pnm")
    return ImageFormat::pnm;
  return Error(ErrorCode::invalid_argument,
               "'" + path.filename().string() +
                   "' names no kind of image; let it end in .png, .jpg, .tiff, .webp or .ppm");
}

bool holds_several(ImageFormat format) {
  return format == ImageFormat::tiff || format == ImageFormat::pnm;
}

struct ImageWriter::Impl {
  std::unique_ptr<Encoder> encoder;
  ImageOptions options;
  PixelFormat given = PixelFormat::rgba;
  raster::ImageShape shape;
  int images = 0;
  int rows_left = 0;
  Bytes straight;
  Bytes line;

  // A row as the encoder stores it.
  const std::uint8_t* stored_row(const std::uint8_t* row) {
    const bool alike = (given == PixelFormat::rgb && shape.stored == Stored::rgb) ||
                       (given == PixelFormat::gray && shape.stored == Stored::gray) ||
                       (given == PixelFormat::bilevel && shape.stored == Stored::bits);
    if (alike) return row;
    straight.resize(static_cast<std::size_t>(shape.width) * 4);
    raster::to_straight(row, shape.width, given, straight.data());
    if (shape.stored == Stored::straight_rgba) return straight.data();
    line.resize(static_cast<std::size_t>(shape.width) * 3);
    for (std::size_t i = 0, o = 0; i < straight.size(); i += 4) {
      const unsigned alpha = straight[i + 3];
      for (std::size_t k = 0; k < 3; ++k)
        line[o++] = static_cast<std::uint8_t>(
            alpha == 255 ? straight[i + k]
                         : (straight[i + k] * alpha + 255 * (255 - alpha) + 127) / 255);
    }
    return line.data();
  }
};

ImageWriter::ImageWriter(ByteSink& sink, const ImageOptions& options)
    : impl_(std::make_unique<Impl>()) {
  impl_->options = options;
  impl_->options.quality = std::clamp(options.quality, 1, 100);
  impl_->encoder = raster::make_encoder(sink, impl_->options);
}
ImageWriter::ImageWriter(ImageWriter&&) noexcept = default;
ImageWriter& ImageWriter::operator=(ImageWriter&&) noexcept = default;
ImageWriter::~ImageWriter() = default;

Status ImageWriter::begin(int width, int height, PixelFormat format) {
  Impl& impl = *impl_;
  if (width < 1 || height < 1)
    return Error(ErrorCode::invalid_argument, "an empty raster makes no image");
  if (impl.rows_left > 0) return Error(ErrorCode::invalid_argument, "the image before lacks rows");
  if (impl.images++ > 0 && !holds_several(impl.options.format))
    return Error(ErrorCode::invalid_argument,
                 "a file of this kind holds one image; write TIFF for several");
  if (format == PixelFormat::bilevel &&
      (impl.options.format == ImageFormat::jpeg || impl.options.format == ImageFormat::webp))
    return Error(ErrorCode::invalid_argument,
                 "JPEG and WebP images are not black and white alone; write TIFF or PNG");
  impl.given = format;
  impl.shape = {width, height, impl.encoder->stored(format)};
  LUMVET_RETURN_IF_ERROR(impl.encoder->begin(impl.shape));
  impl.rows_left = height;
  return Done{};
}

Status ImageWriter::write_rows(const std::uint8_t* rows, int count, std::ptrdiff_t stride) {
  Impl& impl = *impl_;
  if (count > impl.rows_left)
    return Error(ErrorCode::invalid_argument, "more rows than the image has");
  for (int i = 0; i < count; ++i, rows += stride)
    LUMVET_RETURN_IF_ERROR(impl.encoder->row(impl.stored_row(rows)));
  impl.rows_left -= count;
  return impl.rows_left == 0 && count > 0 ? impl.encoder->end() : Status(Done{});
}

Status ImageWriter::finish() {
  if (impl_->rows_left > 0 || impl_->images == 0)
    return Error(ErrorCode::invalid_argument, "the image lacks rows");
  return impl_->encoder->finish();
}

namespace {

bool is_opaque(const Raster& raster) {
  if (raster.format() != PixelFormat::rgba && raster.format() != PixelFormat::bgra) return false;
  const ByteView bytes = raster.bytes();
  for (std::size_t i = 3; i < bytes.size(); i += 4)
    if (bytes[i] != 255) return false;
  return true;
}

Status write_to(ByteSink& sink, const Raster& raster, const ImageOptions& options) {
  ImageWriter writer(sink, options);
  if (!is_opaque(raster)) {
    LUMVET_RETURN_IF_ERROR(writer.begin(raster.width(), raster.height(), raster.format()));
    if (raster.height() > 0)
      LUMVET_RETURN_IF_ERROR(writer.write_rows(raster.row(0), raster.height(),
                                               static_cast<std::ptrdiff_t>(raster.stride())));
    return writer.finish();
  }
  const PixelFormat plain =
      raster.format() == PixelFormat::bgra ? PixelFormat::bgr : PixelFormat::rgb;
  LUMVET_RETURN_IF_ERROR(writer.begin(raster.width(), raster.height(), plain));
  Bytes line(bytes_per_row(plain, raster.width()));
  for (int y = 0; y < raster.height(); ++y) {
    const std::uint8_t* from = raster.row(y);
    for (std::size_t i = 0; i < line.size(); i += 3, from += 4) std::copy_n(from, 3, &line[i]);
    LUMVET_RETURN_IF_ERROR(writer.write_rows(line.data(), 1, 0));
  }
  return writer.finish();
}

}  // namespace

Result<Bytes> encode_image(const Raster& raster, const ImageOptions& options) {
  BufferSink sink;
  LUMVET_RETURN_IF_ERROR(write_to(sink, raster, options));
  return sink.take();
}

Status write_image(const Raster& raster, const std::filesystem::path& path, ImageOptions options,
                   IfExists if_exists) {
  LUMVET_TRY(options.format, image_format_of(path));
  LUMVET_TRY(AtomicFile file, AtomicFile::create(path, if_exists));
  LUMVET_RETURN_IF_ERROR(write_to(file, raster, options));
  return file.commit();
}

}  // namespace lumvet
