// SPDX-License-Identifier: Apache-2.0
#include "lumvet/raster/raster.h"

#include <algorithm>
#include <cstdlib>
#include <new>
#include <string>
#include <utility>

#include "lumvet/raster/image_file.h"
#include "raster/pixel_formats.h"

namespace lumvet {

PixelMemory::PixelMemory(std::size_t size, Start start) : size_(size) {
  if (size == 0) return;
  data_ =
      static_cast<std::uint8_t*>(start == Start::zeros ? std::calloc(size, 1) : std::malloc(size));
  if (data_ == nullptr) throw std::bad_alloc();
}

PixelMemory::PixelMemory(const PixelMemory& other)
    : PixelMemory(other.size_, Start::uninitialized) {
  std::copy_n(other.data_, size_, data_);
}

PixelMemory::PixelMemory(PixelMemory&& other) noexcept
    : data_(std::exchange(other.data_, nullptr)), size_(std::exchange(other.size_, 0)) {}

PixelMemory& PixelMemory::operator=(PixelMemory other) noexcept {
  std::swap(data_, other.data_);
  std::swap(size_, other.size_);
  return *this;
}

PixelMemory::~PixelMemory() { std::free(data_); }

bool PixelMemory::operator==(const PixelMemory& other) const {
  return size_ == other.size_ && std::equal(data_, data_ + size_, other.data_);
}

Result<Raster> Raster::make(int width, int height, const Limits& limits, PixelFormat format,
                            PixelMemory::Start start) {
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
  raster.format_ = format;
  raster.bytes_ = PixelMemory(raster.stride() * static_cast<std::size_t>(height), start);
  return raster;
}

PixelColor Raster::at(int x, int y) const {
  if (x < 0 || y < 0 || x >= width_ || y >= height_) return kTransparent;
  const int within = format_ == PixelFormat::bilevel ? x % 8 : 0;
  std::uint8_t straight[8 * 4];
  raster::to_straight(row(y) + bytes_per_row(format_, x - within), within + 1, format_, straight);
  const std::uint8_t* pixel = straight + 4 * within;
  if (pixel[3] == 0) return kTransparent;
  return {pixel[0], pixel[1], pixel[2], pixel[3]};
}

Result<Bytes> Raster::png(double dpi) const { return encode_image(*this, {.dpi = dpi}); }

Status Raster::write_png(const std::filesystem::path& path, IfExists if_exists, double dpi) const {
  LUMVET_TRY(AtomicFile file, AtomicFile::create(path, if_exists));
  LUMVET_TRY(const Bytes bytes, png(dpi));
  LUMVET_RETURN_IF_ERROR(file.write(bytes));
  return file.commit();
}

}  // namespace lumvet
