// SPDX-License-Identifier: Apache-2.0
// What shapes and letters are painted with: colors of screens, presses, inks and profiles, and
// gradients between them (ISO 32000-2, 8.6 and 8.7.4.5).
//
//   const auto rust = lumvet::Color::parse("#B8552A").value();
//   const auto green = lumvet::Color::ink("Ostrel Green", 0.8, lumvet::Color::rgb(0.2, 0.5, 0.3));
//   drawing.fill(hill, green);
//   drawing.fill(sky, lumvet::Gradient::along({0, 0}, {0, 200}, {{0, rust}, {1, rust}}));
//
// Copies share what is large. Threads: immutable, share freely. Since: 0.2
#pragma once

#include <array>
#include <memory>
#include <string>
#include <string_view>
#include <variant>
#include <vector>

#include "lumvet/base/bytes.h"
#include "lumvet/base/export.h"
#include "lumvet/base/inside.h"
#include "lumvet/base/result.h"
#include "lumvet/geometry/matrix.h"

namespace lumvet {

struct InkTint;

class LUMVET_EXPORT Color {
 public:
  Color() = default;  // black

  // Parts are 0 to 1 unless it says otherwise; what lies beyond is taken as the nearest.
  static Color gray(double light);
  static Color rgb(double red, double green, double blue);                      // of a screen
  static Color cmyk(double cyan, double magenta, double yellow, double black);  // of a press
  // L* from 0 to 100, a* and b* from -128 to 127, under the light that profiles have (D50).
  static Color lab(double lightness, double a, double b);
  // An ink by its name, from none of it to all; `full` is what all of it looks like where there is
  // no such ink.
  static Color ink(const std::string& name, double tint, const Color& full);
  // Several inks one over the other. Where there are no such inks, they take light away from each
  // other, or, if all look like a press's colors, are added up. Errors: invalid_argument for none,
  // for more than 32, for one that comes twice, and for full inks that are neither gray, RGB nor
  // CMYK.
  static Result<Color> inks(const std::vector<InkTint>& tints);
  // Of a profile of the ICC, as many parts as that has. Errors: invalid_argument for a profile that
  // cannot be used, or another number of parts.
  static Result<Color> of_profile(std::shared_ptr<const Bytes> profile, std::vector<double> parts);
  // "#B8552A", or "#B52". Errors: invalid_argument.
  static Result<Color> parse(std::string_view text);

  enum class Kind { gray, rgb, cmyk, lab, ink, inks, profile };
  Kind kind() const { return kind_; }
  const std::vector<double>& parts() const { return parts_; }
  bool operator==(const Color& other) const;

 private:
  friend struct Inside<Color>;
  struct Space;
  Kind kind_ = Kind::gray;
  std::vector<double> parts_ = {0};
  std::shared_ptr<const Space> space_;
};

struct InkTint {
  std::string ink = {};
  double tint = 1;  // from none of it to all
  Color full = {};  // what all of it looks like
};

struct ColorStop {
  double at = 0;  // 0 at the beginning to 1 at the end
  Color color = {};
};

// Its colors are of one space, with grays among them, from the beginning to the end, and go on
// beyond both. Places are in the space of the drawing as it is when something is painted with it.
struct Gradient {
  Point from = {};
  Point to = {};
  // Between two circles; both 0 for a gradient along a line.
  double from_radius = 0;
  double to_radius = 0;
  std::vector<ColorStop> stops = {};

  bool is_round() const { return from_radius > 0 || to_radius > 0; }
  static Gradient along(Point from, Point to, std::vector<ColorStop> stops) {
    return {from, to, 0, 0, std::move(stops)};
  }
  static Gradient around(Point center, double radius, std::vector<ColorStop> stops) {
    return {center, center, 0, radius, std::move(stops)};
  }
};

class Drawing;

// A drawing over and over, side by side.
struct Tiling {
  std::shared_ptr<const Drawing> tile = {};
  // From one to the next, in points; 0 for the size of the drawing.
  double across = 0;
  double down = 0;
  Matrix placed = {};  // from the tile's space, from its top left corner, to the drawing's
};

using Paint = std::variant<Color, Gradient, Tiling>;

}  // namespace lumvet
