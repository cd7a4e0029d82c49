// SPDX-License-Identifier: Apache-2.0
#include "render/image_sampler.h"

#include <algorithm>
#include <bit>
#include <cmath>
#include <cstdint>
#include <cstring>
#include <utility>

#include "base/simd.h"
#include "raster/blend.h"

namespace lumvet::rendering {

using images::Image;

ImageSampler::ImageSampler(const Image& image, const Matrix& placed, bool interpolate)
    : colors_(plane_of(image, placed.inverse())), interpolate_(interpolate) {
  if (image.mask) mask_ = plane_of(*image.mask, placed.inverse());
}

ImageSampler::Plane ImageSampler::plane_of(const Image& image, const Matrix& from_pixels) {
  const Matrix rows_down{image.across, 0, 0, -image.down, image.shift, image.down + image.shift};
  const Matrix m = from_pixels.then(rows_down);
  Plane plane{.image = &image,
              .to_samples = m,
              .box_width = std::abs(m.a) + std::abs(m.c),
              .box_height = std::abs(m.b) + std::abs(m.d)};
  if (m.b == 0 && m.c == 0 && BoxDownscaler::can_add(plane.box_width, plane.box_height))
    plane.means.emplace(image, m);
  return plane;
}

namespace {

constexpr int kEight = raster::EightPlaces::kCount;

// Where values go: to all colors alike or to each its own, or to the opacity alone. Each takes
// kChannels values for the pixel i of the row.
template <int kCount>
struct PutColors {
  static constexpr int kChannels = kCount;
  std::uint8_t* out;
  template <typename Value>
  void operator()(int i, const Value* values) const {
    const auto at = [values](int k) { return static_cast<std::uint32_t>(values[k]); };
    std::uint32_t word = 0xFF000000u;
    if constexpr (kCount == 1)
      word |= at(0) * 0x010101u;
    else
      word |= at(2) << 16 | at(1) << 8 | at(0);
    std::memcpy(out + std::ptrdiff_t{i} * 4, &word, sizeof word);
  }
  // Of the pixels from `first` on, four bytes each, of which the values are the first.
  void eight(int first, const std::uint8_t* values) const {
    for (int i = 0; i < kEight; ++i) {
      std::uint32_t word;
      std::memcpy(&word, values + std::ptrdiff_t{4} * i, sizeof word);
      word = kCount == 1 ? 0xFF000000u | (word & 0xFFu) * 0x010101u : 0xFF000000u | word;
      std::memcpy(out + std::ptrdiff_t{first + i} * 4, &word, sizeof word);
    }
  }
};

struct PutOpacities {
  static constexpr int kChannels = 1;
  std::uint8_t* out;
  template <typename Value>
  void operator()(int i, const Value* values) const {
    out[i] = static_cast<std::uint8_t>(values[0]);
  }
  void eight(int first, const std::uint8_t* values) const {
    for (int i = 0; i < kEight; ++i) out[first + i] = values[std::ptrdiff_t{4} * i];
  }
};

bool is_shrunk(double samples_across, double samples_down) {
  constexpr double kShrunk = 1.01;  // less is no loss: a row in a hundred at most is passed over
  return samples_across > kShrunk || samples_down > kShrunk;
}

// Middles of pixels that lie right between two samples belong to the earlier, whichever way the
// matrix was rounded.
constexpr double kLittle = 1.0 / 65536;

static_assert(std::endian::native == std::endian::little, "red is the lowest byte of a word");

}  // namespace

// Places in an image in 2^-32 of a sample, from one pixel of a row to the next. Whole numbers are
// multiplied, so that it does not matter where a row begins.
class ImageSampler::Steps {
 public:
  Steps(const Plane& plane, int x, int y, double shift)
      : across_(plane.to_samples.a, plane.to_samples.c * (y + 0.5) + plane.to_samples.e - shift, x,
                plane.image->width),
        down_(plane.to_samples.b, plane.to_samples.d * (y + 0.5) + plane.to_samples.f - shift, x,
              plane.image->height) {}

  // The pixels from `first` on to `end` whose samples need not be looked for at the border.
  struct Inside {
    int first;
    int end;
  };
  Inside inside(int count) const {
    Inside inside{0, count};
    while (inside.first < count && !is_inside(inside.first)) ++inside.first;
    while (inside.end > inside.first && !is_inside(inside.end - 1)) --inside.end;
    return inside;
  }
  // The places of eight pixels from one on, of which those behind the last one are where that is.
  void take(int from, int last, const Inside& inside, std::int64_t* u, std::int64_t* v) const {
    if (from < inside.first || from + kEight > inside.end) {
      for (int i = 0; i < kEight; ++i) {
        u[i] = across(std::min(from + i, last));
        v[i] = down(std::min(from + i, last));
      }
      return;
    }
    std::int64_t next_u = across_.start + across_.step * from;
    std::int64_t next_v = down_.start + down_.step * from;
    for (int i = 0; i < kEight; ++i, next_u += across_.step, next_v += down_.step) {
      u[i] = next_u;
      v[i] = next_v;
    }
  }
  std::int64_t step_across() const { return across_.step; }
  std::int64_t step_down() const { return down_.step; }
  std::int64_t across(int i) const { return across_.at(i); }
  std::int64_t down(int i) const { return down_.at(i); }
  bool stays_in_row() const { return down_.step == 0; }
  // The first and the last of all columns that `count` pixels are in.
  std::pair<int, int> columns(int count) const {
    const auto [first, last] = std::minmax({across(0), across(count - 1)});
    return {static_cast<int>(first >> 32), static_cast<int>(last >> 32)};
  }

 private:
  struct Axis {
    Axis(double per_pixel, double at_zero, int x, int samples)
        : step(steps(std::clamp(per_pixel, -kMostStep, kMostStep))),
          start(steps(at_zero) + step / 2 + step * x),
          last((std::int64_t{samples} << 32) - 1) {}

    static constexpr double kMostStep =
        2;  // samples; where they are further apart they are averaged

    bool has(int i) const {
      const std::int64_t place = start + step * i;
      return place >= 0 && place <= last;
    }
    std::int64_t at(int i) const { return std::clamp(start + step * i, std::int64_t{0}, last); }

    // What lies further away than any image is wide stays far enough away.
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
  bool is_inside(int i) const { return across_.has(i) && down_.has(i); }

  Axis across_;
  Axis down_;
};

const std::uint8_t* ImageSampler::row(int x, int y, int count) {
  const Last wanted{x, count, only_row(colors_, y)};
  if (wanted.row >= 0 && wanted == last_) return last_out_;
  const bool is_filled = colors_.image->is_one_sample() && last_out_ == out_.data();
  last_ = wanted;
  if (is_filled && out_.size() >= static_cast<std::size_t>(count) * 4) return last_out_;
  out_.resize(static_cast<std::size_t>(count) * 4);
  last_out_ = out_.data();
  put_row(x, y, count, out_.data());
  return last_out_;
}

const std::uint8_t* ImageSampler::opacities(int x, int y, int count) {
  const Last wanted{x, count, only_row(mask_, y)};
  if (wanted.row >= 0 && wanted == last_mask_) return opacities_.data();
  last_mask_ = wanted;
  opacities_.resize(static_cast<std::size_t>(count));
  sample_row(mask_, x, y, count, PutOpacities{opacities_.data()});
  return opacities_.data();
}

void ImageSampler::row_into(int x, int y, int count, std::uint8_t* out) {
  const Last wanted{x, count, only_row(colors_, y)};
  if (wanted == last_ && wanted.row >= 0)
    std::memcpy(out, last_out_, static_cast<std::size_t>(count) * 4);
  else
    put_row(x, y, count, out);
  last_ = wanted;
  last_out_ = out;
}

void ImageSampler::put_row(int x, int y, int count, std::uint8_t* out) {
  if (colors_.image->channels() == 3)
    sample_row(colors_, x, y, count, PutColors<3>{out});
  else
    sample_row(colors_, x, y, count, PutColors<1>{out});
}

// The row that all samples come from; -1 when there are several, or they are mixed.
int ImageSampler::only_row(const Plane& plane, int y) const {
  if (plane.image->is_one_sample()) return 0;
  const Steps steps(plane, 0, y, kLittle);
  return is_shrunk(plane.box_width, plane.box_height) || interpolate_ || !steps.stays_in_row()
             ? -1
             : static_cast<int>(steps.down(0) >> 32);
}

template <typename Put>
void ImageSampler::sample_row(Plane& plane, int x, int y, int count, const Put& put) {
  const bool is_point = plane.image->is_one_sample();
  if (is_point || !is_shrunk(plane.box_width, plane.box_height))
    return interpolate_ && !is_point ? smooth_row(plane, x, y, count, put)
                                     : nearest_row(plane, x, y, count, put);
  if (plane.means) {
    if constexpr (std::is_same_v<Put, PutColors<3>>)
      return plane.means->put_colors(x, y, count, put.out);
    if constexpr (std::is_same_v<Put, PutColors<1>>)
      return plane.means->put_grays(x, y, count, put.out);
    const std::uint8_t* values = plane.means->values(x, y, count);
    for (int i = 0; i < count; ++i) put(i, values + i);
    return;
  }
  for (int i = 0; i < count; ++i)
    average_box(plane, plane.to_samples.apply({x + i + 0.5, y + 0.5}), i, put);
}

template <typename Put>
void ImageSampler::nearest_row(const Plane& plane, int x, int y, int count, const Put& put) {
  const Image& image = *plane.image;
  if (image.is_one_sample()) {
    const std::uint8_t* sample = image.row(0, 0, 1, room_);
    for (int i = 0; i < count; ++i) put(i, sample);
    return;
  }
  const Steps steps(plane, x, y, kLittle);
  if (steps.stays_in_row() && count > 0) {
    const std::pair<int, int> columns = steps.columns(count);
    const int first = columns.first;
    const std::uint8_t* row =
        image.row(static_cast<int>(steps.down(0) >> 32), first, columns.second - first + 1, room_);
    const auto put_at = [&](int i, std::int64_t u) {
      put(i, row + ((u >> 32) - first) * Put::kChannels);
    };
    const auto [begin, end] = steps.inside(count);
    for (int i = 0; i < begin; ++i) put_at(i, steps.across(i));
    std::int64_t u = steps.across(begin);
    for (int i = begin; i < end; ++i, u += steps.step_across()) put_at(i, u);
    for (int i = end; i < count; ++i) put_at(i, steps.across(i));
    return;
  }
  if (image.is_packed) {
    for (int i = 0; i < count; ++i)
      put(i, image.row(static_cast<int>(steps.down(i) >> 32),
                       static_cast<int>(steps.across(i) >> 32), 1, room_));
    return;
  }
  image.wait_for_all();
  const std::uint8_t* samples = image.samples.data();
  const std::int64_t width = image.width;
  const auto at = [&](std::int64_t u, std::int64_t v) {
    return samples + ((v >> 32) * width + (u >> 32)) * Put::kChannels;
  };
  const auto [first, end] = steps.inside(count);
  for (int i = 0; i < first; ++i) put(i, at(steps.across(i), steps.down(i)));
  std::int64_t u = steps.across(first);
  std::int64_t v = steps.down(first);
  for (int i = first; i < end; ++i, u += steps.step_across(), v += steps.step_down())
    put(i, at(u, v));
  for (int i = end; i < count; ++i) put(i, at(steps.across(i), steps.down(i)));
}

namespace {

// Two samples side by side, of which the first byte is the lowest; what is above them does not
// count. With three channels up to eight bytes are read.
template <int kChannels>
LUMVET_INSIDE void take_two(const std::uint8_t* samples, std::uint32_t& left,
                            std::uint32_t& right) {
  if constexpr (kChannels == 3) {
    std::uint64_t both;
    std::memcpy(&both, samples, sizeof both);
    left = static_cast<std::uint32_t>(both);
    right = static_cast<std::uint32_t>(both >> 24);
  } else {
    left = samples[0];
    right = samples[1];
  }
}

template <int kChannels>
constexpr std::ptrdiff_t kBytesOfTwo = kChannels == 3 ? 8 : 2;

}  // namespace

// A blend of the four nearest samples.
template <typename Put>
void ImageSampler::smooth_row(const Plane& plane, int x, int y, int count, const Put& put) {
  const Image& image = *plane.image;
  const Steps steps(plane, x, y, 0.5);
  constexpr auto kChannels = static_cast<std::size_t>(Put::kChannels);
  const int last_column = image.width - 1;
  const int last_row = image.height - 1;
  raster::EightPlaces places{};
  std::int64_t u[kEight] = {};
  std::int64_t v[kEight] = {};
  // `take(i)` takes the samples around the place i of eight, which `mix` makes pixels of.
  const auto in_eights = [&](const auto& take, const auto& mix) {
    const Steps::Inside inside = steps.inside(count);
    for (int done = 0; done < count; done += kEight) {
      steps.take(done, count - 1, inside, u, v);
      for (int i = 0; i < kEight; ++i) take(i);
      for (int i = 0; i < kEight; ++i) {
        places.across[i] = raster::part_of(u[i]);
        places.down[i] = raster::part_of(v[i]);
      }
      std::uint8_t mixed[kEight * 4];
      mix(places, mixed, kEight);
      if (done + kEight <= count) {
        put.eight(done, mixed);
        continue;
      }
      for (int i = done; i < count; ++i) put(i, mixed + std::ptrdiff_t{4} * (i - done));
    }
  };
  if (steps.stays_in_row() && count > 0) {
    const int y0 = static_cast<int>(steps.down(0) >> 32);
    const auto [first_column, last_left] = steps.columns(count);
    const int first = first_column;
    const int columns = std::min(last_left + 1, last_column) - first + 1;
    // The two rows around become one before it is gone along, with its last sample twice.
    const std::size_t bytes = static_cast<std::size_t>(columns) * kChannels;
    mixed_.resize(bytes + kBytesOfTwo<Put::kChannels>);
    const std::uint8_t* upper = image.row(y0, first, columns, room_);
    const std::uint8_t* lower = image.row(std::min(y0 + 1, last_row), first, columns, other_room_);
    raster::mix_bytes(mixed_.data(), upper, lower, raster::part_of(steps.down(0)), bytes);
    std::memcpy(&mixed_[bytes], &mixed_[bytes - kChannels], kChannels);
    const std::uint8_t* const samples = mixed_.data();
    return in_eights(
        [&](int i) {
          take_two<Put::kChannels>(samples + ((u[i] >> 32) - first) * Put::kChannels,
                                   places.upper_left[i], places.upper_right[i]);
        },
        raster::mix_across);
  }
  if (!image.is_packed) image.wait_for_all();
  const std::uint8_t* const all = image.is_packed ? nullptr : image.samples.data();
  const std::int64_t row_bytes = std::int64_t{image.width} * Put::kChannels;
  const std::int64_t farthest = row_bytes * image.height - kBytesOfTwo<Put::kChannels>;
  in_eights(
      [&](int i) {
        const auto x0 = static_cast<int>(u[i] >> 32);
        const auto y0 = static_cast<int>(v[i] >> 32);
        const int y1 = std::min(y0 + 1, last_row);
        const std::int64_t under_at = y1 * row_bytes + x0 * Put::kChannels;
        if (all != nullptr && x0 < last_column && under_at <= farthest) {
          take_two<Put::kChannels>(all + y0 * row_bytes + x0 * Put::kChannels, places.upper_left[i],
                                   places.upper_right[i]);
          take_two<Put::kChannels>(all + under_at, places.lower_left[i], places.lower_right[i]);
          return;
        }
        const int columns = x0 < last_column ? 2 : 1;
        const std::uint8_t* const above = image.row(y0, x0, columns, room_);
        const std::uint8_t* const under = image.row(y1, x0, columns, other_room_);
        const std::size_t next = columns == 2 ? kChannels : 0;
        std::memcpy(&places.upper_left[i], above, kChannels);
        std::memcpy(&places.upper_right[i], above + next, kChannels);
        std::memcpy(&places.lower_left[i], under, kChannels);
        std::memcpy(&places.lower_right[i], under + next, kChannels);
      },
      raster::mix_both_ways);
}

// The box around the middle, each sample weighted by how much of it lies inside.
template <typename Put>
void ImageSampler::average_box(const Plane& plane, Point middle, int i, const Put& put) {
  constexpr int kChannels = Put::kChannels;
  const Image& image = *plane.image;
  const SampleSpan across =
      SampleSpan::around(middle.x, std::max(plane.box_width, 1.0), image.width);
  const SampleSpan down =
      SampleSpan::around(middle.y, std::max(plane.box_height, 1.0), image.height);
  std::uint64_t sums[kChannels] = {};
  for (int row = down.first; row <= down.last; ++row) {
    const std::uint8_t* sample =
        image.row(row, across.first, across.last - across.first + 1, room_);
    std::uint64_t row_sums[kChannels] = {};
    for (int column = across.first; column <= across.last; ++column, sample += kChannels)
      for (int k = 0; k < kChannels; ++k)
        row_sums[k] += std::uint64_t{across.weight(column)} * sample[k];
    for (int k = 0; k < kChannels; ++k) sums[k] += down.weight(row) * row_sums[k];
  }
  const std::uint64_t area = std::uint64_t{across.sum()} * down.sum();
  for (std::uint64_t& sum : sums) sum = (sum + area / 2) / area;
  put(i, sums);
}

}  // namespace lumvet::rendering
