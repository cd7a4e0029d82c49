// SPDX-License-Identifier: Apache-2.0
#include "lumvet/render/render.h"

#include <algorithm>
#include <cmath>
#include <thread>

#include "render/parallel.h"
#include "render/tile_painter.h"

namespace lumvet {
namespace {

using raster::PixelRect;

constexpr int kTileWidth = 256;   // pixels
constexpr int kTileHeight = 128;  // pixels

int thread_count(int asked) {
  if (asked > 0) return asked;
  return std::max(1, static_cast<int>(std::thread::hardware_concurrency()));
}

void copy_tile(const Bytes& pixels, const PixelRect& tile, const PixelBuffer& buffer) {
  const std::size_t row_bytes = static_cast<std::size_t>(tile.width()) * 4;
  for (int y = tile.top; y < tile.bottom; ++y) {
    const std::uint8_t* from = &pixels[static_cast<std::size_t>(y - tile.top) * row_bytes];
    std::uint8_t* to = buffer.data + y * buffer.stride + std::ptrdiff_t{tile.left} * 4;
    std::copy_n(from, row_bytes, to);
    if (buffer.order == PixelOrder::bgra)
      for (std::size_t i = 0; i < row_bytes; i += 4) std::swap(to[i], to[i + 2]);
  }
}

Status draw(const Scene& scene, const PixelBuffer& buffer, const Matrix& to_pixels,
            const RenderOptions& options) {
  const PixelRect area{0, 0, buffer.width, buffer.height};
  const int threads = thread_count(options.threads);
  const rendering::PreparedScene prepared =
      rendering::prepare(scene.data(), to_pixels, area, threads, options.cancel);
  std::vector<PixelRect> tiles;
  for (int top = 0; top < area.bottom; top += kTileHeight)
    for (int left = 0; left < area.right; left += kTileWidth)
      tiles.push_back(PixelRect{left, top, left + kTileWidth, top + kTileHeight}.intersected(area));
  std::vector<rendering::TilePainter> painters;
  for (int i = 0; i < threads; ++i) painters.emplace_back(prepared, options.background);
  rendering::share_out(tiles.size(), threads, [&](int worker, std::size_t i) {
    if (options.cancel.is_cancelled()) return;
    copy_tile(painters[static_cast<std::size_t>(worker)].paint(tiles[i]), tiles[i], buffer);
  });
  if (options.cancel.is_cancelled()) return Error(ErrorCode::cancelled, "drawing was cancelled");
  return Done{};
}

}  // namespace

Result<Raster> render(const Scene& scene, const RenderOptions& options) {
  constexpr double kPointsPerInch = 72;
  constexpr double kMostPixels = 1e7;
  double scale = options.dpi / kPointsPerInch;
  if (options.width) scale = *options.width / scene.width();
  if (!(scale > 0) || !(scene.width() * scale < kMostPixels) ||
      !(scene.height() * scale < kMostPixels))
    return Error(
        ErrorCode::invalid_argument,
        "the resolution asked for gives no picture; 20 to 1200 dots to the inch are usual");
  const int width =
      options.width.value_or(std::max(1, static_cast<int>(std::lround(scene.width() * scale))));
  const int height = std::max(1, static_cast<int>(std::lround(scene.height() * scale)));
  LUMVET_TRY(Raster raster, Raster::make(width, height, options.limits));
  // Whole pixels each way, so that the page ends where the raster does.
  LUMVET_CHECK(draw(scene, raster.buffer(),
                    Matrix::scaling(width / scene.width(), height / scene.height()), options));
  return raster;
}

Result<Raster> render(const Page& page, const RenderOptions& options) {
  LUMVET_TRY(const Scene scene,
             Scene::record(page, {.annotations = options.annotations,
                                  .purpose = options.purpose,
                                  .layers = options.layers,
                                  .cancel = options.cancel}));
  return render(scene, options);
}

Status render_into(const Scene& scene, const PixelBuffer& buffer, const Viewport& viewport,
                   const RenderOptions& options) {
  if (buffer.data == nullptr || buffer.width < 1 || buffer.height < 1 ||
      std::abs(buffer.stride) < std::ptrdiff_t{buffer.width} * 4)
    return Error(ErrorCode::invalid_argument, "the buffer has no room for its pixels");
  if (!(viewport.scale > 0) || !std::isfinite(viewport.x) || !std::isfinite(viewport.y))
    return Error(ErrorCode::invalid_argument, "the page's place on the buffer makes no sense");
  return draw(scene, buffer,
              Matrix::scaling(viewport.scale, viewport.scale)
                  .then(Matrix::translation(viewport.x, viewport.y)),
              options);
}

}  // namespace lumvet
