// SPDX-License-Identifier: Apache-2.0
#include <array>
#include <cmath>
#include <csetjmp>
#include <cstdio>  // jpeglib.h needs it

#include <jpeglib.h>

#include "raster/encoder.h"

namespace lumvet::raster {
namespace {

// Everything with a destructor lives in members, since errors leave by longjmp.
class JpegEncoder final : public Encoder {
 public:
  JpegEncoder(ByteSink& sink, const ImageOptions& options) : sink_(sink), options_(options) {
    compressor_.err = jpeg_std_error(&errors_);
    errors_.error_exit = [](j_common_ptr info) {
      std::longjmp(static_cast<JpegEncoder*>(info->client_data)->escape_, 1);
    };
    errors_.output_message = [](j_common_ptr) {};
    compressor_.client_data = this;
    destination_.init_destination = [](j_compress_ptr info) { of(info).rewind(); };
    destination_.empty_output_buffer = [](j_compress_ptr info) -> boolean {
      of(info).give(kPiece);
      return TRUE;
    };
    destination_.term_destination = [](j_compress_ptr info) {
      of(info).give(kPiece - of(info).destination_.free_in_buffer);
    };
    if (setjmp(escape_) == 0) {
      jpeg_create_compress(&compressor_);
      compressor_.client_data = this;
      compressor_.dest = &destination_;
      made_ = true;
    }
  }
  ~JpegEncoder() override {
    if (made_) jpeg_destroy_compress(&compressor_);
  }

  Stored stored(PixelFormat given) const override {
    return given == PixelFormat::gray ? Stored::gray : Stored::rgb;
  }

  Status begin(const ImageShape& shape) override {
    if (shape.width > JPEG_MAX_DIMENSION || shape.height > JPEG_MAX_DIMENSION)
      return Error(ErrorCode::invalid_argument,
                   "JPEG images have at most 65500 pixels a side; write TIFF or PNG");
    const Bytes& profile = screen_profile(shape.channels() == 1);
    return outcome(made_ && write_header(shape, profile));
  }
  Status row(const std::uint8_t* pixels) override { return outcome(write_row(pixels)); }
  Status end() override { return outcome(write_end()); }

 private:
  static constexpr std::size_t kPiece = 1 << 16;  // bytes

  static JpegEncoder& of(j_compress_ptr info) {
    return *static_cast<JpegEncoder*>(info->client_data);
  }

  void rewind() {
    destination_.next_output_byte = piece_.data();
    destination_.free_in_buffer = kPiece;
  }

  void give(std::size_t size) {
    if (written_.ok()) written_ = sink_.write({piece_.data(), size});
    rewind();
  }

  Status outcome(bool done) {
    if (!written_.ok()) return written_;
    if (done) return Done{};
    return Error(ErrorCode::io, "the JPEG image could not be made");
  }

  bool write_header(const ImageShape& shape, const Bytes& profile) {
    if (setjmp(escape_) != 0) return false;
    compressor_.image_width = static_cast<JDIMENSION>(shape.width);
    compressor_.image_height = static_cast<JDIMENSION>(shape.height);
    compressor_.input_components = shape.channels();
    compressor_.in_color_space = shape.channels() == 1 ? JCS_GRAYSCALE : JCS_RGB;
    jpeg_set_defaults(&compressor_);
    jpeg_set_quality(&compressor_, options_.quality, TRUE);
    if (options_.dpi > 0) {
      compressor_.density_unit = 1;  // dots to the inch
      compressor_.X_density = compressor_.Y_density =
          static_cast<UINT16>(std::lround(std::min(options_.dpi, 65535.0)));
    }
    jpeg_start_compress(&compressor_, TRUE);
    jpeg_write_icc_profile(&compressor_, profile.data(), static_cast<unsigned>(profile.size()));
    return true;
  }

  bool write_row(const std::uint8_t* pixels) {
    if (setjmp(escape_) != 0) return false;
    JSAMPROW row = const_cast<JSAMPROW>(pixels);  // libjpeg only reads it
    jpeg_write_scanlines(&compressor_, &row, 1);
    return true;
  }

  bool write_end() {
    if (setjmp(escape_) != 0) return false;
    jpeg_finish_compress(&compressor_);
    return true;
  }

  ByteSink& sink_;
  ImageOptions options_;
  jpeg_compress_struct compressor_{};
  jpeg_error_mgr errors_{};
  jpeg_destination_mgr destination_{};
  std::jmp_buf escape_{};
  bool made_ = false;
  std::array<std::uint8_t, kPiece> piece_{};
  Status written_ = Done{};
};

}  // namespace

std::unique_ptr<Encoder> make_jpeg_encoder(ByteSink& sink, const ImageOptions& options) {
  return std::make_unique<JpegEncoder>(sink, options);
}

}  // namespace lumvet::raster
