// SPDX-License-Identifier: Apache-2.0
#include <webp/encode.h>
#include <webp/mux.h>

#include <cmath>

#include "raster/encoder.h"

namespace lumvet::raster {
namespace {

// The resolution, as the tags of a TIFF file without images (Exif 2.3, 4.6.4).
Bytes resolution_tags(double dpi) {
  Bytes tags = {'I', 'I', 42, 0, 8, 0, 0, 0, 3, 0};
  const auto put = [&tags](std::uint32_t value, int bytes) {
    for (int i = 0; i < bytes; ++i) tags.push_back(static_cast<std::uint8_t>(value >> (8 * i)));
  };
  constexpr std::uint32_t kAfterTags = 8 + 2 + 3 * 12 + 4;
  constexpr std::uint32_t kRational = 5;
  constexpr std::uint32_t kShort = 3;
  for (const auto& [tag, kind, value] : {std::array{0x011Au, kRational, kAfterTags},
                                         {0x011Bu, kRational, kAfterTags + 8},
                                         {0x0128u, kShort, 2u}}) {  // the unit is an inch
    put(tag, 2);
    put(kind, 2);
    put(1, 4);
    put(value, 4);
  }
  put(0, 4);
  constexpr double kFraction = 1000;
  for (int i = 0; i < 2; ++i) {
    put(static_cast<std::uint32_t>(std::lround(dpi * kFraction)), 4);
    put(static_cast<std::uint32_t>(kFraction), 4);
  }
  return tags;
}

class WebpEncoder final : public Encoder {
 public:
  WebpEncoder(ByteSink& sink, const ImageOptions& options) : sink_(sink), options_(options) {}

  Stored stored(PixelFormat given) const override {
    return given == PixelFormat::rgba || given == PixelFormat::bgra ? Stored::straight_rgba
                                                                    : Stored::rgb;
  }

  Status begin(const ImageShape& shape) override {
    if (shape.width > WEBP_MAX_DIMENSION || shape.height > WEBP_MAX_DIMENSION)
      return Error(ErrorCode::invalid_argument,
                   "WebP images have at most 16383 pixels a side; write TIFF or PNG");
    shape_ = shape;
    pixels_.clear();
    return Done{};
  }

  Status row(const std::uint8_t* pixels) override {
    pixels_.insert(pixels_.end(), pixels, pixels + row_bytes());
    return Done{};
  }

  Status end() override {
    WebPConfig config;
    WebPPicture image;
    if (!WebPConfigInit(&config) || !WebPPictureInit(&image)) return failed();
    config.quality = static_cast<float>(options_.quality);
    if (options_.lossless) {
      constexpr int kEffort = 3;
      WebPConfigLosslessPreset(&config, kEffort);
    }
    image.use_argb = options_.lossless ? 1 : 0;
    image.width = shape_.width;
    image.height = shape_.height;
    WebPMemoryWriter written;
    WebPMemoryWriterInit(&written);
    image.writer = WebPMemoryWrite;
    image.custom_ptr = &written;
    const int stride = static_cast<int>(row_bytes());
    const bool taken = shape_.channels() == 4
                           ? WebPPictureImportRGBA(&image, pixels_.data(), stride) != 0
                           : WebPPictureImportRGB(&image, pixels_.data(), stride) != 0;
    const bool made = taken && WebPEncode(&config, &image) != 0;
    WebPPictureFree(&image);
    pixels_ = {};
    Status status = made ? with_facts({written.mem, written.size}) : failed();
    WebPMemoryWriterClear(&written);
    return status;
  }

 private:
  std::size_t row_bytes() const {
    return static_cast<std::size_t>(shape_.width) * static_cast<std::size_t>(shape_.channels());
  }

  static Status failed() { return Error(ErrorCode::io, "the WebP image could not be made"); }

  // The image with its profile and resolution.
  Status with_facts(ByteView bytes) {
    WebPMux* mux = WebPMuxNew();
    if (mux == nullptr) return failed();
    const Bytes& profile = screen_profile(false);
    const Bytes tags = resolution_tags(options_.dpi);
    const WebPData image{bytes.data(), bytes.size()};
    const WebPData colors{profile.data(), profile.size()};
    const WebPData exif{tags.data(), tags.size()};
    WebPData whole{nullptr, 0};
    const bool done =
        WebPMuxSetImage(mux, &image, 0) == WEBP_MUX_OK &&
        WebPMuxSetChunk(mux, "ICCP", &colors, 0) == WEBP_MUX_OK &&
        (options_.dpi <= 0 || WebPMuxSetChunk(mux, "EXIF", &exif, 0) == WEBP_MUX_OK) &&
        WebPMuxAssemble(mux, &whole) == WEBP_MUX_OK;
    Status status = done ? sink_.write({whole.bytes, whole.size}) : failed();
    WebPDataClear(&whole);
    WebPMuxDelete(mux);
    return status;
  }

  ByteSink& sink_;
  ImageOptions options_;
  ImageShape shape_;
  Bytes pixels_;
};

}  // namespace

std::unique_ptr<Encoder> make_webp_encoder(ByteSink& sink, const ImageOptions& options) {
  return std::make_unique<WebpEncoder>(sink, options);
}

}  // namespace lumvet::raster
