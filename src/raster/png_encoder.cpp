// SPDX-License-Identifier: Apache-2.0
#include <png.h>

#include <cmath>
#include <csetjmp>

#include "base/parallel.h"
#include "raster/encoder.h"
#include "raster/png_rows.h"

namespace lumvet::raster {
namespace {

// Everything with a destructor lives in members, since libpng leaves by longjmp.
class PngEncoder final : public Encoder {
 public:
  PngEncoder(ByteSink& sink, const ImageOptions& options) : sink_(sink), options_(options) {
    png_ = png_create_write_struct(
        PNG_LIBPNG_VER_STRING, nullptr,
        [](png_structp png, png_const_charp) { png_longjmp(png, 1); },
        [](png_structp, png_const_charp) {});
    info_ = png_ != nullptr ? png_create_info_struct(png_) : nullptr;
  }
  ~PngEncoder() override { png_destroy_write_struct(&png_, &info_); }

  Status begin(const ImageShape& shape) override {
    const auto width = static_cast<std::size_t>(shape.width);
    const bool bits = shape.stored == Stored::bits;
    const auto pixel = static_cast<std::size_t>(bits ? 0 : shape.channels());
    rows_ = std::make_unique<PngRows>(bits ? (width + 7) / 8 : width * pixel, pixel,
                                      thread_count(options_.threads),
                                      [this](ByteView piece) { return put("IDAT", piece); });
    return outcome(info_ != nullptr && write_header(shape));
  }
  Status row(const std::uint8_t* pixels) override { return rows_->add(pixels); }
  Status end() override {
    LUMVET_RETURN_IF_ERROR(rows_->finish());
    return put("IEND", {});
  }

 private:
  static void give(png_structp png, png_bytep data, png_size_t size) {
    auto& self = *static_cast<PngEncoder*>(png_get_io_ptr(png));
    self.written_ = self.sink_.write({data, size});
    if (!self.written_.ok()) png_error(png, "the sink refused");
  }

  Status outcome(bool done) {
    if (done) return Done{};
    if (!written_.ok()) return written_;
    return Error(ErrorCode::io, "the PNG image could not be made");
  }

  bool write_header(const ImageShape& shape) {
    if (setjmp(png_jmpbuf(png_)) != 0) return false;
    png_set_write_fn(png_, this, give, nullptr);
    const bool gray = shape.channels() == 1;
    const bool bits = shape.stored == Stored::bits;
    png_set_IHDR(png_, info_, static_cast<png_uint_32>(shape.width),
                 static_cast<png_uint_32>(shape.height), bits ? 1 : 8,
                 gray                    ? PNG_COLOR_TYPE_GRAY
                 : shape.channels() == 3 ? PNG_COLOR_TYPE_RGB
                                         : PNG_COLOR_TYPE_RGB_ALPHA,
                 PNG_INTERLACE_NONE, PNG_COMPRESSION_TYPE_DEFAULT, PNG_FILTER_TYPE_DEFAULT);
    png_set_sRGB(png_, info_, PNG_sRGB_INTENT_RELATIVE);
    if (options_.dpi > 0) {
      constexpr double kInchesPerMetre = 1 / 0.0254;
      const auto per_metre = static_cast<png_uint_32>(std::lround(options_.dpi * kInchesPerMetre));
      png_set_pHYs(png_, info_, per_metre, per_metre, PNG_RESOLUTION_METER);
    }
    png_write_info(png_, info_);
    return true;
  }

  Status put(const char* kind, ByteView bytes) { return outcome(write_chunk(kind, bytes)); }

  bool write_chunk(const char* kind, ByteView bytes) {
    if (setjmp(png_jmpbuf(png_)) != 0) return false;
    png_write_chunk(png_, reinterpret_cast<png_const_bytep>(kind), bytes.data(), bytes.size());
    return true;
  }

  ByteSink& sink_;
  ImageOptions options_;
  png_structp png_ = nullptr;
  png_infop info_ = nullptr;
  Status written_ = Done{};
  std::unique_ptr<PngRows> rows_;  // of the image
};

}  // namespace

std::unique_ptr<Encoder> make_png_encoder(ByteSink& sink, const ImageOptions& options) {
  return std::make_unique<PngEncoder>(sink, options);
}

}  // namespace lumvet::raster
