// SPDX-License-Identifier: Apache-2.0
#include "render/picture_sampler.h"

#include <algorithm>
#include <cmath>
#include <cstdint>

#include "raster/blend.h"

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
  // So many samples of a column can be added up in 32 bits.
  constexpr double kMostRows = 1 << 15;
  if (plane.to_samples.b == 0 && plane.to_samples.c == 0 && plane.box_height < kMostRows)
    return plane.picture->channels == 3 ? average_row<3>(plane, x, y, count, out)
                                        : average_row<1>(plane, x, y, count, out);
  for (int i = 0; i < count; ++i, out += 4)
    average(plane, plane.to_samples.apply({x + i + 0.5, y + 0.5}), out);
}

// Places in a picture in 2^-32 of a sample, from one pixel of a row to the next. Whole numbers are
// multiplied, so that it does not matter where a row begins.
class PictureSampler::Steps {
 public:
  Steps(const Plane& plane, int x, int y, double shift)
      : across_(plane.to_samples.a, plane.to_samples.c * (y + 0.5) + plane.to_samples.e - shift, x,
                plane.picture->width),
        down_(plane.to_samples.b, plane.to_samples.d * (y + 0.5) + plane.to_samples.f - shift, x,
              plane.picture->height) {}

  std::int64_t across(int i) const { return across_.at(i); }
  std::int64_t down(int i) const { return down_.at(i); }
  bool stays_in_row() const { return down_.step == 0; }

 private:
  struct Axis {
    Axis(double per_pixel, double at_zero, int x, int samples)
        : step(steps(std::clamp(per_pixel, -kMostStep, kMostStep))),
          start(steps(at_zero) + step / 2 + step * x),
          last((std::int64_t{samples} << 32) - 1) {}

    static constexpr double kMostStep =
        2;  // samples; where they are further apart they are averaged

    std::int64_t at(int i) const { return std::clamp(start + step * i, std::int64_t{0}, last); }

    // What lies further away than any picture is wide stays far enough away.
    static std::int64_t steps(double value) {
      constexpr double kSteps = 4294967296.0;
      constexpr double kFarthest = 1 << 28;
      return static_cast<std::int64_t>(
          std::floor(std::clamp(value, -kFarthest, kFarthest) * kSteps + 0.5));
    }

    std::int64_t step;
    std::int64_t start;
    std::int64_t last;
  };
  Axis across_;
  Axis down_;
};

void PictureSampler::nearest_row(const Plane& plane, int x, int y, int count, std::uint8_t* out) {
  const Picture& picture = *plane.picture;
  // Middles of pixels that lie right between two samples belong to the earlier, whichever way the
  // matrix was rounded.
  constexpr double kLittle = 1.0 / 65536;
  const Steps steps(plane, x, y, kLittle);
  const auto width = static_cast<std::size_t>(picture.width);
  const std::size_t one_row = static_cast<std::size_t>(steps.down(0) >> 32) * width;
  const bool is_color = picture.channels == 3;
  for (int i = 0; i < count; ++i, out += 4) {
    const std::size_t row =
        steps.stays_in_row() ? one_row : static_cast<std::size_t>(steps.down(i) >> 32) * width;
    const std::size_t index = row + static_cast<std::size_t>(steps.across(i) >> 32);
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

// A blend of the four nearest samples.
void PictureSampler::smooth_row(const Plane& plane, int x, int y, int count, std::uint8_t* out) {
  const Picture& picture = *plane.picture;
  const Steps steps(plane, x, y, 0.5);
  const auto channels = static_cast<std::size_t>(picture.channels);
  const auto width = static_cast<std::size_t>(picture.width);
  const auto last_column = width - 1;
  const auto last_row = static_cast<std::size_t>(picture.height) - 1;
  if (steps.stays_in_row() && count > 0) {
    const std::int64_t v = steps.down(0);
    const auto y0 = static_cast<std::size_t>(v >> 32);
    const auto first =
        static_cast<std::size_t>(std::min(steps.across(0), steps.across(count - 1)) >> 32);
    const auto last = std::min(
        static_cast<std::size_t>(std::max(steps.across(0), steps.across(count - 1)) >> 32) + 1,
        last_column);
    // The two rows around become one before it is gone along.
    std::vector<std::uint64_t> row(last - first + 2);
    const std::uint8_t* upper = &picture.samples[(y0 * width + first) * channels];
    const std::uint8_t* lower =
        &picture.samples[(std::min(y0 + 1, last_row) * width + first) * channels];
    for (std::size_t i = 0; i <= last - first; ++i)
      row[i] = raster::between(raster::spread(upper + i * channels, picture.channels),
                               raster::spread(lower + i * channels, picture.channels),
                               static_cast<unsigned>(v >> 24 & 0xFF));
    row[last - first + 1] = row[last - first];
    for (int i = 0; i < count; ++i, out += 4) {
      const std::int64_t u = steps.across(i);
      const std::size_t at = static_cast<std::size_t>(u >> 32) - first;
      const std::uint64_t mixed =
          raster::between(row[at], row[at + 1], static_cast<unsigned>(u >> 24 & 0xFF));
      out[0] = static_cast<std::uint8_t>(mixed);
      if (channels == 1) continue;
      out[1] = static_cast<std::uint8_t>(mixed >> 16);
      out[2] = static_cast<std::uint8_t>(mixed >> 32);
    }
    return;
  }
  for (int i = 0; i < count; ++i, out += 4) {
    const std::int64_t u = steps.across(i);
    const std::int64_t v = steps.down(i);
    const auto x0 = static_cast<std::size_t>(u >> 32);
    const auto y0 = static_cast<std::size_t>(v >> 32);
    const std::size_t x1 = std::min(x0 + 1, last_column);
    const std::size_t y1 = std::min(y0 + 1, last_row);
    const auto right = static_cast<unsigned>(u >> 24 & 0xFF);
    const auto below = static_cast<unsigned>(v >> 24 & 0xFF);
    const std::uint8_t* const corners[] = {&picture.samples[(y0 * width + x0) * channels],
                                           &picture.samples[(y0 * width + x1) * channels],
                                           &picture.samples[(y1 * width + x0) * channels],
                                           &picture.samples[(y1 * width + x1) * channels]};
    const std::uint64_t upper =
        raster::between(raster::spread(corners[0], picture.channels),
                        raster::spread(corners[1], picture.channels), right);
    const std::uint64_t lower =
        raster::between(raster::spread(corners[2], picture.channels),
                        raster::spread(corners[3], picture.channels), right);
    const std::uint64_t mixed = raster::between(upper, lower, below);
    for (std::size_t k = 0; k < channels; ++k)
      out[k] = static_cast<std::uint8_t>(mixed >> (16 * k));
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

// Of pictures that stand upright: all samples of a pixel's height are added up first, column by
// column, and then those of its width.
template <int kChannels>
void PictureSampler::average_row(const Plane& plane, int x, int y, int count, std::uint8_t* out) {
  if (count <= 0) return;
  const Picture& picture = *plane.picture;
  const double box_width = std::max(plane.box_width, 1.0);
  const auto across_at = [&](int i) {
    return Stretch::around(plane.to_samples.a * (x + i + 0.5) + plane.to_samples.e, box_width,
                           picture.width);
  };
  const Stretch down = Stretch::around(plane.to_samples.d * (y + 0.5) + plane.to_samples.f,
                                       std::max(plane.box_height, 1.0), picture.height);
  const Stretch one_end = across_at(0);
  const Stretch other_end = across_at(count - 1);
  const int first = std::min(one_end.first, other_end.first);
  const int last = std::max(one_end.last, other_end.last);
  const auto columns = static_cast<std::size_t>(last - first + 1);
  std::vector<std::uint32_t> sums(columns * kChannels);
  for (int row = down.first; row <= down.last; ++row) {
    const std::uint32_t weight = down.weight(row);
    const std::uint8_t* samples =
        &picture.samples[(static_cast<std::size_t>(row) * static_cast<std::size_t>(picture.width) +
                          static_cast<std::size_t>(first)) *
                         kChannels];
    for (std::size_t i = 0; i < sums.size(); ++i) sums[i] += weight * samples[i];
  }
  for (int i = 0; i < count; ++i, out += 4) {
    const Stretch across = across_at(i);
    const std::uint32_t* sum = &sums[static_cast<std::size_t>(across.first - first) * kChannels];
    std::uint64_t totals[kChannels];
    for (int k = 0; k < kChannels; ++k) totals[k] = std::uint64_t{across.first_weight} * sum[k];
    if (across.last > across.first) {
      std::uint64_t whole[kChannels] = {};
      for (int column = across.first + 1; column < across.last; ++column) {
        sum += kChannels;
        for (int k = 0; k < kChannels; ++k) whole[k] += sum[k];
      }
      sum += kChannels;
      for (int k = 0; k < kChannels; ++k)
        totals[k] += Stretch::kWhole * whole[k] + std::uint64_t{across.last_weight} * sum[k];
    }
    const double per_area =
        1.0 / (static_cast<double>(across.sum()) * static_cast<double>(down.sum()));
    for (int k = 0; k < kChannels; ++k)
      out[k] = static_cast<std::uint8_t>(static_cast<double>(totals[k]) * per_area + 0.5);
  }
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
