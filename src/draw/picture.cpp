// SPDX-License-Identifier: Apache-2.0
#include "lumvet/draw/picture.h"

#include "draw/picture_data.h"
#include "io/whole_file.h"

namespace lumvet {

template <>
struct Inside<Picture> {
  static Picture of(draw::ImageFrame frame) {
    return Picture(std::make_shared<const draw::PictureData>(draw::PictureData{std::move(frame)}));
  }
  static std::shared_ptr<const draw::PictureData> data(const Picture& picture) {
    return picture.data_;
  }
};

namespace draw {

std::shared_ptr<const PictureData> shared_data_of(const Picture& picture) {
  return Inside<Picture>::data(picture);
}

}  // namespace draw

namespace {

Result<std::vector<draw::ImageFrame>> frames_of(const std::filesystem::path& path,
                                                const Limits& limits) {
  LUMVET_TRY(const Bytes bytes, whole_file(path));
  auto frames = draw::read_image_file(bytes, limits);
  if (!frames.ok()) return std::move(frames).error().about(path.string());
  return frames;
}

// Three bytes a pixel, and the fourth ones by themselves.
void part_alpha(const Bytes& rows, Bytes& colors, Bytes& alphas) {
  colors.reserve(rows.size() / 4 * 3);
  alphas.reserve(rows.size() / 4);
  for (std::size_t i = 0; i + 4 <= rows.size(); i += 4) {
    colors.insert(colors.end(), rows.begin() + static_cast<std::ptrdiff_t>(i),
                  rows.begin() + static_cast<std::ptrdiff_t>(i) + 3);
    alphas.push_back(rows[i + 3]);
  }
}

}  // namespace

Result<Picture> Picture::load(const std::filesystem::path& path, const Limits& limits) {
  LUMVET_TRY(auto frames, frames_of(path, limits));
  return Inside<Picture>::of(std::move(frames.front()));
}

Result<std::vector<Picture>> Picture::load_all(const std::filesystem::path& path,
                                               const Limits& limits) {
  LUMVET_TRY(auto frames, frames_of(path, limits));
  std::vector<Picture> pictures;
  pictures.reserve(frames.size());
  for (draw::ImageFrame& frame : frames) pictures.push_back(Inside<Picture>::of(std::move(frame)));
  return pictures;
}

Result<Picture> Picture::of(const Bytes& file, const Limits& limits) {
  LUMVET_TRY(auto frames, draw::read_image_file(file, limits));
  return Inside<Picture>::of(std::move(frames.front()));
}

Result<Picture> Picture::of_rows(const Bytes& rows, int width, int height, Pixels pixels) {
  const auto across = static_cast<std::size_t>(std::max(width, 0));
  std::size_t row = across;
  switch (pixels) {
    case Pixels::gray: break;
    case Pixels::rgb: row = across * 3; break;
    case Pixels::rgba: row = across * 4; break;
    case Pixels::black_white: row = (across + 7) / 8; break;
    case Pixels::gray_16: row = across * 2; break;
    case Pixels::rgb_16: row = across * 6; break;
  }
  if (width < 1 || height < 1 || rows.size() != row * static_cast<std::size_t>(height))
    return Error(ErrorCode::invalid_argument, "rows of " + std::to_string(row) +
                                                  " bytes are needed, as many as the picture is "
                                                  "high, without gaps");
  draw::ImageFrame frame{.width = width, .height = height};
  switch (pixels) {
    case Pixels::gray:
      frame.image = draw::packed_image(rows, width, height, 1, 8, Object::name("DeviceGray"));
      break;
    case Pixels::rgb:
      frame.image = draw::packed_image(rows, width, height, 3, 8, Object::name("DeviceRGB"));
      break;
    case Pixels::gray_16:
      frame.image = draw::packed_image(rows, width, height, 1, 16, Object::name("DeviceGray"));
      break;
    case Pixels::rgb_16:
      frame.image = draw::packed_image(rows, width, height, 3, 16, Object::name("DeviceRGB"));
      break;
    case Pixels::rgba: {
      Bytes opaque;
      Bytes alphas;
      part_alpha(rows, opaque, alphas);
      frame.image = draw::packed_image(opaque, width, height, 3, 8, Object::name("DeviceRGB"));
      frame.mask = draw::packed_mask(alphas, width, height);
      break;
    }
    case Pixels::black_white: {
      Bytes lights = rows;  // documents have 0 for black
      for (std::uint8_t& byte : lights) byte = static_cast<std::uint8_t>(~byte);
      frame.image = draw::packed_image(lights, width, height, 1, 1, Object::name("DeviceGray"));
      break;
    }
  }
  return Inside<Picture>::of(std::move(frame));
}

int Picture::width() const {
  return data_->frame.turn % 180 == 0 ? data_->frame.width : data_->frame.height;
}
int Picture::height() const {
  return data_->frame.turn % 180 == 0 ? data_->frame.height : data_->frame.width;
}

namespace {

double points(int pixels, double stated, double assumed) {
  constexpr double kPointsPerInch = 72;
  return pixels * kPointsPerInch / (stated > 0 ? stated : assumed);
}

}  // namespace

double Picture::wide(double dots_per_inch) const {
  const draw::ImageFrame& frame = data_->frame;
  return points(width(), frame.turn % 180 == 0 ? frame.dots_across : frame.dots_down,
                dots_per_inch);
}
double Picture::high(double dots_per_inch) const {
  const draw::ImageFrame& frame = data_->frame;
  return points(height(), frame.turn % 180 == 0 ? frame.dots_down : frame.dots_across,
                dots_per_inch);
}

}  // namespace lumvet
