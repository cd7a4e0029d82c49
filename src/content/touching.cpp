// SPDX-License-Identifier: Apache-2.0
#include "content/touching.h"

#include <algorithm>
#include <bit>
#include <cmath>
#include <functional>
#include <string_view>
#include <unordered_map>

#include "base/allowance.h"

namespace lumvet::content {
namespace {

constexpr std::size_t kMostClipPoints = 16;  // of clips that give what is drawn its shape

// Which operation had a corner last. Of two that share a slot the later one stays.
class CornerTable {
 public:
  explicit CornerTable(std::size_t operations)
      : bits_(std::clamp(static_cast<int>(std::bit_width(operations * 4)), kFewestBits, kMostBits)),
        slots_(std::size_t{1} << bits_) {}

  // The operation that had this corner with another outline, or kNone; now it is `operation`'s.
  std::uint32_t exchange(Point corner, std::uint32_t operation, std::uint32_t outline) {
    if (!(std::abs(corner.x) < kFarthest && std::abs(corner.y) < kFarthest)) return kNone;
    const std::uint64_t place = std::uint64_t{step_of(corner.x)} << 32 | step_of(corner.y);
    Slot& slot = slots_[(place * kSpread) >> (64 - bits_)];
    const bool is_other = slot.place == place && slot.outline != outline;
    const std::uint32_t before = is_other ? slot.operation : kNone;
    slot = {place, operation, outline};
    return before;
  }

  static constexpr std::uint32_t kNone = ~std::uint32_t{0};

 private:
  static constexpr std::uint64_t kSpread = 0x9E3779B97F4A7C15;  // 2^64 by the golden ratio
  static constexpr double kFarthest = 1 << 20;                  // points
  static constexpr double kPlaces = 16;  // to the point; corners nearer than that are one
  static constexpr int kFewestBits = 6;
  static constexpr int kMostBits = 16;
  struct Slot {
    std::uint64_t place = 0;  // that of a corner is greater
    std::uint32_t operation = kNone;
    std::uint32_t outline = kNone;
  };
  // Never negative, so that to cut it off is to round it.
  static std::uint32_t step_of(double value) {
    return static_cast<std::uint32_t>((value + kFarthest) * kPlaces + 0.5);
  }
  int bits_;
  std::vector<Slot> slots_;
};

// Clips that are stated anew for each shape, as some producers do, are the first of their kind.
class ClipShapes {
 public:
  explicit ClipShapes(const std::vector<Clip>& clips) : clips_(clips) {}

  ClipId first_like(ClipId id) {
    const Path& path = clips_[static_cast<std::size_t>(id)].path;
    const std::vector<Point>& points = path.points();
    const auto* bytes = reinterpret_cast<const char*>(points.data());
    const std::size_t key = std::hash<std::string_view>()({bytes, points.size() * sizeof(Point)});
    const ClipId first = firsts_.emplace(key, id).first->second;
    const Path& other = clips_[static_cast<std::size_t>(first)].path;
    return other.points() == points && other.segments() == path.segments() ? first : id;
  }

 private:
  const std::vector<Clip>& clips_;
  std::unordered_map<std::size_t, ClipId> firsts_;  // by what their points hash to
};

// Calls take(point) for the corners of a path.
template <typename Take>
void corners_of(const Path& path, const Take& take) {
  std::size_t at = 0;
  for (const Path::Segment segment : path.segments()) {
    if (segment == Path::Segment::close) continue;
    at += segment == Path::Segment::curve ? 3 : 1;
    take(path.points()[at - 1]);
  }
}

// A straight line is a rectangle.
template <typename Take>
void corners_of(const StrokePath& line, const Take& take) {
  const std::vector<Point>& points = line.path.points();
  const StrokeStyle& style = line.stroked.style;
  if (points.size() != 2 || line.path.segments().size() != 2 || style.cap == LineCap::round ||
      !style.dashes.empty())
    return;
  const Point along{points[1].x - points[0].x, points[1].y - points[0].y};
  const double length = std::hypot(along.x, along.y);
  if (!(length > 0)) return;
  const double part = style.width / 2 / length;
  const Point left{-along.y * part, along.x * part};
  const double further = style.cap == LineCap::square ? part : 0;
  for (const int end : {0, 1}) {
    const double sign = end == 0 ? -further : further;
    const Point tip{points[static_cast<std::size_t>(end)].x + sign * along.x,
                    points[static_cast<std::size_t>(end)].y + sign * along.y};
    take(line.stroked.placed.apply({tip.x + left.x, tip.y + left.y}));
    take(line.stroked.placed.apply({tip.x - left.x, tip.y - left.y}));
  }
}

// A rectangle whose sides are level and upright.
bool is_box(const Path& path) {
  constexpr std::size_t kCorners = 4;
  const std::vector<Point>& points = path.points();
  const auto& segments = path.segments();
  const auto moves = std::count(segments.begin(), segments.end(), Path::Segment::move);
  const auto curves = std::count(segments.begin(), segments.end(), Path::Segment::curve);
  if (points.size() < kCorners || points.size() > kCorners + 1 || moves != 1 || curves != 0)
    return false;
  for (std::size_t i = 0; i < points.size(); ++i) {
    const Point& next = points[(i + 1) % points.size()];
    if (points[i].x != next.x && points[i].y != next.y) return false;
  }
  return true;
}

bool is_plain(const Operation& operation) {
  if (operation.within.mask != kNoMask) return false;
  return std::visit(
      [](const auto& what) {
        if constexpr (requires { what.paint; })
          return what.paint.blend == color::BlendMode::normal;
        else
          return false;
      },
      operation.what);
}

}  // namespace

void mark_touching(SceneData& scene) {
  if (scene.operations.size() < 2) return;
  CornerTable table(scene.operations.size());
  ClipShapes clips(scene.clips);
  for (std::size_t i = 0; i < scene.operations.size() && goes_on(); ++i) {
    Operation& operation = scene.operations[i];
    if (!is_plain(operation)) continue;
    const auto own = static_cast<std::uint32_t>(i);
    const ClipId id = operation.within.clip;
    const Clip* clip = id == kNoClip ? nullptr : &scene.clips[static_cast<std::size_t>(id)];
    const auto take_of = [&](std::uint32_t outline) {
      return [&, outline](Point corner) {
        const std::uint32_t other = table.exchange(corner, own, outline);
        if (other == CornerTable::kNone || other == own) return;
        operation.touches = true;
        scene.operations[other].touches = true;
      };
    };
    bool fills_clip = false;
    const auto covers_clip = [&](const Rect& bounds) {
      return clip != nullptr && bounds.left <= clip->bounds.left &&
             bounds.right >= clip->bounds.right && bounds.bottom <= clip->bounds.bottom &&
             bounds.top >= clip->bounds.top;
    };
    if (const auto* fill = std::get_if<FillPath>(&operation.what)) {
      fills_clip = covers_clip(fill->path.bounds());
      // All sides of a box that is larger than its clip are cut off.
      if (!fills_clip || !is_box(fill->path)) corners_of(fill->path, take_of(2 * own));
    } else if (const auto* stroke = std::get_if<StrokePath>(&operation.what)) {
      corners_of(*stroke, take_of(2 * own));
    } else if (const auto* image = std::get_if<ShowImage>(&operation.what)) {
      if (image->image->is_stencil()) continue;
      const auto take = take_of(2 * own);
      for (const Point corner : {Point{0, 0}, {1, 0}, {1, 1}, {0, 1}})
        take(image->placed.apply(corner));
      fills_clip = covers_clip(image->placed.bounds_of({0, 0, 1, 1}));
    } else if (const auto* shown = std::get_if<ShowShading>(&operation.what)) {
      fills_clip = clip != nullptr;
      // Meshes one after the other are mostly parts of a larger one.
      const auto* before =
          i == 0 ? nullptr : std::get_if<ShowShading>(&scene.operations[i - 1].what);
      if (before != nullptr && before->shading->is_mesh() && shown->shading->is_mesh())
        operation.touches = scene.operations[i - 1].touches = true;
    }
    if (fills_clip && !clip->stroked && clip->path.points().size() <= kMostClipPoints)
      corners_of(clip->path, take_of(2 * static_cast<std::uint32_t>(clips.first_like(id)) + 1));
  }
}

}  // namespace lumvet::content
