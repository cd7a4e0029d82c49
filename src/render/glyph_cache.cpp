// SPDX-License-Identifier: Apache-2.0
#include "render/glyph_cache.h"

#include <algorithm>
#include <bit>

#include "base/attempt.h"

namespace lumvet::rendering {
namespace {

std::shared_ptr<const GlyphEdges> edges_of(const Path& outline, const Matrix& m) {
  auto glyph = std::make_shared<GlyphEdges>();
  glyph->edges =
      raster::edges_of(raster::flatten(outline, {m.a, m.b, m.c, m.d, 0, 0}, raster::kTolerance));
  if (glyph->edges.empty()) return glyph;
  raster::Edge& box = glyph->box;
  box = glyph->edges.all.front();
  for (const raster::Edge& e : glyph->edges.all) {
    box.x0 = std::min({box.x0, e.x0, e.x1});
    box.y0 = std::min({box.y0, e.y0, e.y1});
    box.x1 = std::max({box.x1, e.x0, e.x1});
    box.y1 = std::max({box.y1, e.y0, e.y1});
  }
  return glyph;
}

}  // namespace

std::size_t GlyphCache::Hash::operator()(const Key& key) const {
  constexpr std::uint64_t kOdd = 0x9E3779B97F4A7C15;
  std::uint64_t hash = std::bit_cast<std::uintptr_t>(key.outline);
  for (const double number : key.placed)
    hash = std::rotl(hash, 17) * kOdd ^ std::bit_cast<std::uint64_t>(number);
  return static_cast<std::size_t>(hash * kOdd >> 7);
}

std::shared_ptr<const GlyphEdges> GlyphCache::get(const std::shared_ptr<const Path>& outline,
                                                  const Matrix& placed) {
  Kept& kept = kept_[{outline.get(), {placed.a, placed.b, placed.c, placed.d}}];
  if (kept.edges && kept.outline.lock() == outline) return kept.edges;
  if (kept.edges) edges_ -= kept.edges->edges.all.size();
  kept = {};
  auto made = edges_of(*outline, placed);
  // What was made while the page ended may be a part of it.
  if (Attempt::is_stopped()) return made;
  kept = {outline, made};
  edges_ += made->edges.all.size();
  return made;
}

void GlyphCache::trim() {
  constexpr std::size_t kMostEdges = 1 << 15;  // of 16 bytes
  constexpr std::size_t kMostGlyphs = 2000;
  if (edges_ <= kMostEdges && kept_.size() <= kMostGlyphs) return;
  kept_.clear();
  edges_ = 0;
}

}  // namespace lumvet::rendering
