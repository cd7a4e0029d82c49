// SPDX-License-Identifier: Apache-2.0
#include "color/calibrated.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "objects/read_numbers.h"

namespace lumvet::color {
namespace {

using Made = Result<std::shared_ptr<const ColorSpace>>;
using Triple = std::array<double, 3>;

constexpr Triple kScreenWhite = {0.95047, 1, 1.08883};  // D65

double companded(double linear) {  // sRGB, IEC 61966-2-1
  linear = unit(linear);
  return linear <= 0.0031308 ? 12.92 * linear : 1.055 * std::pow(linear, 1 / 2.4) - 0.055;
}

// A color under one white as it looks under the screen's (Bradford's method), then on the screen.
class ToScreen {
 public:
  explicit ToScreen(const Triple& white) {
    const Triple from = cones(white);
    const Triple to = cones(kScreenWhite);
    for (std::size_t i = 0; i < 3; ++i) scale_[i] = from[i] > 0 ? to[i] / from[i] : 1;
  }

  Rgb operator()(const Triple& xyz) const {
    Triple c = cones(xyz);
    for (std::size_t i = 0; i < 3; ++i) c[i] *= scale_[i];
    const double x = 0.9869929 * c[0] - 0.1470543 * c[1] + 0.1599627 * c[2];
    const double y = 0.4323053 * c[0] + 0.5183603 * c[1] + 0.0492912 * c[2];
    const double z = -0.0085287 * c[0] + 0.0400428 * c[1] + 0.9684867 * c[2];
    return {companded(3.2404542 * x - 1.5371385 * y - 0.4985314 * z),
            companded(-0.9692660 * x + 1.8760108 * y + 0.0415560 * z),
            companded(0.0556434 * x - 0.2040259 * y + 1.0572252 * z)};
  }

 private:
  static Triple cones(const Triple& c) {
    return {0.8951 * c[0] + 0.2664 * c[1] - 0.1614 * c[2],
            -0.7502 * c[0] + 1.7135 * c[1] + 0.0367 * c[2],
            0.0389 * c[0] - 0.0685 * c[1] + 1.0296 * c[2]};
  }

  Triple scale_{};
};

class CalibratedGray final : public ColorSpace {
 public:
  CalibratedGray(const Triple& white, double gamma)
      : white_(white), gamma_(gamma), to_screen_(white) {}
  std::size_t components() const override { return 1; }
  Rgb to_rgb(std::span<const double> v) const override {
    const double a = std::pow(unit(v[0]), gamma_);
    return to_screen_({white_[0] * a, white_[1] * a, white_[2] * a});
  }

 private:
  Triple white_;
  double gamma_;
  ToScreen to_screen_;
};

class CalibratedRgb final : public ColorSpace {
 public:
  CalibratedRgb(const Triple& white, const Triple& gamma, const std::array<double, 9>& matrix)
      : gamma_(gamma), matrix_(matrix), to_screen_(white) {}
  std::size_t components() const override { return 3; }
  Rgb to_rgb(std::span<const double> v) const override {
    Triple xyz{};
    for (std::size_t i = 0; i < 3; ++i) {
      const double part = std::pow(unit(v[i]), gamma_[i]);
      for (std::size_t k = 0; k < 3; ++k) xyz[k] += part * matrix_[3 * i + k];
    }
    return to_screen_(xyz);
  }

 private:
  Triple gamma_;
  std::array<double, 9> matrix_;
  ToScreen to_screen_;
};

class Lab final : public ColorSpace {
 public:
  Lab(const Triple& white, const std::array<double, 4>& range)
      : white_(white), range_(range), to_screen_(white) {}
  std::size_t components() const override { return 3; }
  std::vector<double> initial() const override {
    return {0, std::clamp(0.0, range_[0], range_[1]), std::clamp(0.0, range_[2], range_[3])};
  }
  std::vector<double> default_decode(unsigned) const override {
    return {0, 100, range_[0], range_[1], range_[2], range_[3]};
  }
  Rgb to_rgb(std::span<const double> v) const override {
    const double m = (std::clamp(v[0], 0.0, 100.0) + 16) / 116;
    const double l = m + std::clamp(v[1], range_[0], range_[1]) / 500;
    const double n = m - std::clamp(v[2], range_[2], range_[3]) / 200;
    const auto g = [](double t) {
      return t >= 6.0 / 29 ? t * t * t : 108.0 / 841 * (t - 4.0 / 29);
    };
    return to_screen_({white_[0] * g(l), white_[1] * g(m), white_[2] * g(n)});
  }

 private:
  Triple white_;
  std::array<double, 4> range_;
  ToScreen to_screen_;
};

template <std::size_t count>
std::array<double, count> numbers(const Dict& dict, const objects::Resolver& resolver,
                                  std::string_view key, std::array<double, count> otherwise) {
  const std::vector<double> stated = objects::numbers_of(resolver, dict[key]);
  if (stated.size() == count) std::copy(stated.begin(), stated.end(), otherwise.begin());
  return otherwise;
}

// Y is 1 and the others are positive, says the standard; what is not is taken as the screen's.
Triple white_of(const Dict& dict, const objects::Resolver& resolver) {
  const Triple white = numbers<3>(dict, resolver, "WhitePoint", kScreenWhite);
  return white[0] > 0 && white[1] > 0 && white[2] > 0 ? white : kScreenWhite;
}

}  // namespace

Made make_calibrated_gray(const Dict& dict, const objects::Resolver& resolver) {
  const double gamma = resolver.get(dict, "Gamma").as_number(1);
  if (!(gamma > 0))
    return Error(ErrorCode::malformed, "a CalGray color space with an impossible gamma");
  return std::shared_ptr<const ColorSpace>(
      std::make_shared<CalibratedGray>(white_of(dict, resolver), gamma));
}

Made make_calibrated_rgb(const Dict& dict, const objects::Resolver& resolver) {
  const Triple gamma = numbers<3>(dict, resolver, "Gamma", {1, 1, 1});
  if (!(gamma[0] > 0 && gamma[1] > 0 && gamma[2] > 0))
    return Error(ErrorCode::malformed, "a CalRGB color space with an impossible gamma");
  const auto matrix = numbers<9>(dict, resolver, "Matrix", {1, 0, 0, 0, 1, 0, 0, 0, 1});
  return std::shared_ptr<const ColorSpace>(
      std::make_shared<CalibratedRgb>(white_of(dict, resolver), gamma, matrix));
}

Made make_lab(const Dict& dict, const objects::Resolver& resolver) {
  const auto range = numbers<4>(dict, resolver, "Range", {-100, 100, -100, 100});
  if (!(range[0] <= range[1] && range[2] <= range[3]))
    return Error(ErrorCode::malformed, "a Lab color space with an impossible range");
  return std::shared_ptr<const ColorSpace>(std::make_shared<Lab>(white_of(dict, resolver), range));
}

}  // namespace lumvet::color
