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
  const double first = std::hypot(a.x - 2 * b.x + c.x, a.y - 2 * b.y + c.y);
  const double second = std::hypot(b.x - 2 * c.x + d.x, b.y - 2 * c.y + d.y);
  const double n = std::sqrt(0.75 * std::max(first, second) / tolerance);
  if (!std::isfinite(n)) return 1;
  return static_cast<int>(std::clamp(std::ceil(n), 1.0, static_cast<double>(kMostPieces)));
}

void add_curve(Point a, Point b, Point c, Point d, int n, std::vector<Point>& out) {
  for (int i = 1; i < n; ++i) {
    const double t = static_cast<double>(i) / n;
    const double s = 1 - t;
    const double wa = s * s * s;
    const double wb = 3 * s * s * t;
    const double wc = 3 * s * t * t;
    const double wd = t * t * t;
    out.push_back(
        {wa * a.x + wb * b.x + wc * c.x + wd * d.x, wa * a.y + wb * b.y + wc * c.y + wd * d.y});
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
