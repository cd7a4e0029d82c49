// SPDX-License-Identifier: Apache-2.0
#include "raster/edges.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>

#include "raster/passed_twice.h"

namespace lumvet::raster {
namespace {

// Without a call, unlike std::floor on machines that lack an instruction for it.
std::int32_t rounded_down(double value) {
  const auto toward_zero = static_cast<std::int32_t>(value);
  return toward_zero - (value < toward_zero ? 1 : 0);
}

std::int32_t fixed(double pixels) { return rounded_down(pixels * kSteps + 0.5); }

bool is_far(Point p) { return !(std::abs(p.x) <= kFarthest && std::abs(p.y) <= kFarthest); }

// Cut in height first, then what is too far to the side is pushed onto the border, where it covers
// the same pixels. False when nothing is left.
bool cut(Point& from, Point& to) {
  if (std::isnan(from.x + from.y + to.x + to.y)) return false;
  if (std::max(from.y, to.y) < -kFarthest || std::min(from.y, to.y) > kFarthest) return false;
  const Point start = from;
  const Point end = to;
  for (Point* p : {&from, &to}) {
    const double y = std::clamp(p->y, -kFarthest, kFarthest);
    if (y != p->y) *p = {start.x + (end.x - start.x) * ((y - start.y) / (end.y - start.y)), y};
    p->x = std::clamp(p->x, -kFarthest, kFarthest);
  }
  return true;
}

bool is_within(const Edge& edge, std::int32_t most) {
  return std::abs(edge.x1 - edge.x0) <= most && std::abs(edge.y1 - edge.y0) <= most;
}

void put_in_groups(Edges& edges) {
  for (std::size_t first = 0; first < edges.all.size(); first += Edges::kGroup) {
    const std::size_t count = std::min(Edges::kGroup, edges.all.size() - first);
    const std::span<Edge> some(&edges.all[first], count);
    const auto others = std::partition(some.begin(), some.end(), is_short);
    Edges::Group group{some[0].x0, some[0].y0, some[0].y0,
                       static_cast<std::uint32_t>(others - some.begin())};
    for (const Edge& e : some) {
      group.left = std::min({group.left, e.x0, e.x1});
      group.top = std::min({group.top, e.y0, e.y1});
      group.bottom = std::max({group.bottom, e.y0, e.y1});
    }
    edges.groups.push_back(group);
  }
}

}  // namespace

bool is_short(const Edge& edge) { return is_within(edge, kSteps); }

std::int32_t in_steps(double pixels) { return fixed(std::clamp(pixels, -kFarthest, kFarthest)); }

Edges edges_of(const std::vector<Polyline>& lines, FillRule rule) {
  Edges edges;
  std::size_t count = 0;
  for (const Polyline& line : lines) count += line.points.size();
  edges.all.reserve(count);  // and more where some are halved
  const auto add = [&edges](const Edge& edge) {
    if (edge.y0 == edge.y1) return;
    if (is_short(edge) || edge.x0 == edge.x1 || !is_within(edge, 2 * kSteps))
      return edges.all.push_back(edge);
    const std::int32_t x = (edge.x0 + edge.x1) >> 1;
    const std::int32_t y = (edge.y0 + edge.y1) >> 1;
    if (edge.y0 != y) edges.all.push_back({edge.x0, edge.y0, x, y});
    if (y != edge.y1) edges.all.push_back({x, y, edge.x1, edge.y1});
  };
  for (const Polyline& line : lines) {
    if (line.points.size() < 2) continue;
    Point from = line.points.back();
    bool is_from_far = is_far(from);
    std::int32_t x = is_from_far ? 0 : fixed(from.x);
    std::int32_t y = is_from_far ? 0 : fixed(from.y);
    for (const Point to : line.points) {
      const bool is_to_far = is_far(to);
      const std::int32_t next_x = is_to_far ? 0 : fixed(to.x);
      const std::int32_t next_y = is_to_far ? 0 : fixed(to.y);
      if (!is_from_far && !is_to_far) {
        add({x, y, next_x, next_y});
      } else {
        Point a = from;
        Point b = to;
        if (cut(a, b)) add({fixed(a.x), fixed(a.y), fixed(b.x), fixed(b.y)});
      }
      from = to;
      is_from_far = is_to_far;
      x = next_x;
      y = next_y;
    }
  }
  if (rule == FillRule::even_odd) take_out_passed_twice(edges.all);
  put_in_groups(edges);
  return edges;
}

}  // namespace lumvet::raster
