// SPDX-License-Identifier: Apache-2.0
#include "content/recorder.h"

#include <algorithm>

#include "base/allowance.h"
#include "base/luminance.h"
#include "color/inks.h"
#include "content/scene_memory.h"
#include "content/touching.h"

namespace lumvet::content {
namespace {

Rect bounds_of_stroke(const Path& path, const Matrix& placed, const StrokeStyle& style) {
  // Miters reach the furthest, then the corners of square caps.
  const double reach = style.join == LineJoin::miter ? std::max(style.miter_limit, 1.5) : 1.5;
  const double grow = std::max(style.width / 2 * reach, 0.0);
  // The thinnest line is a pixel wide whatever the scale, so leave room for one of a point.
  return placed.bounds_of(path.bounds().grown(grow)).grown(1);
}

Paint without_color(Paint paint) {
  paint.red = paint.green = paint.blue =
      static_cast<std::uint8_t>(luminance(paint.red, paint.green, paint.blue));
  paint.in_gray = true;
  return paint;
}

// Lines without area still show; what has crossed bounds or none at all does not.
bool is_somewhere(const Rect& rect) { return rect.left <= rect.right && rect.bottom <= rect.top; }

}  // namespace

// Many writers set the same clip again for everything they draw.
ClipId Recorder::known_clip(ClipId outer, const Path& path, FillRule rule) const {
  constexpr std::size_t kRecent = 8;
  const std::size_t count = scene_.clips.size();
  for (std::size_t i = count; i > 0 && i + kRecent > count; --i) {
    const Clip& clip = scene_.clips[i - 1];
    if (clip.outer == outer && clip.rule == rule && !clip.stroked && clip.path == path)
      return static_cast<ClipId>(i - 1);
  }
  return kNoClip;
}

ClipId Recorder::clip(ClipId outer, Path path, FillRule rule) {
  if (const ClipId known = known_clip(outer, path, rule); known != kNoClip) return known;
  const Rect bounds = path.is_empty() ? Rect{} : path.bounds().intersected(bounds_of(outer));
  if (!Allowance::take(sizeof(Clip) + memory_of(path))) return outer;
  scene_.clips.push_back({outer, std::move(path), rule, {}, bounds});
  return static_cast<ClipId>(scene_.clips.size() - 1);
}

ClipId Recorder::clip_to_stroke(ClipId outer, Path path, const Matrix& placed,
                                const StrokeStyle& style) {
  const Rect bounds = bounds_of_stroke(path, placed, style).intersected(bounds_of(outer));
  if (!Allowance::take(sizeof(Clip) + memory_of(path))) return outer;
  scene_.clips.push_back(
      {outer, std::move(path), FillRule::nonzero, Stroked{placed, style}, bounds});
  return static_cast<ClipId>(scene_.clips.size() - 1);
}

Rect Recorder::bounds_of(ClipId clip) const {
  return clip == kNoClip ? scene_.bounds : scene_.clips[static_cast<std::size_t>(clip)].bounds;
}

MaskId Recorder::soft_mask(SoftMask mask) {
  scene_.masks.push_back(std::move(mask));
  return static_cast<MaskId>(scene_.masks.size() - 1);
}

template <typename What>
void Recorder::add(What what, const Rect& bounds, const Within& within) {
  const Rect seen = bounds.intersected(bounds_of(within.clip));
  if (!is_somewhere(seen)) return;
  if (!groups_.empty()) {
    groups_.back().bounds.include({seen.left, seen.bottom});
    groups_.back().bounds.include({seen.right, seen.top});
    if (what.paint.blend != color::BlendMode::normal) groups_.back().has_blends = true;
  }
  if (colors() == GroupColors::gray) what.paint = without_color(what.paint);
  what.paint.in_inks = colors() == GroupColors::inks && color::matters_in_inks(what.paint.blend);
  // What is too much is not kept; whoever runs the page's content ends at its next operator.
  if (!Allowance::take(sizeof(Operation) + own_memory_of(what))) return;
  scene_.operations.push_back({std::move(what), within, seen});
}

void Recorder::fill(Path path, FillRule rule, const Paint& paint, const Within& within) {
  const Rect bounds = path.bounds();
  add(FillPath{std::move(path), rule, paint}, bounds, within);
}

void Recorder::stroke(Path path, const Matrix& placed, const StrokeStyle& style, const Paint& paint,
                      const Within& within) {
  const Rect bounds = bounds_of_stroke(path, placed, style);
  add(StrokePath{std::move(path), {placed, style}, paint}, bounds, within);
}

void Recorder::glyphs(std::vector<PlacedGlyph> glyphs, const Rect& bounds, const Paint& paint,
                      const Within& within) {
  add(ShowGlyphs{std::move(glyphs), paint}, bounds, within);
}

void Recorder::image(ImagePtr image, const Matrix& placed, bool interpolate, const Paint& paint,
                     const Within& within) {
  add(ShowImage{std::move(image), placed, interpolate, paint},
      placed.bounds_of({0, 0, 1, 1}).grown(1), within);
}

void Recorder::shading(std::shared_ptr<const color::Shading> shading, const Matrix& placed,
                       const Paint& paint, const Within& within) {
  Rect bounds = bounds_of(within.clip);
  for (const auto& reached : {shading->box(), shading->reach()})
    if (reached) bounds = bounds.intersected(placed.bounds_of(*reached));
  add(ShowShading{std::move(shading), placed, paint}, bounds, within);
}

void Recorder::tiling(Tiling tiling, const Paint& paint, const Within& within) {
  add(ShowTiling{std::move(tiling), paint}, bounds_of(within.clip), within);
}

void Recorder::begin_group(const Group& group, const Within& within) {
  BeginGroup begin{group};
  begin.group.in_inks = colors() == GroupColors::inks && color::matters_in_inks(group.blend);
  const GroupColors own = group.colors == GroupColors::as_around ? colors() : group.colors;
  Allowance::take(sizeof(Operation));
  groups_.push_back({.begin = scene_.operations.size(), .colors = own});
  scene_.operations.push_back({begin, within, {}});
}

// A group that shows as its parts would by themselves is none.
void Recorder::end_group() {
  const OpenGroup closed = groups_.back();
  groups_.pop_back();
  Operation& begin = scene_.operations[closed.begin];
  auto& what = std::get<BeginGroup>(begin.what);
  const Group& group = what.group;
  what.mixes_with_below = !group.isolated && closed.has_blends;
  const bool is_plain = group.alpha == 255 && group.blend == color::BlendMode::normal &&
                        begin.within.mask == kNoMask && !group.knockout &&
                        !(group.isolated && closed.has_blends);
  const Rect seen = closed.bounds.intersected(bounds_of(begin.within.clip));
  const bool blends = closed.has_blends || group.blend != color::BlendMode::normal;
  if (!is_somewhere(seen)) {
    scene_.operations.truncate(closed.begin);
    return;
  }
  if (!groups_.empty()) {
    groups_.back().bounds.include({seen.left, seen.bottom});
    groups_.back().bounds.include({seen.right, seen.top});
    groups_.back().has_blends = groups_.back().has_blends || (blends && !group.isolated) ||
                                group.blend != color::BlendMode::normal;
  }
  // Colors of its own do not reach a group without.
  if (colors() == GroupColors::gray && closed.colors != GroupColors::gray) {
    if (is_plain)
      take_color_out(closed.begin + 1);
    else
      what.group.in_gray = true;
  }
  if (is_plain && closed.begin == 0) {  // as of nearly every page
    scene_.operations.drop_first();
    return;
  }
  what.is_plain = is_plain;
  if (is_plain) return;
  begin.bounds = seen;
  scene_.operations.push_back({EndGroup{}, begin.within, seen});
}

void Recorder::take_color_out(std::size_t begin) {
  int deep = 0;
  for (std::size_t i = begin; i < scene_.operations.size(); ++i) {
    auto& operation = scene_.operations[i].what;
    if (auto* group = std::get_if<BeginGroup>(&operation)) {
      if (group->is_plain) continue;
      if (deep++ == 0) group->group.in_gray = true;
    } else if (std::holds_alternative<EndGroup>(operation)) {
      --deep;
    } else if (deep == 0) {
      std::visit(
          [](auto& what) {
            if constexpr (requires { what.paint; }) what.paint = without_color(what.paint);
          },
          operation);
    }
  }
}

Result<ScenePtr> Recorder::record(const Rect& bounds, const Draw& draw) {
  constexpr std::uint64_t kRoom = 4096;  // bytes that even a small one takes
  LUMVET_RETURN_IF_ERROR(take_memory(kRoom));
  auto scene = std::make_shared<SceneData>();
  scene->bounds = bounds;
  Recorder inner(*scene);
  LUMVET_RETURN_IF_ERROR(draw(inner));
  mark_touching(*scene);
  return ScenePtr(std::move(scene));
}

}  // namespace lumvet::content
