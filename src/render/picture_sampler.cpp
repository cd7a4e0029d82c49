// SPDX-License-Identifier: Apache-2.0
#include "render/picture_sampler.h"

#include <algorithm>
#include <cmath>

namespace lumvet::rendering {

using images::Picture;

PictureSampler::PictureSampler(const Picture& picture, const Matrix& placed, bool interpolate)
    : colors_(plane_of(picture, placed.inverse())), interpolate_(interpolate) {
  if (picture.mask) mask_ = plane_of(*picture.mask, placed.inverse());
}

PictureSampler::Plane PictureSampler::plane_of(const Picture& picture, const Matrix& from_pixels) {
  const Matrix rows_down{static_cast<double>(picture.width), 0, 0, -static_cast<double>(picture.height),
                         0, static_cast<double>(picture.height)};
  const Matrix m = from_pixels.then(rows_down);
  return {&picture, m, std::abs(m.a) + std::abs(m.c), std::abs(m.b) + std::abs(m.d)};
}

std::array<std::uint8_t, 4> PictureSampler::at(int x, int y) const {
  std::array<std::uint8_t, 4> out{0, 0, 0, 255};
  sample(colors_, x, y, out.data());
  if (mask_.picture != nullptr) sample(mask_, x, y, &out[3]);
  return out;
}

void PictureSampler::sample(const Plane& plane, int x, int y, std::uint8_t* out) const {
  const Point middle = plane.to_samples.apply({x + 0.5, y + 0.5});
  constexpr double kShrunk = 1.0 + 1e-6;
  if (plane.box_width > kShrunk || plane.box_height > kShrunk) return average(plane, middle, out);
  if (interpolate_) return blend_nearest(plane, middle, out);
  const Picture& picture = *plane.picture;
  const auto column = static_cast<int>(std::clamp(middle.x, 0.0, picture.width - 1.0));
  const auto row = static_cast<int>(std::clamp(middle.y, 0.0, picture.height - 1.0));
  const std::size_t index = static_cast<std::size_t>(row) * static_cast<std::size_t>(picture.width) +
                            static_cast<std::size_t>(column);
  const auto channels = static_cast<std::size_t>(picture.channels);
  std::copy_n(&picture.samples[index * channels], channels, out);
}

// The box around the middle, each sample weighted by how much of it lies inside.
void PictureSampler::average(const Plane& plane, Point middle, std::uint8_t* out) {
  const Picture& picture = *plane.picture;
  const auto span = [](double center, double size, int most) {
    double low = std::clamp(center - size / 2, 0.0, static_cast<double>(most));
    double high = std::clamp(center + size / 2, 0.0, static_cast<double>(most));
    if (high - low < 1e-9) {  // beside the picture: its border counts
      low = std::clamp(center, 0.0, most - 1.0);
      low = std::floor(low);
      high = low + 1;
    }
    return std::pair(low, high);
  };
  const auto [left, right] = span(middle.x, std::max(plane.box_width, 1.0), picture.width);
  const auto [top, bottom] = span(middle.y, std::max(plane.box_height, 1.0), picture.height);
  const int channels = picture.channels;
  double sums[3] = {};
  const int last_row = std::min(static_cast<int>(std::ceil(bottom)), picture.height);
  const int first_column = static_cast<int>(left);
  const int last_column = std::min(static_cast<int>(std::ceil(right)), picture.width);
  for (int row = static_cast<int>(top); row < last_row; ++row) {
    const double height = std::min(bottom, row + 1.0) - std::max(top, static_cast<double>(row));
    const std::uint8_t* sample =
        &picture.samples[(static_cast<std::size_t>(row) * static_cast<std::size_t>(picture.width) +
                          static_cast<std::size_t>(first_column)) *
                         static_cast<std::size_t>(channels)];
    for (int column = first_column; column < last_column; ++column, sample += channels) {
      const double weight =
          height * (std::min(right, column + 1.0) - std::max(left, static_cast<double>(column)));
      for (int k = 0; k < channels; ++k) sums[k] += weight * sample[k];
    }
  }
  const double area = (right - left) * (bottom - top);
  for (int k = 0; k < channels; ++k)
    out[k] = static_cast<std::uint8_t>(std::clamp(sums[k] / area + 0.5, 0.0, 255.0));
}

void PictureSampler::blend_nearest(const Plane& plane, Point middle, std::uint8_t* out) {
  const Picture& picture = *plane.picture;
  const double x = std::clamp(middle.x - 0.5, 0.0, picture.width - 1.0);
  const double y = std::clamp(middle.y - 0.5, 0.0, picture.height - 1.0);
  const int x0 = static_cast<int>(x);
  const int y0 = static_cast<int>(y);
  const int x1 = std::min(x0 + 1, picture.width - 1);
  const int y1 = std::min(y0 + 1, picture.height - 1);
  const auto sample = [&](int column, int row, int k) {
    return static_cast<double>(
        picture.samples[(static_cast<std::size_t>(row) * static_cast<std::size_t>(picture.width) +
                         static_cast<std::size_t>(column)) *
                            static_cast<std::size_t>(picture.channels) +
                        static_cast<std::size_t>(k)]);
  };
  for (int k = 0; k < picture.channels; ++k) {
    const double upper = sample(x0, y0, k) + (x - x0) * (sample(x1, y0, k) - sample(x0, y0, k));
    const double lower = sample(x0, y1, k) + (x - x0) * (sample(x1, y1, k) - sample(x0, y1, k));
    out[k] = static_cast<std::uint8_t>(upper + (y - y0) * (lower - upper) + 0.5);
  }
}

}  // namespace lumvet::rendering
