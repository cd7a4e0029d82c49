// SPDX-License-Identifier: Apache-2.0
// Outlines of glyphs that were made into edges already, from one page to the next.
//
// Threads: one thread at a time.
#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <memory>
#include <unordered_map>

#include "raster/coverage.h"

namespace lumvet::rendering {

// An outline around its origin, for all places where it stands at the same size and slant.
struct GlyphEdges {
  raster::Edges edges;
  raster::Edge box =
      {};  // from its upper left to its lower right corner; none when there are no edges
};

class GlyphCache {
 public:
  // `placed` maps the outline to pixels; to where it is moved does not count.
  std::shared_ptr<const GlyphEdges> get(const std::shared_ptr<const Path>& outline,
                                        const Matrix& placed);
  // Forgets all when it is more than some pages need.
  void trim();

 private:
  struct Key {
    const Path* outline;
    std::array<double, 4> placed;
    bool operator==(const Key&) const = default;
  };
  struct Hash {
    std::size_t operator()(const Key& key) const;
  };
  struct Kept {
    std::weak_ptr<const Path> outline;  // of which another one may have the address by now
    std::shared_ptr<const GlyphEdges> edges;
  };
  std::unordered_map<Key, Kept, Hash> kept_;
  std::size_t edges_ = 0;  // in all of them
};

}  // namespace lumvet::rendering
