// SPDX-License-Identifier: Apache-2.0
#include "color/inks.h"

#include <algorithm>
#include <cmath>
#include <mutex>
#include <vector>

namespace lumvet::color {
namespace {

using Light = std::array<float, 3>;

float unit(float value) { return std::clamp(value, 0.0F, 1.0F); }

float squared_distance(const Light& a, const Light& b) {
  float sum = 0;
  for (std::size_t k = 0; k < 3; ++k) sum += (a[k] - b[k]) * (a[k] - b[k]);
  return sum;
}

float determinant(const Light& a, const Light& b, const Light& c) {
  return a[0] * (b[1] * c[2] - b[2] * c[1]) - b[0] * (a[1] * c[2] - a[2] * c[1]) +
         c[0] * (a[1] * b[2] - a[2] * b[1]);
}

Light between(const Light& from, const Light& to, float part) {
  Light light;
  for (std::size_t k = 0; k < 3; ++k) light[k] = from[k] + (to[k] - from[k]) * part;
  return light;
}

Light difference(const Light& from, const Light& to) {
  return {to[0] - from[0], to[1] - from[1], to[2] - from[2]};
}

// What black and two of the other inks print.
class Press {
 public:
  explicit Press(std::size_t absent) {
    for (std::size_t ink = 0, i = 0; ink < 4; ++ink)
      if (ink != absent) inks_[i++] = ink;
    for (std::size_t corner = 0; corner < corners_.size(); ++corner) {
      Inks inks{};
      for (std::size_t i = 0; i < 3; ++i) inks[inks_[i]] = corner >> i & 1 ? 1.0F : 0.0F;
      corners_[corner] = screen_color(inks);
    }
  }

  // From a guess to the inks that print a color: Newton's steps, kept within what there is.
  Inks improved(const Inks& guess, const Light& wanted, int steps) const {
    constexpr float kSame = 1e-8F;
    constexpr float kFlat = 1e-6F;
    Light amounts{guess[inks_[0]], guess[inks_[1]], guess[inks_[2]]};
    for (int step = 0; step < steps; ++step) {
      const Printed is = printed(amounts);
      if (squared_distance(is.light, wanted) < kSame) break;
      const Light missing = difference(is.light, wanted);
      const float all = determinant(is.by[0], is.by[1], is.by[2]);
      if (std::abs(all) < kFlat) break;
      amounts = {unit(amounts[0] + determinant(missing, is.by[1], is.by[2]) / all),
                 unit(amounts[1] + determinant(is.by[0], missing, is.by[2]) / all),
                 unit(amounts[2] + determinant(is.by[0], is.by[1], missing) / all)};
    }
    Inks inks{};
    for (std::size_t i = 0; i < 3; ++i) inks[inks_[i]] = amounts[i];
    return inks;
  }

 private:
  // A color, and how it changes with each of the inks.
  struct Printed {
    Light light;
    std::array<Light, 3> by;
  };
  Printed printed(const Light& amounts) const {
    std::array<Light, 4> along;
    std::array<Light, 4> by_first;
    for (std::size_t i = 0; i < 4; ++i) {
      along[i] = between(corners_[2 * i], corners_[2 * i + 1], amounts[0]);
      by_first[i] = difference(corners_[2 * i], corners_[2 * i + 1]);
    }
    const auto across = [&](const std::array<Light, 4>& four) {
      return between(between(four[0], four[1], amounts[1]), between(four[2], four[3], amounts[1]),
                     amounts[2]);
    };
    const Light near = between(along[0], along[1], amounts[1]);
    const Light far = between(along[2], along[3], amounts[1]);
    return {between(near, far, amounts[2]),
            {across(by_first),
             between(difference(along[0], along[1]), difference(along[2], along[3]), amounts[2]),
             difference(near, far)}};
  }

  std::array<std::size_t, 3> inks_{};
  std::array<Light, 8> corners_;  // by bits: none or all of each ink
};

const Press& press_without(std::size_t absent) {
  static const std::array<Press, 3> kPresses{Press(0), Press(1), Press(2)};
  return kPresses[absent];
}

// Tries which of the three is absent, that of the strongest light first.
Inks found(const Light& wanted) {
  const float most = *std::max_element(wanted.begin(), wanted.end());
  std::array<std::size_t, 3> order{0, 1, 2};
  std::sort(order.begin(), order.end(),
            [&](std::size_t a, std::size_t b) { return wanted[a] > wanted[b]; });
  Inks guess{0, 0, 0, 1 - most};
  constexpr float kLittleLight = 0.2F;
  for (std::size_t k = 0; k < 3; ++k)
    guess[k] = unit((most - wanted[k]) / std::max(most, kLittleLight));
  Inks best{};
  float best_distance = 10;
  for (const std::size_t absent : order) {
    constexpr int kSteps = 12;
    const Inks inks = press_without(absent).improved(guess, wanted, kSteps);
    const float distance = squared_distance(screen_color(inks), wanted);
    if (distance >= best_distance) continue;
    best = inks;
    best_distance = distance;
    constexpr float kNear = 1e-5F;
    if (distance < kNear) break;
  }
  return best;
}

// The inks of a grid of colors, worked out once.
class Grid {
 public:
  Grid() : nodes_(kSide * kSide * kSide) {
    Inks* node = nodes_.data();
    for (std::size_t blue = 0; blue < kSide; ++blue)
      for (std::size_t green = 0; green < kSide; ++green)
        for (std::size_t red = 0; red < kSide; ++red)
          *node++ = found({part(red), part(green), part(blue)});
  }

  Inks at(const Rgb8& color) const {
    std::array<std::size_t, 3> low;
    std::array<float, 3> beyond;
    for (std::size_t k = 0; k < 3; ++k) {
      const float place = static_cast<float>(color[k]) * (kSide - 1) / 255;
      low[k] = std::min(static_cast<std::size_t>(place), kSide - 2);
      beyond[k] = place - static_cast<float>(low[k]);
    }
    Inks sum{};
    for (std::size_t corner = 0; corner < 8; ++corner) {
      float weight = 1;
      std::size_t node = 0;
      for (std::size_t k = 3; k-- > 0;) {
        const std::size_t high = corner >> k & 1;
        weight *= high != 0 ? beyond[k] : 1 - beyond[k];
        node = node * kSide + low[k] + high;
      }
      for (std::size_t ink = 0; ink < 4; ++ink) sum[ink] += weight * nodes_[node][ink];
    }
    return sum;
  }

 private:
  static constexpr std::size_t kSide = 18;  // 15 of 255 from one to the next
  static float part(std::size_t node) { return static_cast<float>(node) / (kSide - 1); }
  std::vector<Inks> nodes_;
};

std::uint8_t to_byte(float value) { return static_cast<std::uint8_t>(unit(value) * 255 + 0.5F); }

}  // namespace

std::array<float, 3> screen_color(const Inks& inks) {
  // Paper and the overprints of C, M and Y, indexed by bits 1, 2 and 4; then the same on black.
  // Four numbers each, for vectors' sake.
  static constexpr float kOverprints[16][4] = {
      {1.000F, 1.000F, 1.000F}, {0.000F, 0.640F, 0.900F}, {0.900F, 0.040F, 0.490F},
      {0.170F, 0.190F, 0.550F}, {1.000F, 0.930F, 0.000F}, {0.000F, 0.610F, 0.290F},
      {0.890F, 0.110F, 0.140F}, {0.220F, 0.210F, 0.200F}, {0.137F, 0.122F, 0.125F},
      {0.035F, 0.080F, 0.110F}, {0.120F, 0.030F, 0.060F}, {0.040F, 0.035F, 0.070F},
      {0.125F, 0.110F, 0.020F}, {0.020F, 0.070F, 0.035F}, {0.110F, 0.030F, 0.030F},
      {0.000F, 0.000F, 0.000F}};
  std::array<float, 16> weights{1};
  for (std::size_t ink = 0, count = 1; ink < 4; ++ink, count *= 2)
    for (std::size_t i = 0; i < count; ++i) {
      weights[count + i] = weights[i] * inks[ink];
      weights[i] -= weights[count + i];
    }
  std::array<float, 4> sum{};
  for (std::size_t i = 0; i < weights.size(); ++i)
    for (std::size_t k = 0; k < sum.size(); ++k) sum[k] += weights[i] * kOverprints[i][k];
  return {unit(sum[0]), unit(sum[1]), unit(sum[2])};
}

Inks inks_like(const Rgb8& color) {
  static const Grid kGrid;
  const Inks guess = kGrid.at(color);
  const auto absent =
      static_cast<std::size_t>(std::min_element(guess.begin(), guess.begin() + 3) - guess.begin());
  constexpr int kSteps = 2;
  return press_without(absent).improved(
      guess, {color[0] / 255.0F, color[1] / 255.0F, color[2] / 255.0F}, kSteps);
}

bool matters_in_inks(BlendMode mode) {
  return mode != BlendMode::normal && mode != BlendMode::multiply && mode != BlendMode::darken;
}

Rgb8 blend_in_inks(BlendMode mode, const Rgb8& backdrop, const Rgb8& source) {
  const Inks below = inks_like(backdrop);
  const Inks above = inks_like(source);
  std::array<std::uint8_t, 4> b;
  std::array<std::uint8_t, 4> s;
  for (std::size_t ink = 0; ink < 4; ++ink) {
    b[ink] = to_byte(1 - below[ink]);
    s[ink] = to_byte(1 - above[ink]);
  }
  const Rgb8 light = blend(mode, {b[0], b[1], b[2]}, {s[0], s[1], s[2]});
  std::uint8_t black = b[3];
  if (mode == BlendMode::luminosity)
    black = s[3];
  else if (mode < BlendMode::hue)
    black = blend(mode, {b[3], b[3], b[3]}, {s[3], s[3], s[3]})[0];
  const Inks mixed{1 - light[0] / 255.0F, 1 - light[1] / 255.0F, 1 - light[2] / 255.0F,
                   1 - black / 255.0F};
  // What the backdrop has that its inks have not stays as far as its inks do.
  float changed = 0;
  for (std::size_t ink = 0; ink < 4; ++ink)
    changed = std::max(changed, std::abs(mixed[ink] - below[ink]));
  const Light printed = screen_color(below);
  const Light result = screen_color(mixed);
  Rgb8 seen;
  for (std::size_t k = 0; k < 3; ++k)
    seen[k] = to_byte(result[k] + (backdrop[k] / 255.0F - printed[k]) * (1 - unit(changed)));
  return seen;
}

}  // namespace lumvet::color
