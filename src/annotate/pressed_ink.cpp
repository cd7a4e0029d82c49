// SPDX-License-Identifier: Apache-2.0
// Ink as wide as a pen was pressed.
#include <algorithm>
#include <cmath>

#include "appearance/look.h"
#include "appearance/shapes.h"
#include "lumvet/annotate/annotations.h"

namespace lumvet {
namespace {

struct Dot {
  Point at;
  double radius;
};

double between(double a, double b, double c, double d, double t) {
  // Through b and c, as smooth as the neighbors let it be.
  return 0.5 * (2 * b + (c - a) * t + (2 * a - 5 * b + 4 * c - d) * t * t +
                (3 * b - a - 3 * c + d) * t * t * t);
}

// Close enough to one another that what lies between them is straight.
std::vector<Dot> dots_of(const std::vector<Point>& points, const std::vector<double>& pressures,
                         double width) {
  constexpr int kSteps = 8;
  const auto radius = [&](std::size_t i) {
    const double pressure = i < pressures.size() ? std::clamp(pressures[i], 0.0, 1.0) : 1;
    return std::max(width * pressure / 2, 0.05);
  };
  std::vector<Dot> dots;
  for (std::size_t i = 0; i < points.size(); ++i) {
    dots.push_back({points[i], radius(i)});
    if (i + 1 == points.size()) break;
    const Point a = points[i == 0 ? 0 : i - 1];
    const Point b = points[i];
    const Point c = points[i + 1];
    const Point d = points[std::min(i + 2, points.size() - 1)];
    for (int step = 1; step < kSteps; ++step) {
      const double t = static_cast<double>(step) / kSteps;
      dots.push_back({{between(a.x, b.x, c.x, d.x, t), between(a.y, b.y, c.y, d.y, t)},
                      radius(i) + t * (radius(i + 1) - radius(i))});
    }
  }
  return dots;
}

// Around both dots, in one direction always, so that pieces over one another are one.
Path piece(const Dot& a, const Dot& b) {
  Path path = ellipse({a.at.x - a.radius, a.at.y - a.radius, 2 * a.radius, 2 * a.radius});
  const double far = std::hypot(b.at.x - a.at.x, b.at.y - a.at.y);
  if (far <= 0) return path;
  const Point side{-(b.at.y - a.at.y) / far, (b.at.x - a.at.x) / far};
  const auto beside = [&](const Dot& dot, double which) {
    return Point{dot.at.x + which * side.x * dot.radius, dot.at.y + which * side.y * dot.radius};
  };
  path.append(appearance::polygon({beside(a, -1), beside(b, -1), beside(b, 1), beside(a, 1)}, true),
              Matrix());
  return path;
}

}  // namespace

Drawing pressed_ink(const Annotation& ink, const std::vector<std::vector<double>>& pressures) {
  Drawing drawing = appearance::sheet_over(ink.rect);
  Path all;
  for (std::size_t i = 0; i < ink.strokes.size(); ++i) {
    const auto dots =
        dots_of(ink.strokes[i], i < pressures.size() ? pressures[i] : std::vector<double>(),
                ink.border.width);
    for (std::size_t at = 0; at < dots.size(); ++at)
      all.append(piece(dots[at], dots[std::min(at + 1, dots.size() - 1)]), Matrix());
  }
  const auto color = appearance::color_of(ink.color);
  drawing.fill(all, color.value_or(Color()));
  return drawing;
}

}  // namespace lumvet
