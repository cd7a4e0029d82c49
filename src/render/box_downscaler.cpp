// SPDX-License-Identifier: Apache-2.0
#include "render/box_downscaler.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstring>

#include "raster/blend.h"
#include "raster/row_averages.h"

namespace lumvet::rendering {

using images::Image;

namespace {

// The value that all samples of these rows have, where that is seen quickly.
std::optional<std::uint8_t> only_value(const Image& image, const SampleSpan& rows, int first,
                                       int count) {
  const auto value = image.only_value(rows.first, first, count);
  for (int row = rows.first + 1; value && row <= rows.last; ++row)
    if (image.only_value(row, first, count) != value) return std::nullopt;
  return value;
}

}  // namespace

BoxDownscaler::BoxDownscaler(const Image& image, const Matrix& to_samples)
    : image_(&image),
      to_samples_(to_samples),
      box_width_(std::abs(to_samples.a)),
      box_height_(std::abs(to_samples.d)) {}

SampleSpan BoxDownscaler::across(int x) const {
  return SampleSpan::around(to_samples_.a * (x + 0.5) + to_samples_.e, std::max(box_width_, 1.0),
                            image_->width);
}

SampleSpan BoxDownscaler::down(int y) const {
  return SampleSpan::around(to_samples_.d * (y + 0.5) + to_samples_.f, std::max(box_height_, 1.0),
                            image_->height);
}

void BoxDownscaler::find_taps(int x, int count) {
  const int known_end = taps_.first_pixel + static_cast<int>(taps_.columns.size());
  if (x >= taps_.first_pixel && x + count <= known_end) return;
  // Rows of what is no upright rectangle begin and end at ever other pixels near by.
  constexpr int kNear = 256;
  if (!taps_.columns.empty() && x <= known_end + kNear && x + count + kNear >= taps_.first_pixel) {
    const int end = std::max(x + count, known_end);
    x = std::min(x, taps_.first_pixel);
    count = end - x;
  }
  std::vector<SampleSpan> stretches;
  int most = 1;
  for (int i = 0; i < count; ++i) {
    stretches.push_back(across(x + i));
    most = std::max(most, stretches.back().count());
  }
  taps_.first_pixel = x;
  taps_.each = static_cast<std::size_t>(most);
  taps_.columns.clear();
  taps_.all.assign(stretches.size() * taps_.each, 0);
  std::uint32_t* weights = taps_.all.data();
  constexpr std::uint32_t kAll = 1 << 16;
  for (const SampleSpan& s : stretches) {
    taps_.columns.push_back(s.first);
    s.share(kAll, [&](int column, std::uint32_t part) { weights[column - s.first] = part; });
    weights += taps_.each;
  }
}

const int* BoxDownscaler::first_columns(int x) const {
  return &taps_.columns[static_cast<std::size_t>(x - taps_.first_pixel)];
}

const std::uint32_t* BoxDownscaler::weights(int x) const {
  return &taps_.all[static_cast<std::size_t>(x - taps_.first_pixel) * taps_.each];
}

BoxDownscaler::Columns BoxDownscaler::columns_of(int x, int count) const {
  const int* columns = first_columns(x);
  const auto [first, last] = std::minmax(columns[0], columns[count - 1]);
  return {first, std::min(last + static_cast<int>(taps_.each), image_->width) - first};
}

void BoxDownscaler::add_up(const SampleSpan& rows, const Columns& columns) {
  const auto channels = static_cast<std::size_t>(image_->channels());
  const std::size_t values = static_cast<std::size_t>(columns.count) * channels;
  // Weights of nothing may reach behind the last column, and colors are read four at a time.
  means_.resize(values + taps_.each * channels + 1);
  constexpr int kFew = 4;
  if (rows.count() <= kFew && !image_->is_packed) {
    std::array<const std::uint8_t*, kFew> samples{};
    std::array<std::uint16_t, kFew> parts{};
    rows.share(raster::kAllRows, [&](int row, std::uint32_t part) {
      const auto i = static_cast<std::size_t>(row - rows.first);
      samples[i] = image_->row(row, columns.first, columns.count, room_);
      parts[i] = static_cast<std::uint16_t>(part);
    });
    return raster::average_of_rows({samples.data(), static_cast<std::size_t>(rows.count())},
                                   parts.data(), means_.data(), values);
  }
  sums_.resize(values);
  for (int row = rows.first; row <= rows.last; ++row) {
    const std::uint8_t* samples = image_->row(row, columns.first, columns.count, room_);
    const auto add = row == rows.first ? raster::set_weighted : raster::add_weighted;
    add(sums_.data(), samples, rows.weight(row), values);
  }
  raster::divide(sums_.data(), rows.sum(), means_.data(), values);
}

void BoxDownscaler::put_colors(int x, int y, int count, std::uint8_t* out) {
  if (count <= 0) return;
  find_taps(x, count);
  const Columns columns = columns_of(x, count);
  add_up(down(y), columns);
  raster::mean_colors(means_.data(), columns.first,
                      {first_columns(x), static_cast<std::size_t>(count)}, weights(x), taps_.each,
                      out);
}

const std::uint8_t* BoxDownscaler::values(int x, int y, int count) {
  values_.resize(static_cast<std::size_t>(std::max(count, 0)));
  if (count <= 0) return values_.data();
  if (is_packed()) {
    if (const auto only = add_packed(x, y, count))
      values_.assign(values_.size(), *only);
    else
      packed_.take_bytes(image_->zero, image_->one, values_.data());
    return values_.data();
  }
  find_taps(x, count);
  const Columns columns = columns_of(x, count);
  add_up(down(y), columns);
  raster::mean_values(means_.data(), columns.first,
                      {first_columns(x), static_cast<std::size_t>(count)}, weights(x), taps_.each,
                      values_.data());
  return values_.data();
}

void BoxDownscaler::put_grays(int x, int y, int count, std::uint8_t* out) {
  if (count <= 0) return;
  if (!is_packed()) {
    const std::uint8_t* means = values(x, y, count);
    for (int i = 0; i < count; ++i, out += 4) {
      const std::uint32_t word = 0xFF000000u | means[i] * 0x010101u;
      std::memcpy(out, &word, sizeof word);
    }
  } else if (const auto only = add_packed(x, y, count)) {
    raster::fill_row(out, {*only, *only, *only, 255}, count);
  } else {
    packed_.take_pixels(image_->zero, image_->one, out);
  }
}

// Adds up the rows of a pixel's height, unless all their samples are alike, as most of a sheet's
// are: then gives that one.
std::optional<std::uint8_t> BoxDownscaler::add_packed(int x, int y, int count) {
  if (x != packed_first_ || count != packed_count_) {
    std::vector<BilevelDownscaler::Extent> extents;
    for (int i = 0; i < count; ++i) {
      const SampleSpan s = across(x + i);
      extents.push_back({s.low, s.high});
    }
    packed_.set_pixels(extents);
    packed_first_ = x;
    packed_count_ = count;
    const int first = across(x).first;
    packed_columns_ = {first, across(x + count - 1).last - first + 1};
  }
  const SampleSpan rows = down(y);
  if (const auto only = only_value(*image_, rows, packed_columns_.first, packed_columns_.count))
    return only;
  rows.share(BilevelDownscaler::kWhole, [&](int row, std::uint32_t part) {
    packed_.add(image_->packed_row(row), static_cast<int>(part));
  });
  return std::nullopt;
}

}  // namespace lumvet::rendering
