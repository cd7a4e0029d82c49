// SPDX-License-Identifier: Apache-2.0
// Outlines as straight edges, in 1/256 pixel.
//
// Threads: free functions.
#pragma once

#include <cstdint>
#include <span>
#include <vector>

#include "lumvet/geometry/path.h"
#include "raster/polyline.h"

namespace lumvet::raster {

// Places are whole numbers of steps, of which a pixel has 256.
inline constexpr int kStepBits = 8;
inline constexpr std::int32_t kSteps = 1 << kStepBits;

// Lines are cut at this many pixels from the origin, so that numbers fit 32 bits.
inline constexpr double kFarthest = 1 << 20;

// In 1/256 pixel, rounded; what lies further away than any raster reaches is brought nearer.
std::int32_t in_steps(double pixels);

// A straight line, in 1/256 pixel.
struct Edge {
  std::int32_t x0;
  std::int32_t y0;
  std::int32_t x1;
  std::int32_t y1;
};

// At most a pixel each way: such edges are reckoned many at once (short_edges.h).
bool is_short(const Edge& edge);

// Edges in groups, those of a group beside each other along their lines. With the bounds of each
// group an area passes over what is elsewhere.
struct Edges {
  static constexpr std::size_t kGroup = 32;
  struct Group {
    std::int32_t left;
    std::int32_t top;
    std::int32_t bottom;
    std::uint32_t short_edges;  // how many of them are short; those come first
  };
  std::vector<Edge> all;
  // Of kGroup edges each; the last may have fewer.
  std::vector<Group> groups;

  bool empty() const { return all.empty(); }
};

// Somebody else's edges.
struct EdgeView {
  std::span<const Edge> all = {};
  std::span<const Edges::Group> groups = {};

  EdgeView() = default;
  EdgeView(std::span<const Edge> edges, std::span<const Edges::Group> grouped)
      : all(edges), groups(grouped) {}
  EdgeView(const Edges& edges) : all(edges.all), groups(edges.groups) {}  // NOLINT: meant to be one
  bool empty() const { return all.empty(); }
};

// All but the level ones, and under the even-odd rule those that are passed twice. Those of up to
// two pixels are halved, which makes them short. Polylines in pixels; they are closed as filling
// does.
Edges edges_of(const std::vector<Polyline>& lines, FillRule rule = FillRule::nonzero);

}  // namespace lumvet::raster
