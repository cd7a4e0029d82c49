// SPDX-License-Identifier: Apache-2.0
#include "lumvet/raster/raster.h"

#include <string>

namespace lumvet {

Result<Raster> Raster::make(int width, int height, const Limits& limits) {
  if (width < 1 || height < 1)
    return Error(ErrorCode::invalid_argument, "a raster needs at least one pixel each way");
  const std::uint64_t pixels =
      static_cast<std::uint64_t>(width) * static_cast<std::uint64_t>(height);
  if (pixels > limits.pixels)
    return Error(ErrorCode::limit,
                 "a raster of " + std::to_string(width) + " × " + std::to_string(height) +
                     " pixels is beyond Limits::pixels; ask for fewer dots to the inch");
  Raster raster;
  raster.width_ = width;
  raster.height_ = height;
  raster.bytes_.resize(pixels * 4);
  return raster;
}

Color Raster::at(int x, int y) const {
  if (x < 0 || y < 0 || x >= width_ || y >= height_) return kTransparent;
  const std::uint8_t* pixel = row(y) + x * 4;
  const unsigned alpha = pixel[3];
  if (alpha == 0) return kTransparent;
  const auto plain = [alpha](unsigned channel) {
    return static_cast<std::uint8_t>((channel * 255 + alpha / 2) / alpha);
  };
  return {plain(pixel[0]), plain(pixel[1]), plain(pixel[2]), pixel[3]};
}

Status Raster::write_png(const std::filesystem::path& path, IfExists if_exists, double dpi) const {
  LUMVET_TRY(AtomicFile file, AtomicFile::create(path, if_exists));
  LUMVET_TRY(const Bytes bytes, png(dpi));
  LUMVET_CHECK(file.write(bytes));
  return file.commit();
}

}  // namespace lumvet
