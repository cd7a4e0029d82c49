// SPDX-License-Identifier: Apache-2.0
// The memory that parts of a scene take, in bytes, about.
//
// Threads: free functions.
#pragma once

#include "content/scene_data.h"

namespace lumvet::content {

std::uint64_t memory_of(const SceneData& scene);

inline std::uint64_t memory_of(const Path& path) {
  return path.points().size() * sizeof(Point) + path.segments().size();
}
// Of an operation, without what it shares: images, shadings and the cells of patterns.
template <typename What>
std::uint64_t own_memory_of(const What& what) {
  if constexpr (requires { what.path; }) return memory_of(what.path);
  if constexpr (requires { what.glyphs; }) return what.glyphs.size() * sizeof(PlacedGlyph);
  return 0;
}

inline std::uint64_t memory_of(const Operation& operation) {
  const std::uint64_t own =
      sizeof(Operation) +
      std::visit([](const auto& what) { return own_memory_of(what); }, operation.what);
  if (const auto* image = std::get_if<ShowImage>(&operation.what))
    return own + image->image->memory();
  if (const auto* tiling = std::get_if<ShowTiling>(&operation.what))
    return own + memory_of(*tiling->tiling.cell);
  return own;
}

inline std::uint64_t memory_of(const SceneData& scene) {
  std::uint64_t bytes = sizeof(scene) + scene.text.memory();
  for (const Operation& operation : scene.operations) bytes += memory_of(operation);
  for (const Clip& clip : scene.clips) bytes += sizeof(clip) + memory_of(clip.path);
  for (const SoftMask& mask : scene.masks) bytes += sizeof(mask) + memory_of(*mask.group);
  return bytes;
}

}  // namespace lumvet::content
