// SPDX-License-Identifier: Apache-2.0
// The samples that a stretch of an image touches, each with how much of it lies inside.
//
// Threads: a value.
#pragma once

#include <algorithm>
#include <cstdint>

namespace lumvet::rendering {

struct SampleSpan {
  static constexpr std::uint32_t kWhole = 256;  // the weight of a sample

  int first;
  int last;
  std::int64_t low;  // in 1/256 sample, as high
  std::int64_t high;

  // Of `samples` in all, `size` around `center`.
  static SampleSpan around(double center, double size, int samples) {
    const double end = static_cast<double>(samples);
    const auto low =
        static_cast<std::int64_t>(std::clamp(center - size / 2, 0.0, end) * kWhole + 0.5);
    const auto high =
        static_cast<std::int64_t>(std::clamp(center + size / 2, 0.0, end) * kWhole + 0.5);
    if (low < high)
      return {static_cast<int>(low / kWhole), static_cast<int>((high - 1) / kWhole), low, high};
    const int border = static_cast<int>(std::clamp(center, 0.0, end - 1));  // beside the image
    const std::int64_t begin = border * std::int64_t{kWhole};
    return {border, border, begin, begin + kWhole};
  }

  int count() const { return last - first + 1; }
  std::uint32_t weight(int i) const {
    const std::int64_t begin = i == first ? low : i * std::int64_t{kWhole};
    const std::int64_t end = i == last ? high : (i + 1) * std::int64_t{kWhole};
    return static_cast<std::uint32_t>(end - begin);
  }
  std::uint32_t sum() const { return static_cast<std::uint32_t>(high - low); }
  // Calls put(i, part) for every sample; the parts, in proportion to the weights, are `all`
  // together, and none of it is lost by rounding.
  template <typename Put>
  void share(std::uint32_t all, const Put& put) const {
    std::uint32_t sum_left = sum();
    for (int i = first; i <= last; ++i) {
      const std::uint32_t part =
          static_cast<std::uint32_t>((std::uint64_t{all} * weight(i) + sum_left / 2) / sum_left);
      put(i, part);
      all -= part;
      sum_left -= weight(i);
    }
  }
};

}  // namespace lumvet::rendering
