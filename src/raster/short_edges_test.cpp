// SPDX-License-Identifier: Apache-2.0
#include "raster/short_edges.h"

#include <cmath>
#include <map>
#include <random>

#include "tests/support/catch.h"

using namespace lumvet;
using raster::Cell;
using raster::Edge;
using raster::ShortParts;

namespace {

using Cells = std::map<std::pair<int, int>, std::pair<double, double>>;  // by row and column

std::vector<Edge> random_edges(std::mt19937& random, std::size_t count) {
  std::uniform_int_distribution<std::int32_t> place(-3000, 3000);
  std::uniform_int_distribution<std::int32_t> step(-256, 256);
  std::vector<Edge> edges;
  while (edges.size() < count) {
    const std::int32_t x = place(random);
    const std::int32_t y = place(random);
    const std::int32_t dx = random() % 4 == 0 ? 0 : step(random);
    const std::int32_t dy = step(random);
    if (dy != 0) edges.push_back({x, y, x + dx, y + dy});
  }
  return edges;
}

// Height crossed and twice the area to the left in every cell, without zeros.
Cells cells_of(const ShortParts& parts, std::size_t edge) {
  Cells cells;
  for (const std::size_t below : {0, 1}) {
    const int row = parts.row[edge] + static_cast<int>(below);
    const auto add = [&](int column, const Cell& cell) {
      if (cell == Cell()) return;
      cells[{row, column}] = {cell.cover(), cell.area()};
    };
    add(parts.column[below][edge], parts.left[below][edge]);
    add(parts.column[below][edge] + 1, parts.right[below][edge]);
  }
  return cells;
}

// The same in very many steps along the edge.
Cells walked(const Edge& edge) {
  constexpr int kSteps = 20000;
  Cells cells;
  for (int i = 0; i < kSteps; ++i) {
    const double part = (i + 0.5) / kSteps;
    const double x = edge.x0 + (edge.x1 - edge.x0) * part;
    const double y = edge.y0 + (edge.y1 - edge.y0) * part;
    const double height = static_cast<double>(edge.y1 - edge.y0) / kSteps;
    const double column = std::floor(x / 256);
    auto& [cover, area] = cells[{static_cast<int>(std::floor(y / 256)), static_cast<int>(column)}];
    cover += height;
    area += 2 * height * (x - column * 256);
  }
  return cells;
}

}  // namespace

TEST_CASE("parts of short edges are what a walk along them meets", "[raster]") {
  std::mt19937 random(3);
  const std::vector<Edge> edges = random_edges(random, ShortParts::kMost);
  for (const std::size_t count : {std::size_t{1}, std::size_t{7}, edges.size()}) {
    ShortParts parts;
    raster::take_apart(std::span(edges).first(count), 77, -1000, parts);
    for (std::size_t i = 0; i < count; ++i) {
      const Edge& e = edges[i];
      Cells differences = walked({e.x0 + 77, e.y0 - 1000, e.x1 + 77, e.y1 - 1000});
      double height = 0;
      for (const auto& [cell, both] : cells_of(parts, i)) {
        height += both.first;
        differences[cell].first -= both.first;
        differences[cell].second -= both.second;
      }
      CHECK(height == e.y1 - e.y0);
      for (const auto& [cell, both] : differences) {
        CHECK(std::abs(both.first) < 1.1);   // where borders are crossed is rounded to 1/256
        CHECK(std::abs(both.second) < 600);  // of 131,072
        CHECK(cell.first >= parts.first_row);
        CHECK(cell.first <= parts.last_row + 1);
        CHECK(cell.second >= parts.first_column);
        CHECK(cell.second <= parts.last_column + 1);
      }
    }
  }
}

TEST_CASE("short edges have the same parts wherever they stand, and turned around the opposite",
          "[raster]") {
  std::mt19937 random(4);
  const std::vector<Edge> edges = random_edges(random, ShortParts::kMost);
  std::vector<Edge> turned;
  turned.reserve(edges.size());
  for (const Edge& e : edges) turned.push_back({e.x1, e.y1, e.x0, e.y0});
  ShortParts here;
  ShortParts there;
  ShortParts back;
  raster::take_apart(edges, 0, 0, here);
  raster::take_apart(edges, 300 * 256, -70 * 256, there);
  raster::take_apart(turned, 0, 0, back);
  for (std::size_t i = 0; i < edges.size(); ++i) {
    Cells moved;
    Cells opposite;
    for (const auto& [cell, both] : cells_of(there, i))
      moved[{cell.first + 70, cell.second - 300}] = both;
    for (const auto& [cell, both] : cells_of(back, i)) opposite[cell] = {-both.first, -both.second};
    CHECK(cells_of(here, i) == moved);
    CHECK(cells_of(here, i) == opposite);
  }
}
