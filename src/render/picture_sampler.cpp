// SPDX-License-Identifier: Apache-2.0
#include "render/picture_sampler.h"

#include <algorithm>
#include <cmath>
#include <cstdint>

namespace lumvet::rendering {

using images::Picture;

PictureSampler::PictureSampler(const Picture& picture, const Matrix& placed, bool interpolate)
    : colors_(plane_of(picture, placed.inverse())), interpolate_(interpolate) {
  if (picture.mask) mask_ = plane_of(*picture.mask, placed.inverse());
}

PictureSampler::Plane PictureSampler::plane_of(const Picture& picture, const Matrix& from_pixels) {
  const Matrix rows_down{
      static_cast<double>(picture.width),   0, 0,
      -static_cast<double>(picture.height), 0, static_cast<double>(picture.height)};
  const Matrix m = from_pixels.then(rows_down);
  return {&picture, m, std::abs(m.a) + std::abs(m.c), std::abs(m.b) + std::abs(m.d)};
}

void PictureSampler::row(int x, int y, int count, std::uint8_t* out) const {
  sample_row(colors_, x, y, count, out);
  if (mask_.picture != nullptr) return sample_row(mask_, x, y, count, out + 3);
  for (int i = 0; i < count; ++i) out[4 * i + 3] = 255;
}

void PictureSampler::sample_row(const Plane& plane, int x, int y, int count,
                                std::uint8_t* out) const {
  constexpr double kShrunk = 1.01;  // less is no loss: a row in a hundred at most is passed over
  const bool shrunk = plane.box_width > kShrunk || plane.box_height > kShrunk;
  if (!shrunk)
    return interpolate_ ? smooth_row(plane, x, y, count, out)
                        : nearest_row(plane, x, y, count, out);
  for (int i = 0; i < count; ++i, out += 4)
    average(plane, plane.to_samples.apply({x + i + 0.5, y + 0.5}), out);
}

// Places in a picture in 1/65536 of a sample, from one pixel of a row to the next. Each is found from
// the pixel's own place, so that rows may begin anywhere.
class PictureSampler::Steps {
 public:
  Steps(const Plane& plane, int x, int y, double shift)
      : x_(x),
        across_(plane.to_samples.a * kSteps),
        down_(plane.to_samples.b * kSteps),
        row_across_((plane.to_samples.c * (y + 0.5) + plane.to_samples.e - shift) * kSteps),
        row_down_((plane.to_samples.d * (y + 0.5) + plane.to_samples.f - shift) * kSteps),
        right_((std::int64_t{plane.picture->width} << 16) - 1),
        bottom_((std::int64_t{plane.picture->height} << 16) - 1) {}

  std::int64_t across(int i) const {
    return std::clamp(static_cast<std::int64_t>(row_across_ + across_ * (x_ + i + 0.5)),
                      std::int64_t{0}, right_);
  }
  std::int64_t down(int i) const {
    return std::clamp(static_cast<std::int64_t>(row_down_ + down_ * (x_ + i + 0.5)),
                      std::int64_t{0}, bottom_);
  }
  bool stays_in_row() const { return down_ == 0; }

 private:
  static constexpr double kSteps = 65536;
  int x_;
  double across_;
  double down_;
  double row_across_;
  double row_down_;
  std::int64_t right_;
  std::int64_t bottom_;
};

void PictureSampler::nearest_row(const Plane& plane, int x, int y, int count, std::uint8_t* out) {
  const Picture& picture = *plane.picture;
  const Steps steps(plane, x, y, 0);
  const auto width = static_cast<std::size_t>(picture.width);
  const std::size_t one_row = static_cast<std::size_t>(steps.down(0) >> 16) * width;
  const bool is_color = picture.channels == 3;
  for (int i = 0; i < count; ++i, out += 4) {
    const std::size_t row =
        steps.stays_in_row() ? one_row : static_cast<std::size_t>(steps.down(i) >> 16) * width;
    const std::size_t index = row + static_cast<std::size_t>(steps.across(i) >> 16);
    if (is_color) {
      const std::uint8_t* sample = &picture.samples[index * 3];
      out[0] = sample[0];
      out[1] = sample[1];
      out[2] = sample[2];
    } else {
      out[0] = picture.samples[index];
    }
  }
}

namespace {

// The channels of a sample in 16 bits each, so that all are reckoned with at once.
std::uint64_t spread(const std::uint8_t* sample, std::size_t channels) {
  if (channels == 1) return sample[0];
  return sample[0] | std::uint64_t{sample[1]} << 16 | std::uint64_t{sample[2]} << 32;
}

// `part` in 1/256.
std::uint64_t between(std::uint64_t from, std::uint64_t to, unsigned part) {
  constexpr std::uint64_t kHalves = 0x0000'0080'0080'0080;
  constexpr std::uint64_t kBytes = 0x0000'00FF'00FF'00FF;
  return (from * (256 - part) + to * part + kHalves) >> 8 & kBytes;
}

}  // namespace

// A blend of the four nearest samples.
void PictureSampler::smooth_row(const Plane& plane, int x, int y, int count, std::uint8_t* out) {
  const Picture& picture = *plane.picture;
  const Steps steps(plane, x, y, 0.5);
  const auto channels = static_cast<std::size_t>(picture.channels);
  const auto width = static_cast<std::size_t>(picture.width);
  const auto last_column = width - 1;
  const auto last_row = static_cast<std::size_t>(picture.height) - 1;
  for (int i = 0; i < count; ++i, out += 4) {
    const std::int64_t u = steps.across(i);
    const std::int64_t v = steps.down(i);
    const auto x0 = static_cast<std::size_t>(u >> 16);
    const auto y0 = static_cast<std::size_t>(v >> 16);
    const std::size_t x1 = std::min(x0 + 1, last_column);
    const std::size_t y1 = std::min(y0 + 1, last_row);
    const auto right = static_cast<unsigned>(u >> 8 & 0xFF);
    const auto below = static_cast<unsigned>(v >> 8 & 0xFF);
    const std::uint8_t* const corners[] = {&picture.samples[(y0 * width + x0) * channels],
                                           &picture.samples[(y0 * width + x1) * channels],
                                           &picture.samples[(y1 * width + x0) * channels],
                                           &picture.samples[(y1 * width + x1) * channels]};
    const std::uint64_t upper = between(spread(corners[0], channels), spread(corners[1], channels), right);
    const std::uint64_t lower = between(spread(corners[2], channels), spread(corners[3], channels), right);
    const std::uint64_t mixed = between(upper, lower, below);
    for (std::size_t k = 0; k < channels; ++k) out[k] = static_cast<std::uint8_t>(mixed >> (16 * k));
  }
}

// The samples from `first` to `last` that a stretch of the picture touches, the two at its ends
// with the part that it covers, in 1/256.
struct PictureSampler::Stretch {
  int first;
  int last;
  std::uint32_t first_weight;
  std::uint32_t last_weight;  // when last > first
  std::uint32_t weight(int i) const {
    return i == first ? first_weight : i == last ? last_weight : kWhole;
  }
  std::uint32_t sum() const {
    return first == last
               ? first_weight
               : first_weight + last_weight + kWhole * static_cast<std::uint32_t>(last - first - 1);
  }
  static constexpr std::uint32_t kWhole = 256;

  static Stretch around(double center, double size, int most) {
    const double end = static_cast<double>(most);
    const auto low =
        static_cast<std::int64_t>(std::clamp(center - size / 2, 0.0, end) * kWhole + 0.5);
    const auto high =
        static_cast<std::int64_t>(std::clamp(center + size / 2, 0.0, end) * kWhole + 0.5);
    if (low >= high) {  // beside the picture: its border counts
      const int border = static_cast<int>(std::clamp(center, 0.0, end - 1));
      return {border, border, kWhole, kWhole};
    }
    const auto first = static_cast<int>(low / kWhole);
    const auto last = static_cast<int>((high - 1) / kWhole);
    if (first == last) return {first, last, static_cast<std::uint32_t>(high - low), 0};
    return {first, last, static_cast<std::uint32_t>((first + 1) * std::int64_t{kWhole} - low),
            static_cast<std::uint32_t>(high - last * std::int64_t{kWhole})};
  }
};

// The box around the middle, each sample weighted by how much of it lies inside.
void PictureSampler::average(const Plane& plane, Point middle, std::uint8_t* out) {
  const Picture& picture = *plane.picture;
  const Stretch across = Stretch::around(middle.x, std::max(plane.box_width, 1.0), picture.width);
  const Stretch down = Stretch::around(middle.y, std::max(plane.box_height, 1.0), picture.height);
  if (picture.channels == 3)
    average_box<3>(picture, across, down, out);
  else
    average_box<1>(picture, across, down, out);
}

template <int kChannels>
void PictureSampler::average_box(const Picture& picture, const Stretch& across, const Stretch& down,
                                 std::uint8_t* out) {
  std::uint64_t sums[kChannels] = {};
  for (int row = down.first; row <= down.last; ++row) {
    const std::uint8_t* sample =
        &picture.samples[(static_cast<std::size_t>(row) * static_cast<std::size_t>(picture.width) +
                          static_cast<std::size_t>(across.first)) *
                         kChannels];
    std::uint64_t row_sums[kChannels] = {};
    for (int k = 0; k < kChannels; ++k)
      row_sums[k] = std::uint64_t{across.first_weight} * sample[k];
    sample += kChannels;
    for (int column = across.first + 1; column < across.last; ++column, sample += kChannels)
      for (int k = 0; k < kChannels; ++k) row_sums[k] += std::uint64_t{Stretch::kWhole} * sample[k];
    if (across.last > across.first)
      for (int k = 0; k < kChannels; ++k)
        row_sums[k] += std::uint64_t{across.last_weight} * sample[k];
    for (int k = 0; k < kChannels; ++k) sums[k] += down.weight(row) * row_sums[k];
  }
  const std::uint64_t area = std::uint64_t{across.sum()} * down.sum();
  for (int k = 0; k < kChannels; ++k)
    out[k] = static_cast<std::uint8_t>((sums[k] + area / 2) / area);
}

}  // namespace lumvet::rendering
