// SPDX-License-Identifier: Apache-2.0
#include "lumvet/render/render.h"

#include <algorithm>
#include <cmath>

#include "base/allowance.h"
#include "base/parallel.h"
#include "raster/pixel_formats.h"
#include "render/recording.h"
#include "render/tile_painter.h"

namespace lumvet {
namespace {

using raster::PixelRect;

constexpr int kTileWidth = 512;   // pixels
constexpr int kTileHeight = 128;  // pixels

// One page at one scale, ready to be drawn part by part.
class Drawing {
 public:
  Drawing(const Scene& scene, const Matrix& to_pixels, const PixelRect& area,
          const RenderOptions& options)
      : options_(options),
        allowance_(options.limits, options.cancel, portions_of(area)),
        threads_(thread_count(options.threads)),
        prepared_(rendering::prepare(data_of(scene), to_pixels, area, threads_,
                                     std::clamp(options.thinnest_line, 0.0, 1.0))) {
    const Point corner = to_pixels.apply({0, 0});
    corner_x_ = static_cast<int>(std::lround(std::fmod(corner.x, 1 << 20)));
    corner_y_ = static_cast<int>(std::lround(std::fmod(corner.y, 1 << 20)));
    if (options.text_gamma != 1) gamma_.emplace(options.text_gamma);
    for (int i = 0; i < threads_; ++i)
      painters_.emplace_back(prepared_, options.background, gamma_ ? &*gamma_ : nullptr);
  }

  // The part of the page that begins `top` pixels below the area's top, as high as the buffer.
  Status draw(const PixelBuffer& buffer, int top) {
    std::vector<PixelRect> tiles;
    const PixelRect part{0, top, buffer.width, top + buffer.height};
    for (int y = part.top; y < part.bottom; y += kTileHeight)
      for (int x = part.left; x < part.right; x += kTileWidth)
        tiles.push_back(PixelRect{x, y, x + kTileWidth, y + kTileHeight}.intersected(part));
    // One thread decodes images ahead of those that draw them; alone, it decodes what it draws.
    const std::size_t ahead = threads_ > 1 ? prepared_.arriving.size() : 0;
    share_out(ahead + tiles.size(), threads_, [&](int worker, std::size_t i) {
      if (!Allowance::goes_on_now()) return;
      if (i < ahead) return prepared_.arriving[i]->arriving->run_ahead();
      draw_tile(painters_[static_cast<std::size_t>(worker)], tiles[i - ahead], buffer, top);
    });
    Allowance::goes_on_now();
    if (auto stopped = Attempt::stopped_by()) return *std::move(stopped);
    return Done{};
  }

 private:
  // Straight into the buffer if its pixels are of that kind, otherwise by way of others.
  void draw_tile(rendering::TilePainter& painter, const PixelRect& tile, const PixelBuffer& buffer,
                 int top) const {
    const bool straight = buffer.format == PixelFormat::rgba || buffer.format == PixelFormat::bgra;
    const std::ptrdiff_t row_bytes = std::ptrdiff_t{tile.width()} * 4;
    const auto indent = static_cast<std::ptrdiff_t>(bytes_per_row(buffer.format, tile.left));
    std::uint8_t* out = buffer.data + (tile.top - top) * buffer.stride + indent;
    Bytes apart;
    if (!straight) apart.resize(static_cast<std::size_t>(row_bytes * tile.height()));
    std::uint8_t* pixels = straight ? out : apart.data();
    const std::ptrdiff_t stride = straight ? buffer.stride : row_bytes;
    painter.paint(tile, pixels, stride);
    for (int y = tile.top; y < tile.bottom; ++y, pixels += stride, out += buffer.stride) {
      const auto count = static_cast<std::size_t>(tile.width());
      if (options_.tone == Tone::night) raster::turn_for_night(pixels, count);
      if (options_.tone == Tone::gray) raster::take_color_out(pixels, count);
      if (buffer.format == PixelFormat::bgra)
        raster::swap_red_and_blue(pixels, count);
      else if (!straight)
        raster::from_rgba(pixels, tile.width(), buffer.format, options_.halftone,
                          tile.left - corner_x_, y - corner_y_, out);
    }
  }

  // By which the time for drawing is measured.
  static std::uint64_t portions_of(const PixelRect& area) {
    constexpr std::int64_t kPortion = 1'000'000;  // pixels
    return static_cast<std::uint64_t>(std::int64_t{area.width()} * area.height() / kPortion + 1);
  }

  const RenderOptions& options_;
  const Allowance allowance_;
  int threads_;
  // Of the page, in pixels; dots are laid from there, so that parts of a page join.
  int corner_x_;
  int corner_y_;
  rendering::PreparedScene prepared_;
  std::optional<raster::ScreenGamma> gamma_;
  std::vector<rendering::TilePainter> painters_;
};

// Whole pixels each way, so that the page ends where the raster does.
Matrix filling(const PageArea& area, const PixelSize& size) {
  return Matrix::translation(-area.left, -area.top)
      .then(Matrix::scaling(size.width / area.width, size.height / area.height));
}

PageArea area_of(const Scene& scene, const RenderOptions& options) {
  return options.area.value_or(PageArea{0, 0, scene.width(), scene.height()});
}

}  // namespace

Result<PixelSize> pixel_size(const Scene& scene, const RenderOptions& options) {
  constexpr double kPointsPerInch = 72;
  constexpr double kMostPixels = 1e7;  // a side
  const PageArea area = area_of(scene, options);
  if (!(area.width > 0 && area.height > 0) || !std::isfinite(area.left) || !std::isfinite(area.top))
    return Error(ErrorCode::invalid_argument, "the part of the page asked for is empty");
  const double scale = options.width ? *options.width / area.width : options.dpi / kPointsPerInch;
  if (!(scale > 0) || !(area.width * scale < kMostPixels) || !(area.height * scale < kMostPixels))
    return Error(ErrorCode::invalid_argument,
                 "the resolution asked for gives no image; 20 to 1200 dots to the inch are usual");
  return PixelSize{
      options.width.value_or(std::max(1, static_cast<int>(std::lround(area.width * scale)))),
      std::max(1, static_cast<int>(std::lround(area.height * scale)))};
}

Result<Raster> render(const Scene& scene, const RenderOptions& options) {
  return attempted([&]() -> Result<Raster> {
    LUMVET_TRY(const PixelSize size, pixel_size(scene, options));
    LUMVET_TRY(Raster raster, Raster::make(size.width, size.height, options.limits, options.format,
                                           PixelMemory::Start::uninitialized));
    Drawing drawing(scene, filling(area_of(scene, options), size), {0, 0, size.width, size.height},
                    options);
    LUMVET_RETURN_IF_ERROR(drawing.draw(raster.buffer(), 0));
    return raster;
  });
}

Result<Raster> render(const Page& page, const RenderOptions& options) {
  return attempted([&]() -> Result<Raster> {
    LUMVET_TRY(const Scene scene, rendering::record(page, options));
    return render(scene, options);
  });
}

Status render_rows(const Scene& scene, const RenderOptions& options, const TakeRows& take) {
  return attempted([&]() -> Status {
    LUMVET_TRY(const PixelSize size, pixel_size(scene, options));
    constexpr std::size_t kBand = 16 << 20;  // bytes
    const std::size_t row_bytes = bytes_per_row(options.format, size.width);
    const int rows = std::max(1, static_cast<int>(kBand / row_bytes) / kTileHeight) * kTileHeight;
    Bytes band(row_bytes * static_cast<std::size_t>(std::min(rows, size.height)));
    Drawing drawing(scene, filling(area_of(scene, options), size), {0, 0, size.width, size.height},
                    options);
    for (int top = 0; top < size.height; top += rows) {
      const PixelBuffer part{band.data(), size.width, std::min(rows, size.height - top),
                             static_cast<std::ptrdiff_t>(row_bytes), options.format};
      LUMVET_RETURN_IF_ERROR(drawing.draw(part, top));
      LUMVET_RETURN_IF_ERROR(called_back(take, part, top));
      if (options.progress)
        called_back(options.progress, static_cast<std::uint64_t>(top + part.height),
                    static_cast<std::uint64_t>(size.height));
    }
    return Done{};
  });
}

Status render_to(ImageWriter& file, const Scene& scene, const RenderOptions& options) {
  RenderOptions chosen = options;
  const bool has_alpha = options.format == PixelFormat::rgba || options.format == PixelFormat::bgra;
  if (has_alpha && options.background.alpha == 255) chosen.format = PixelFormat::rgb;
  LUMVET_TRY(const PixelSize size, pixel_size(scene, options));
  LUMVET_RETURN_IF_ERROR(file.begin(size.width, size.height, chosen.format));
  return render_rows(scene, chosen, [&file](const PixelBuffer& rows, int) {
    return file.write_rows(rows.data, rows.height, rows.stride);
  });
}

Status preview_into(const Scene& scene, const PixelBuffer& buffer, const Viewport& viewport,
                    const RenderOptions& options) {
  constexpr int kCoarse = 4;
  if (buffer.format != PixelFormat::rgba && buffer.format != PixelFormat::bgra)
    return Error(ErrorCode::invalid_argument, "a preview is for buffers with alpha");
  if (buffer.width < 1 || buffer.height < 1)
    return Error(ErrorCode::invalid_argument, "the buffer has no room for its pixels");
  LUMVET_TRY(Raster small, Raster::make((buffer.width + kCoarse - 1) / kCoarse,
                                        (buffer.height + kCoarse - 1) / kCoarse, options.limits,
                                        buffer.format, PixelMemory::Start::uninitialized));
  LUMVET_RETURN_IF_ERROR(
      render_into(scene, small.buffer(),
                  {viewport.scale / kCoarse, viewport.x / kCoarse, viewport.y / kCoarse}, options));
  for (int y = 0; y < buffer.height; ++y) {
    std::uint8_t* out = buffer.data + y * buffer.stride;
    const std::uint8_t* row = small.row(y / kCoarse);
    for (int x = 0; x < buffer.width; ++x) std::copy_n(row + 4 * (x / kCoarse), 4, out + 4 * x);
  }
  return Done{};
}

Status render_into(const Scene& scene, const PixelBuffer& buffer, const Viewport& viewport,
                   const RenderOptions& options) {
  return attempted([&]() -> Status {
    if (buffer.data == nullptr || buffer.width < 1 || buffer.height < 1 ||
        static_cast<std::size_t>(std::abs(buffer.stride)) <
            bytes_per_row(buffer.format, buffer.width))
      return Error(ErrorCode::invalid_argument, "the buffer has no room for its pixels");
    if (!(viewport.scale > 0) || !std::isfinite(viewport.x) || !std::isfinite(viewport.y))
      return Error(ErrorCode::invalid_argument, "the page's place on the buffer makes no sense");
    Drawing drawing(scene,
                    Matrix::scaling(viewport.scale, viewport.scale)
                        .then(Matrix::translation(viewport.x, viewport.y)),
                    {0, 0, buffer.width, buffer.height}, options);
    return drawing.draw(buffer, 0);
  });
}

}  // namespace lumvet
