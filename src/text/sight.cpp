// SPDX-License-Identifier: Apache-2.0
#include "text/sight.h"

#include <algorithm>
#include <cstdlib>
#include <optional>

namespace lumvet::text {
namespace {

using content::Paint;

constexpr double kThinnest = 2;  // points, of what might cover a letter

std::optional<Rect> upright_rect(const Path& path) {
  using Segment = Path::Segment;
  const auto& segments = path.segments();
  const auto& points = path.points();
  if (points.size() < 4 || points.size() > 5 || segments[0] != Segment::move) return std::nullopt;
  const bool is_lines = std::all_of(segments.begin() + 1, segments.end(), [](Segment segment) {
    return segment == Segment::line || segment == Segment::close;
  });
  if (!is_lines || (points.size() == 5 && points[4] != points[0])) return std::nullopt;
  constexpr double kSame = 1e-3;  // points
  const auto is_level = [](Point a, Point b) { return std::abs(a.y - b.y) < kSame; };
  const auto is_plumb = [](Point a, Point b) { return std::abs(a.x - b.x) < kSame; };
  const bool level_first = is_level(points[0], points[1]) && is_plumb(points[1], points[2]) &&
                           is_level(points[2], points[3]) && is_plumb(points[3], points[0]);
  const bool plumb_first = is_plumb(points[0], points[1]) && is_level(points[1], points[2]) &&
                           is_plumb(points[2], points[3]) && is_level(points[3], points[0]);
  if (!level_first && !plumb_first) return std::nullopt;
  return path.bounds();
}

bool is_upright(const Matrix& placed) {
  constexpr double kSame = 1e-3;  // points
  return (std::abs(placed.b) < kSame && std::abs(placed.c) < kSame) ||
         (std::abs(placed.a) < kSame && std::abs(placed.d) < kSame);
}

bool hides(const Paint& paint) {
  return paint.alpha == 255 && paint.blend == color::BlendMode::normal;
}

// Whether nothing of a group shows what is below its parts.
bool hides(const content::Group& group) {
  return group.alpha == 255 && group.blend == color::BlendMode::normal && !group.knockout;
}

bool holds(const Rect& box, const Rect& inner) {
  return box.left <= inner.left && box.right >= inner.right && box.bottom <= inner.bottom &&
         box.top >= inner.top;
}

}  // namespace

Sight::Sight(const content::SceneData& scene) : scene_(scene) {
  if (!scene.text.runs.empty()) find_covers();
}

std::size_t Sight::cell_of(double at, double size) {
  return size > 0 ? static_cast<std::size_t>(std::clamp(at / size * kCells, 0.0, kCells - 1.0)) : 0;
}

void Sight::add(const Cover& cover) {
  const Rect& box = cover.box;
  if (!(box.width() >= kThinnest && box.height() >= kThinnest)) return;
  for (std::size_t row = row_of(box.bottom); row <= row_of(box.top); ++row)
    for (std::size_t column = column_of(box.left); column <= column_of(box.right); ++column)
      cells_[row * kCells + column].push_back(static_cast<std::uint32_t>(covers_.size()));
  covers_.push_back(cover);
}

void Sight::find_covers() {
  constexpr std::size_t kMost = 20000;  // then the page is a drawing
  std::vector<bool> is_upright_clip(scene_.clips.size());
  for (std::size_t i = 0; i < scene_.clips.size(); ++i) {
    const content::Clip& clip = scene_.clips[i];
    is_upright_clip[i] = !clip.stroked && upright_rect(clip.path) &&
                         (clip.outer < 0 || is_upright_clip[static_cast<std::size_t>(clip.outer)]);
  }
  std::vector<bool> groups;  // those that are open, whether they hide what is below them
  std::size_t see_through = 0;
  for (std::uint32_t i = 0; i < scene_.operations.size() && covers_.size() < kMost; ++i) {
    const content::Operation& operation = scene_.operations[i];
    if (const auto* group = std::get_if<content::BeginGroup>(&operation.what)) {
      if (group->is_plain) continue;
      groups.push_back(hides(group->group) && operation.within.mask == content::kNoMask);
      see_through += groups.back() ? 0 : 1;
    } else if (std::holds_alternative<content::EndGroup>(operation.what)) {
      if (groups.empty()) continue;
      see_through -= groups.back() ? 0 : 1;
      groups.pop_back();
    }
    const content::ClipId clip = operation.within.clip;
    const bool is_whole = see_through == 0 && operation.within.mask == content::kNoMask &&
                          (clip < 0 || is_upright_clip[static_cast<std::size_t>(clip)]);
    Cover cover{i + static_cast<std::uint32_t>(scene_.operations.dropped()), operation.bounds};
    if (const auto* fill = std::get_if<content::FillPath>(&operation.what)) {
      cover.hides = is_whole && hides(fill->paint) && upright_rect(fill->path);
      cover.has_color = cover.hides;
      cover.color = {fill->paint.red, fill->paint.green, fill->paint.blue};
    } else if (const auto* image = std::get_if<content::ShowImage>(&operation.what)) {
      cover.hides =
          is_whole && hides(image->paint) && !image->image->has_mask() && is_upright(image->placed);
    } else if (!std::holds_alternative<content::StrokePath>(operation.what) &&
               !std::holds_alternative<content::ShowShading>(operation.what) &&
               !std::holds_alternative<content::ShowTiling>(operation.what)) {
      continue;
    }
    add(cover);
  }
}

std::optional<Visibility> Sight::of_all(const content::TextRun& run, const Rect& box) const {
  if (run.clip >= 0) {
    const Rect& clip = scene_.clips[static_cast<std::size_t>(run.clip)].bounds;
    if (!holds(clip, box)) return std::nullopt;
  }
  for (std::size_t row = row_of(box.bottom); row <= row_of(box.top); ++row)
    for (std::size_t column = column_of(box.left); column <= column_of(box.right); ++column)
      for (const std::uint32_t number : cells_[row * kCells + column]) {
        const Rect& cover = covers_[number].box;
        if (cover.left < box.right && cover.right > box.left && cover.bottom < box.top &&
            cover.top > box.bottom)
          return std::nullopt;
      }
  return of(run, {box.left, box.bottom, box.left, box.bottom});
}

Visibility Sight::of(const content::TextRun& run, const Rect& letter) const {
  const content::TextLook& look = scene_.text.styles[run.style].look;
  if (look.mode == LetterMode::invisible || look.is_clear) return Visibility::invisible;
  const Point middle{(letter.left + letter.right) / 2, (letter.bottom + letter.top) / 2};
  if (run.clip >= 0) {
    const Rect& clip = scene_.clips[static_cast<std::size_t>(run.clip)].bounds;
    if (middle.x < clip.left || middle.x > clip.right || middle.y < clip.bottom ||
        middle.y > clip.top)
      return Visibility::clipped;
  }
  const Cover* below = nullptr;
  for (const std::uint32_t number : cells_[row_of(middle.y) * kCells + column_of(middle.x)]) {
    const Cover& cover = covers_[number];
    if (!holds(cover.box, letter)) continue;
    const bool is_above = cover.operation >= run.operation;
    if (is_above && cover.hides) return Visibility::covered;
    if (!is_above) below = &cover;
  }
  if (!look.has_color || (below != nullptr && !below->has_color)) return Visibility::seen;
  constexpr std::array<std::uint8_t, 3> kPaper{255, 255, 255};
  constexpr int kAlike = 6;  // levels of 255
  const auto& ground = below != nullptr ? below->color : kPaper;
  for (std::size_t i = 0; i < ground.size(); ++i)
    if (std::abs(int{ground[i]} - int{look.color[i]}) > kAlike) return Visibility::seen;
  return Visibility::as_ground;
}

}  // namespace lumvet::text
