// SPDX-License-Identifier: Apache-2.0
// A Canvas that keeps what it is told as a scene, except for what lies wholly outside.
//
// Threads: one thread at a time.
#pragma once

#include <unordered_map>

#include "content/scene_data.h"

namespace lumvet::content {

class Recorder final : public Canvas {
 public:
  // `scene` has its bounds set and is otherwise empty.
  explicit Recorder(SceneData& scene) : scene_(scene) {}

  ClipId clip(ClipId outer, Path path, FillRule rule) override;
  ClipId clip_to_stroke(ClipId outer, Path path, const Matrix& placed,
                        const StrokeStyle& style) override;
  Rect bounds_of(ClipId clip) const override;
  MaskId soft_mask(SoftMask mask) override;

  void fill(Path path, FillRule rule, const Paint& paint, const Within& within) override;
  void stroke(Path path, const Matrix& placed, const StrokeStyle& style, const Paint& paint,
              const Within& within) override;
  void glyphs(std::vector<PlacedGlyph> glyphs, const Rect& bounds, const Paint& paint,
              const Within& within) override;
  void image(ImagePtr image, const Matrix& placed, bool interpolate, const Paint& paint,
             const Within& within) override;
  void shading(std::shared_ptr<const color::Shading> shading, const Matrix& placed,
               const Paint& paint, const Within& within) override;
  void tiling(Tiling tiling, const Paint& paint, const Within& within) override;
  void begin_group(const Group& group, const Within& within) override;
  void end_group() override;
  Result<ScenePtr> record(const Rect& bounds, const Draw& draw) override;
  // Those that were begun, when what drew came to its end early.
  void end_groups() {
    while (!groups_.empty()) end_group();
  }

 private:
  struct OpenGroup {
    std::size_t begin;  // its place among the operations
    Rect bounds = Rect::nothing();
    bool has_blends = false;
    GroupColors colors = GroupColors::screen;
  };

  GroupColors colors() const {
    return groups_.empty() ? GroupColors::screen : groups_.back().colors;
  }
  // What was recorded from `begin` on, and what is no group, or is in none of another.
  void take_color_out(std::size_t begin);
  const Rect& bounds_of(const std::shared_ptr<const Path>& outline);
  ClipId known_clip(ClipId outer, const Path& path, FillRule rule) const;
  template <typename What>
  void add(What what, const Rect& bounds, const Within& within);

  SceneData& scene_;
  std::vector<OpenGroup> groups_;
};

}  // namespace lumvet::content
