// SPDX-License-Identifier: Apache-2.0
#include "raster/passed_twice.h"

#include <algorithm>
#include <tuple>

namespace lumvet::raster {
namespace {

bool runs_up(const Edge& edge) { return edge.y0 > edge.y1; }
bool is_upright(const Edge& edge) { return edge.x0 == edge.x1; }

// From its upper end down.
Edge downward(const Edge& edge) {
  return runs_up(edge) ? Edge{edge.x1, edge.y1, edge.x0, edge.y0} : edge;
}

// Upright ones by where they are alone.
auto line_of(const Edge& edge) {
  const Edge down = downward(edge);
  return is_upright(edge) ? std::tuple(0, down.x0, 0, 0, 0)
                          : std::tuple(1, down.x0, down.y0, down.x1, down.y1);
}

// What is left of upright edges at one place.
void take_out_upright(const std::vector<Edge>& edges, std::vector<Edge>& left) {
  std::vector<std::int32_t> places;
  for (const Edge& edge : edges) places.insert(places.end(), {edge.y0, edge.y1});
  std::sort(places.begin(), places.end());
  places.erase(std::unique(places.begin(), places.end()), places.end());
  struct Step {
    int count = 0;
    int direction = 0;
  };
  std::vector<Step> steps(places.size());
  const auto at = [&](std::int32_t y) {
    return static_cast<std::size_t>(std::lower_bound(places.begin(), places.end(), y) -
                                    places.begin());
  };
  for (const Edge& edge : edges) {
    const Edge down = downward(edge);
    const int direction = runs_up(edge) ? -1 : 1;
    Step& begin = steps[at(down.y0)];
    Step& end = steps[at(down.y1)];
    ++begin.count;
    begin.direction += direction;
    --end.count;
    end.direction -= direction;
  }
  Step now;
  for (std::size_t i = 0; i + 1 < places.size(); ++i) {
    now.count += steps[i].count;
    now.direction += steps[i].direction;
    if (now.count % 2 == 0) continue;
    const std::int32_t x = edges[0].x0;
    if (now.direction > 0)
      left.push_back({x, places[i], x, places[i + 1]});
    else
      left.push_back({x, places[i + 1], x, places[i]});
  }
}

}  // namespace

void take_out_passed_twice(std::vector<Edge>& edges) {
  if (edges.size() < 3) return;
  std::vector<std::uint32_t> order(edges.size());
  for (std::size_t i = 0; i < order.size(); ++i) order[i] = static_cast<std::uint32_t>(i);
  std::sort(order.begin(), order.end(), [&](std::uint32_t a, std::uint32_t b) {
    return std::tuple(line_of(edges[a]), a) < std::tuple(line_of(edges[b]), b);
  });
  std::vector<bool> is_out(edges.size(), false);
  std::vector<Edge> left;  // of upright ones
  bool any = false;
  for (std::size_t first = 0; first < order.size();) {
    std::size_t end = first + 1;
    while (end < order.size() && line_of(edges[order[end]]) == line_of(edges[order[first]])) ++end;
    const std::size_t count = end - first;
    if (count > 1 && is_upright(edges[order[first]])) {
      std::vector<Edge> together;
      for (std::size_t i = first; i < end; ++i) {
        together.push_back(edges[order[i]]);
        is_out[order[i]] = true;
      }
      take_out_upright(together, left);
      any = true;
    } else if (count > 1) {
      int direction = 0;
      for (std::size_t i = first; i < end; ++i) direction += runs_up(edges[order[i]]) ? -1 : 1;
      std::size_t kept = end;  // of an odd number one, which runs as most of them do
      for (std::size_t i = first; i < end && count % 2 == 1 && kept == end; ++i)
        if (runs_up(edges[order[i]]) == (direction < 0)) kept = i;
      for (std::size_t i = first; i < end; ++i) is_out[order[i]] = i != kept;
      any = true;
    }
    first = end;
  }
  if (!any) return;
  std::size_t next = 0;
  for (std::size_t i = 0; i < edges.size(); ++i)
    if (!is_out[i]) edges[next++] = edges[i];
  edges.resize(next);
  edges.insert(edges.end(), left.begin(), left.end());
}

}  // namespace lumvet::raster
