// SPDX-License-Identifier: Apache-2.0
#include "lumvet/render/placed_images.h"

#include <cmath>

#include "base/attempt.h"
#include "content/scene_data.h"
#include "crypto/base64.h"
#include "images/stored_image.h"
#include "raster/sample_sheet.h"

namespace lumvet {
namespace {

using content::PageImage;
using images::Image;

// A sample of an image that is spread over `width` by `height` of them.
class Spread {
 public:
  Spread(const Image& image, int width, int height)
      : image_(image), width_(width), height_(height) {
    image.wait_for_all();
  }
  // A row of `width` pixels, channels() bytes each.
  void row(int y, std::vector<std::uint8_t>& out) {
    const auto channels = static_cast<std::size_t>(image_.channels());
    out.resize(static_cast<std::size_t>(width_) * channels);
    const int from = at(y, height_, image_.height);
    const std::uint8_t* samples = image_.row(from, 0, image_.width, room_);
    for (int x = 0; x < width_; ++x) {
      const auto place = static_cast<std::size_t>(at(x, width_, image_.width)) * channels;
      std::copy_n(samples + place, channels, &out[static_cast<std::size_t>(x) * channels]);
    }
  }

 private:
  static int at(int place, int all, int samples) {
    return static_cast<int>(std::int64_t{place} * samples / all);
  }

  const Image& image_;
  int width_;
  int height_;
  Bytes room_;
};

// As many samples as the finer of an image and its mask has.
struct Size {
  int width;
  int height;
};

Size size_of(const PageImage& image, const Image& decoded) {
  Size size{std::max(decoded.width, static_cast<int>(std::lround(image.across()))),
            std::max(decoded.height, static_cast<int>(std::lround(image.down())))};
  if (decoded.mask)
    size = {std::max(size.width, decoded.mask->width), std::max(size.height, decoded.mask->height)};
  return size;
}

Result<raster::SampleSheet> sheet_of(const PageImage& image, const Image& decoded) {
  const bool is_stencil = decoded.kind == Image::Kind::coverage;
  const Size size = size_of(image, decoded);
  raster::SampleSheet sheet{size.width, size.height};
  sheet.has_alpha = is_stencil || decoded.mask;
  // PNG of gray with alpha is kept as color.
  sheet.channels = sheet.has_alpha || decoded.kind == Image::Kind::rgb ? 3 : 1;
  const std::uint64_t bytes =
      sheet.row_bytes() * static_cast<std::uint64_t>(static_cast<unsigned>(size.height));
  if (bytes > 4 * image.limits().pixels)
    return met_limit("an image and its mask are beyond Limits::pixels");
  sheet.samples.reserve(bytes);
  Spread colors(decoded, size.width, size.height);
  std::optional<Spread> opacities;
  if (decoded.mask) opacities.emplace(*decoded.mask, size.width, size.height);
  std::vector<std::uint8_t> color;
  std::vector<std::uint8_t> opacity;
  for (int y = 0; y < size.height; ++y) {
    colors.row(y, color);
    if (opacities) opacities->row(y, opacity);
    const auto channels = static_cast<std::size_t>(decoded.channels());
    for (std::size_t x = 0; x < static_cast<std::size_t>(size.width); ++x) {
      for (int k = 0; k < sheet.channels; ++k)
        sheet.samples.push_back(
            is_stencil ? 0 : color[x * channels + static_cast<std::size_t>(k) % channels]);
      if (sheet.has_alpha) sheet.samples.push_back(is_stencil ? color[x] : opacity[x]);
    }
  }
  return sheet;
}

// With the mask spread over the samples, as alpha.
raster::SampleSheet sheet_of(const images::PlainSamples& plain, const Image* mask) {
  raster::SampleSheet sheet{plain.width,      plain.height,    plain.bits,
                            plain.components, mask != nullptr, plain.profile};
  const ByteView bytes = plain.bytes.view();
  const std::size_t pixel = static_cast<std::size_t>(plain.components * plain.bits / 8);
  if (mask == nullptr) {
    const std::size_t all = sheet.row_bytes() * static_cast<std::size_t>(plain.height);
    sheet.samples.assign(bytes.begin(), bytes.begin() + static_cast<std::ptrdiff_t>(all));
    return sheet;
  }
  Spread opacities(*mask, plain.width, plain.height);
  std::vector<std::uint8_t> opacity;
  const std::uint8_t* from = bytes.data();
  for (int y = 0; y < plain.height; ++y) {
    opacities.row(y, opacity);
    for (const std::uint8_t alpha : opacity) {
      sheet.samples.insert(sheet.samples.end(), from, from + pixel);
      sheet.samples.insert(sheet.samples.end(), static_cast<std::size_t>(plain.bits / 8), alpha);
      from += pixel;
    }
  }
  return sheet;
}

Result<ImageBytes> shown_image(const PageImage& image) {
  const std::shared_ptr<const Image> decoded = image.decoded(1);
  if (!decoded)
    return Error(ErrorCode::malformed, "the image cannot be decoded; the findings tell why");
  LUMVET_TRY(const raster::SampleSheet sheet, sheet_of(image, *decoded));
  LUMVET_TRY(Bytes bytes, raster::encode_png(sheet));
  return ImageBytes{"png", std::move(bytes)};
}

Result<ImageBytes> stored_image(const PageImage& image) {
  const Stream* stream = image.stored().as_stream();
  if (stream == nullptr) return shown_image(image);
  const file::ObjectStore& store = image.store();
  Budget budget(store.limits());
  const images::ImageContext context{image.resources(), store, budget, store.findings()};
  LUMVET_TRY(const auto photograph, images::stored_photograph(*stream, context));
  if (photograph) {
    const ByteView bytes = photograph->bytes.view();
    return ImageBytes{photograph->is_jpeg ? "jpg" : "jp2", Bytes(bytes.begin(), bytes.end())};
  }
  LUMVET_TRY(const auto plain, images::plain_samples(*stream, context));
  if (!plain) return shown_image(image);
  const std::shared_ptr<const Image> decoded = image.has_mask() ? image.decoded(1) : nullptr;
  LUMVET_TRY(Bytes bytes,
             raster::encode_tiff(sheet_of(*plain, decoded ? decoded->mask.get() : nullptr)));
  return ImageBytes{"tif", std::move(bytes)};
}

}  // namespace

int PlacedImage::width() const { return static_cast<int>(std::lround(image_->across())); }
int PlacedImage::height() const { return static_cast<int>(std::lround(image_->down())); }
bool PlacedImage::is_stencil() const { return image_->is_stencil(); }
bool PlacedImage::has_mask() const { return image_->has_mask(); }

Result<ImageBytes> PlacedImage::stored() const {
  return attempted([&]() -> Result<ImageBytes> { return stored_image(*image_); });
}
Result<ImageBytes> PlacedImage::shown() const {
  return attempted([&]() -> Result<ImageBytes> { return shown_image(*image_); });
}

std::vector<PlacedImage> placed_images(const Scene& scene) {
  std::vector<PlacedImage> list;
  for (const content::Operation& operation : data_of(scene).operations) {
    const auto* shown = std::get_if<content::ShowImage>(&operation.what);
    if (shown == nullptr) continue;
    const Matrix& placed = shown->placed;
    list.push_back(
        {{placed.apply({0, 1}), placed.apply({1, 1}), placed.apply({1, 0}), placed.apply({0, 0})},
         shown->image});
  }
  return list;
}

std::string data_uri(const ImageBytes& image) {
  const std::string kind = image.ending == "jpg"   ? "jpeg"
                           : image.ending == "tif" ? "tiff"
                                                   : image.ending;
  return "data:image/" + kind + ";base64," + crypto::base64(image.bytes);
}

}  // namespace lumvet
