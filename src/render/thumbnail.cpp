// SPDX-License-Identifier: Apache-2.0
#include "lumvet/render/thumbnail.h"

#include <algorithm>
#include <cmath>

#include "base/attempt.h"
#include "document/inside.h"
#include "document/revisions.h"
#include "images/image_reader.h"
#include "raster/pixel_formats.h"
#include "render/image_sampler.h"
#include "render/recording.h"

namespace lumvet {
namespace {

using ImagePtr = std::shared_ptr<const images::Image>;

PixelSize size_for(const Page& page, int side) {
  const double scale = side / std::max(page.width(), page.height());
  const auto pixels = [scale](double points) {
    return std::max(1, static_cast<int>(std::lround(points * scale)));
  };
  return {pixels(page.width()), pixels(page.height())};
}

// The state of the document, counted from the first, in which an object was saved.
std::size_t revision_of(const Document& document, const std::vector<Revision>& all, ObjectId id) {
  const std::optional<std::uint64_t> place = store_of(document).place_of(id.number);
  if (!place) return 0;
  return static_cast<std::size_t>(std::count_if(
      all.begin(), all.end(), [&](const Revision& revision) { return revision.size <= *place; }));
}

// A page that was changed after its image was made is not what the image shows.
bool is_as_new_as_page(const Page& page, ObjectId thumbnail) {
  const Document document = page.document();
  const std::vector<Revision> all = document::find_revisions(store_of(page));
  const std::size_t made = revision_of(document, all, thumbnail);
  if (revision_of(document, all, page.id()) > made) return false;
  const Object& contents = page.dict()["Contents"];
  if (contents.is_reference() && revision_of(document, all, contents.as_reference()) > made)
    return false;
  const Object streams = store_of(document).resolve(contents);
  return std::none_of(
      streams.as_array().begin(), streams.as_array().end(), [&](const Object& stream) {
        return stream.is_reference() && revision_of(document, all, stream.as_reference()) > made;
      });
}

bool has_shape(const Page& page, double width, double height) {
  constexpr double kTolerance = 0.04;  // whole pixels change the shape of small images
  return height > 0 && std::abs(width / height * page.height() / page.width() - 1) < kTolerance;
}

Object current_thumbnail(const Page& page, int side) {
  const Object& reference = page.dict()["Thumb"];
  const Object stream = store_of(page.document()).resolve(reference);
  if (!stream.is_stream() || !reference.is_reference() || page.rotation() != 0) return {};
  const file::ObjectStore& store = store_of(page);
  const double width = store.get(stream.as_dict(), "Width").as_number();
  const double height = store.get(stream.as_dict(), "Height").as_number();
  if (std::max(width, height) < side || !has_shape(page, width, height)) return {};
  return is_as_new_as_page(page, reference.as_reference()) ? stream : Object();
}

// Null when the image cannot be read after all.
ImagePtr read_embedded(const Page& page, const Object& stream) {
  if (!stream.is_stream()) return nullptr;
  const file::ObjectStore& store = store_of(page);
  Budget budget(store.limits());
  const auto image =
      images::read_image(*stream.as_stream(), {Dict(), store, budget, store.findings()});
  return image.ok() && (*image)->kind != images::Image::Kind::coverage ? *image : nullptr;
}

Result<Raster> shrunk(const images::Image& image, const PixelSize& size,
                      const RenderOptions& options) {
  LUMVET_TRY(Raster raster, Raster::make(size.width, size.height, options.limits, options.format));
  const Matrix placed{static_cast<double>(size.width),   0, 0,
                      -static_cast<double>(size.height), 0, static_cast<double>(size.height)};
  rendering::ImageSampler sampler(image, placed, true);
  Bytes row(static_cast<std::size_t>(size.width) * 4);
  for (int y = 0; y < size.height; ++y) {
    std::copy_n(sampler.row(0, y, size.width), row.size(), row.data());
    if (options.tone == Tone::night) raster::turn_for_night(row.data(), row.size() / 4);
    if (options.tone == Tone::gray) raster::take_color_out(row.data(), row.size() / 4);
    raster::from_rgba(row.data(), size.width, options.format, options.halftone, 0, y,
                      raster.row(y));
  }
  return raster;
}

}  // namespace

Result<bool> has_current_thumbnail(const Page& page, int side) {
  return attempted([&] { return current_thumbnail(page, side).is_stream(); });
}

Result<Raster> thumbnail(const Page& page, const ThumbnailOptions& options) {
  return attempted([&]() -> Result<Raster> {
    if (options.side < 1)
      return Error(ErrorCode::invalid_argument, "a thumbnail needs at least one pixel each way");
    const PixelSize size = size_for(page, options.side);
    if (options.embedded)
      if (const ImagePtr image = read_embedded(page, current_thumbnail(page, options.side)))
        return shrunk(*image, size, options.render);
    LUMVET_TRY(const Scene scene, rendering::record(page, options.render));
    RenderOptions render_options = options.render;
    render_options.width = size.width;
    return render(scene, render_options);
  });
}

}  // namespace lumvet
