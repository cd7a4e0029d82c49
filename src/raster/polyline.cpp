// SPDX-License-Identifier: Apache-2.0
#include "raster/polyline.h"

#include <algorithm>
#include <cmath>

#include "base/allowance.h"

namespace lumvet::raster {
namespace {

constexpr int kMostPieces = 500;

// A cubic differs from its chords by at most sqrt(3)/18 · d / n², with d the largest second
// difference of its control points, doubled for the derivative.
int pieces_for(Point a, Point b, Point c, Point d, double tolerance) {
  const Point first{a.x - 2 * b.x + c.x, a.y - 2 * b.y + c.y};
  const Point second{b.x - 2 * c.x + d.x, b.y - 2 * c.y + d.y};
  const double longest = std::sqrt(
      std::max(first.x * first.x + first.y * first.y, second.x * second.x + second.y * second.y));
  const double n = std::sqrt(0.75 * longest / tolerance);
  if (!std::isfinite(n)) return 1;
  return static_cast<int>(std::clamp(std::ceil(n), 1.0, static_cast<double>(kMostPieces)));
}

// The curve as a polynomial, ((cubed · t + squared) · t + once) · t + a.
void add_curve(Point a, Point b, Point c, Point d, int n, std::vector<Point>& out) {
  const Point once{3 * (b.x - a.x), 3 * (b.y - a.y)};
  const Point squared{3 * (c.x - b.x) - once.x, 3 * (c.y - b.y) - once.y};
  const Point cubed{d.x - a.x - once.x - squared.x, d.y - a.y - once.y - squared.y};
  for (int i = 1; i < n; ++i) {
    const double t = static_cast<double>(i) / n;
    out.push_back({((cubed.x * t + squared.x) * t + once.x) * t + a.x,
                   ((cubed.y * t + squared.y) * t + once.y) * t + a.y});
  }
  out.push_back(d);
}

}  // namespace

std::vector<Point> distinct_points(std::vector<Point> points) {
  points.erase(std::unique(points.begin(), points.end()), points.end());
  while (points.size() > 1 && points.front() == points.back()) points.pop_back();
  return points;
}

std::vector<Polyline> flatten(const Path& path, const Matrix& placed, double tolerance) {
  std::vector<Polyline> lines;
  std::size_t at = 0;
  TakenMemory memory(path.points().size() * sizeof(Point));
  const auto next = [&] { return placed.apply(path.points()[at++]); };
  for (const Path::Segment segment : path.segments()) {
    if (!goes_on()) break;
    switch (segment) {
      case Path::Segment::move: lines.push_back({{next()}, false}); break;
      case Path::Segment::line: lines.back().points.push_back(next()); break;
      case Path::Segment::curve: {
        const Point b = next();
        const Point c = next();
        const Point d = next();
        const Point a = lines.back().points.back();
        const int pieces = pieces_for(a, b, c, d, tolerance);
        if (!memory.more(static_cast<std::uint64_t>(pieces) * sizeof(Point))) return {};
        add_curve(a, b, c, d, pieces, lines.back().points);
        break;
      }
      case Path::Segment::close: lines.back().closed = true; break;
    }
  }
  const auto is_bad = [](const Polyline& line) {
    return !std::all_of(line.points.begin(), line.points.end(),
                        [](Point p) { return std::isfinite(p.x) && std::isfinite(p.y); });
  };
  lines.erase(std::remove_if(lines.begin(), lines.end(), is_bad), lines.end());
  return lines;
}

}  // namespace lumvet::raster
