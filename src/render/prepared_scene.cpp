// SPDX-License-Identifier: Apache-2.0
#include "render/prepared_scene.h"

#include <algorithm>
#include <cmath>

#include "base/allowance.h"
#include "base/parallel.h"
#include "raster/convex.h"
#include "raster/stroker.h"
#include "render/tiling_cell.h"
#include "render/workspace.h"

namespace lumvet::rendering {
namespace {

using raster::kTolerance;
using raster::PixelRect;
using raster::Polyline;

constexpr double kHairline = 1.0;   // pixels, for lines of width 0
constexpr std::size_t kChunk = 16;  // operations prepared at a time by one thread

void transform(std::vector<Polyline>& lines, const Matrix& matrix) {
  for (Polyline& line : lines)
    for (Point& p : line.points) p = matrix.apply(p);
}

// The corners of a closed line whose sides are upright or level; others are left as they are.
std::vector<Point> corners_of(const Polyline& line) {
  const std::vector<Point> points = raster::distinct_points(line.points);
  std::vector<Point> corners;
  const std::size_t count = points.size();
  for (std::size_t i = 0; i < count; ++i) {
    const Point before = corners.empty() ? points[count - 1] : corners.back();
    const Point at = points[i];
    const Point after = points[(i + 1) % count];
    const auto is_between = [](double a, double b, double c) {
      return std::min(a, c) <= b && b <= std::max(a, c);
    };
    const bool is_within_side =
        (before.x == at.x && at.x == after.x && is_between(before.y, at.y, after.y)) ||
        (before.y == at.y && at.y == after.y && is_between(before.x, at.x, after.x));
    if (!is_within_side) corners.push_back(at);
  }
  return corners;
}

// The rectangle that lines are, if they are one with upright sides.
std::optional<Rect> upright_rectangle(const std::vector<Polyline>& lines) {
  constexpr std::size_t kMostPoints = 16;  // of those that are worth a look
  if (lines.size() != 1 || lines[0].points.size() < 4 || lines[0].points.size() > kMostPoints)
    return std::nullopt;
  const std::vector<Point> p = corners_of(lines[0]);
  if (p.size() != 4) return std::nullopt;
  const bool across_first =
      p[0].y == p[1].y && p[1].x == p[2].x && p[2].y == p[3].y && p[3].x == p[0].x;
  const bool down_first =
      p[0].x == p[1].x && p[1].y == p[2].y && p[2].x == p[3].x && p[3].y == p[0].y;
  if (!across_first && !down_first) return std::nullopt;
  Rect rectangle = Rect::nothing();
  for (const Point corner : p) rectangle.include(corner);
  return rectangle;
}

// Level and upright pieces of lines `width` pixels wide are moved to where they touch the fewest
// pixels, so that all of them look alike: onto the middle of pixels, or between them.
void put_on_whole_pixels(std::vector<Polyline>& lines, double width) {
  constexpr double kLevel = 1.0 / 64;  // pixels
  constexpr double kNearly = 1e-4;     // what is evenly spaced is not parted by rounding
  const bool is_odd = std::fmod(std::max(1.0, std::round(width)), 2) == 1;
  const auto snapped = [is_odd](double v) {
    return is_odd ? std::floor(v + kNearly) + 0.5 : std::floor(v + 0.5 + kNearly);
  };
  for (Polyline& line : lines) {
    const std::vector<Point> points = line.points;
    const std::size_t count = points.size();
    for (std::size_t i = line.closed ? 0 : 1; i < count; ++i) {
      const std::size_t before = (i + count - 1) % count;
      const bool is_upright = std::abs(points[i].x - points[before].x) < kLevel;
      const bool is_level = std::abs(points[i].y - points[before].y) < kLevel;
      if (is_upright == is_level) continue;  // neither, or no line at all
      for (const std::size_t at : {before, i}) {
        Point& p = line.points[at];
        if (is_upright) p.x = snapped(points[at].x);
        if (is_level) p.y = snapped(points[at].y);
      }
    }
  }
}

// The points of an adjusted line (10.7.5). It keeps its width, so that it is as dark at every
// scale.
void adjust(std::vector<Polyline>& lines, double width, const Matrix& placed) {
  const bool keeps_axes = (placed.b == 0 && placed.c == 0) || (placed.a == 0 && placed.d == 0);
  if (!keeps_axes || !placed.is_invertible()) return;
  transform(lines, placed);
  put_on_whole_pixels(lines, width * placed.scale());
  transform(lines, placed.inverse());
}

std::vector<Polyline> lines_of_stroke(const Path& path, const content::Stroked& stroked,
                                      const Matrix& to_pixels, double thinnest_line) {
  const Matrix placed = stroked.placed.then(to_pixels);
  const double scale = placed.scale();
  constexpr double kNoScale = 1e-9;
  if (!(scale > kNoScale)) return {};
  StrokeStyle style = stroked.style;
  const double thinnest = style.width == 0 ? kHairline : thinnest_line;
  style.width = std::max(style.width, thinnest / scale);
  std::vector<Polyline> middle = raster::flatten(path, {}, kTolerance / scale);
  if (style.adjusted) adjust(middle, style.width, placed);
  std::vector<Polyline> lines = raster::stroke(middle, style, kTolerance / scale);
  transform(lines, placed);
  return lines;
}

// Outlines without any area are painted as a line of width 0 is, and a single point as one pixel
// (ISO 32000-2, 8.5.3.3.1 and 10.7.4). What has an area is as dark as that, however thin.
void show_flat_ones(std::vector<Polyline>& lines) {
  constexpr double kFlat = 1e-6;  // pixels, from rounding
  std::vector<Polyline> thin;
  std::erase_if(lines, [&](const Polyline& line) {
    if (line.points.size() < 2 && !line.closed) return false;
    // Its ends, along the axis by which it is longer.
    Rect bounds = Rect::nothing();
    for (const Point p : line.points) bounds.include(p);
    const bool is_level = bounds.width() >= bounds.height();
    const auto [first, last] =
        std::minmax_element(line.points.begin(), line.points.end(),
                            [&](Point a, Point b) { return is_level ? a.x < b.x : a.y < b.y; });
    const Point low = *first;
    const Point high = *last;
    const double across = high.x - low.x;
    const double down = high.y - low.y;
    const double length = std::hypot(across, down);
    for (const Point p : line.points)
      if (std::abs((p.x - low.x) * down - (p.y - low.y) * across) > kFlat * length) return false;
    thin.push_back({{low, high}, length == 0});
    return true;
  });
  if (thin.empty()) return;
  const StrokeStyle hairline{.width = kHairline, .cap = LineCap::butt};
  const StrokeStyle dot{.width = kHairline, .cap = LineCap::square};
  for (const Polyline& line : thin) {
    const auto outlines = raster::stroke({line}, line.closed ? dot : hairline, kTolerance);
    lines.insert(lines.end(), outlines.begin(), outlines.end());
  }
}

PixelRect bounds_of(const std::vector<Polyline>& lines) {
  Rect bounds = Rect::nothing();
  for (const Polyline& line : lines)
    for (const Point p : line.points) bounds.include(p);
  return raster::pixels_touched(bounds.grown(1.0 / 256));
}

bool lies_within(const std::vector<Polyline>& lines, const std::optional<Rect>& rectangle) {
  if (!rectangle) return false;
  for (const Polyline& line : lines)
    for (const Point p : line.points)
      if (!(p.x >= rectangle->left && p.x <= rectangle->right && p.y >= rectangle->bottom &&
            p.y <= rectangle->top))
        return false;
  return true;
}

// What one thread keeps while it prepares.
class Preparer {
 public:
  Preparer(const PreparedScene& scene, const PixelRect& area, double thinnest_line,
           EdgeStore& edges)
      : scene_(scene),
        to_pixels_(scene.to_pixels),
        area_(area),
        thinnest_line_(thinnest_line),
        edges_(edges) {}

  PreparedOperation prepare(const content::Operation& operation) {
    PreparedOperation prepared;
    prepared.source = &operation;
    prepared.bounds =
        raster::pixels_touched(to_pixels_.bounds_of(operation.bounds).grown(1)).intersected(area_);
    if (prepared.bounds.is_empty()) return prepared;
    std::visit([&](const auto& what) { add(what, prepared); }, operation.what);
    return prepared;
  }

  const std::vector<std::shared_ptr<const images::Image>>& arriving() const { return arriving_; }

 private:
  void set_lines(std::vector<Polyline> lines, PreparedOperation& prepared) {
    if ((prepared.rectangle = upright_rectangle(lines)) && cut_by_rectangles(prepared)) return;
    if (const std::vector<const PreparedClip*> clips = exact_clips_of(prepared, lines);
        !clips.empty()) {
      for (const PreparedClip* clip : clips)
        if (!lies_within(lines, clip->rectangle))
          lines = raster::cut_by_convex(std::move(lines), clip->corners);
      prepared.is_clipped = true;
      if (lines.empty()) prepared.bounds = {};
    }
    if (prepared.is_clipped) prepared.rectangle = upright_rectangle(lines);
    if (prepared.rectangle) return;
    std::size_t points = 0;
    for (const Polyline& line : lines) points += line.points.size();
    const TakenMemory memory(points * (sizeof(Point) + sizeof(raster::Edge)));
    if (memory.status().ok()) prepared.edges = edges_.keep(raster::edges_of(lines, prepared.rule));
  }

  // A rectangle within nothing but upright clips is what they leave of it. False where others are.
  bool cut_by_rectangles(PreparedOperation& prepared) const {
    Rect left = *prepared.rectangle;
    for (content::ClipId id = prepared.source->within.clip; id != content::kNoClip;) {
      const PreparedClip& clip = scene_.clips[static_cast<std::size_t>(id)];
      if (!clip.rectangle) return false;
      left = left.intersected(*clip.rectangle);
      id = clip.outer;
    }
    prepared.rectangle = left;
    prepared.is_clipped = prepared.source->within.clip != content::kNoClip;
    if (!(left.left < left.right && left.bottom < left.top)) prepared.bounds = {};
    return true;
  }

  // The clips around an operation, when all are convex and it is simple enough to be cut by them.
  // So it is as dark as it should be where both have an edge in the same pixel.
  std::vector<const PreparedClip*> exact_clips_of(const PreparedOperation& prepared,
                                                  const std::vector<Polyline>& lines) const {
    constexpr std::size_t kMostPoints = 16;  // of an outline
    constexpr std::size_t kMostClips = 8;
    std::vector<const PreparedClip*> clips;
    if (lines.size() != 1 || lines[0].points.size() > kMostPoints) return clips;
    for (content::ClipId id = prepared.source->within.clip; id != content::kNoClip;) {
      const PreparedClip& clip = scene_.clips[static_cast<std::size_t>(id)];
      if (clip.corners.empty() || clips.size() == kMostClips) return {};
      clips.push_back(&clip);
      id = clip.outer;
    }
    return clips;
  }

  void add(const content::FillPath& fill, PreparedOperation& prepared) {
    std::vector<Polyline> lines = raster::flatten(fill.path, to_pixels_, kTolerance);
    show_flat_ones(lines);
    prepared.rule = fill.rule;
    set_lines(std::move(lines), prepared);
  }

  void add(const content::StrokePath& stroke, PreparedOperation& prepared) {
    set_lines(lines_of_stroke(stroke.path, stroke.stroked, to_pixels_, thinnest_line_), prepared);
  }

  void add(const content::ShowGlyphs& show, PreparedOperation& prepared) {
    for (const content::PlacedGlyph& glyph : show.glyphs) {
      const Matrix placed = glyph.placed.then(to_pixels_);
      PreparedGlyph there{workspace_->glyphs.get(glyph.outline, placed), raster::in_steps(placed.e),
                          raster::in_steps(placed.f)};
      if (!there.bounds().intersected(area_).is_empty())
        prepared.glyphs.push_back(std::move(there));
    }
  }

  // Images that stand upright take whole pixels, so that strips side by side leave no seam. Small
  // stencils are the letters of fonts made of dots, which would be bent by that.
  void add(const content::ShowImage& image, PreparedOperation& prepared) {
    const Matrix placed = image.placed.then(to_pixels_);
    prepared.image = image.image->decoded(reduction_of(*image.image, placed));
    if (!prepared.image) {
      prepared.bounds = {};
      return;
    }
    if (prepared.image->arriving) arriving_.push_back(prepared.image);
    Path square;
    square.add_rect({0, 0, 1, 1});
    std::vector<Polyline> lines = raster::flatten(square, placed, kTolerance);
    constexpr double kLetter = 64;  // pixels
    const Rect box = placed.bounds_of({0, 0, 1, 1});
    const bool is_letter =
        image.image->is_stencil() && box.width() < kLetter && box.height() < kLetter;
    const bool upright = (placed.b == 0 && placed.c == 0) || (placed.a == 0 && placed.d == 0);
    const bool is_line = box.width() < 1 || box.height() < 1;  // as dark as it is wide
    if (!is_letter && !is_line && upright && !lines.empty()) lines = {on_whole_pixels(placed)};
    set_lines(std::move(lines), prepared);
  }

  // By which as many samples are left as pixels, and half as many more, so that the means that are
  // drawn stay sharp.
  static int reduction_of(const content::PageImage& image, const Matrix& placed) {
    if (!placed.is_invertible()) return 1;
    const Matrix m = placed.inverse();
    constexpr double kSpare = 1.5;
    constexpr int kMost = 8;
    const double samples_per_pixel = std::min(image.across() * (std::abs(m.a) + std::abs(m.c)),
                                              image.down() * (std::abs(m.b) + std::abs(m.d)));
    int by = 1;
    while (by < kMost && by * 2 * kSpare <= samples_per_pixel) by *= 2;
    return by;
  }

  static Polyline on_whole_pixels(const Matrix& placed) {
    const Rect box = placed.bounds_of({0, 0, 1, 1});
    const double left = std::round(box.left);
    const double top = std::round(box.bottom);
    const double right = std::max(left + 1, std::round(box.right));
    const double bottom = std::max(top + 1, std::round(box.top));
    return {{{left, top}, {right, top}, {right, bottom}, {left, bottom}}, true};
  }

  void add(const content::ShowShading& show, PreparedOperation& prepared) {
    const auto box = show.shading->box();
    if (!box) return;
    Path edge;
    edge.add_rect(*box);
    prepared.edges = edges_.keep(
        raster::edges_of(raster::flatten(edge, show.placed.then(to_pixels_), kTolerance)));
  }

  void add(const content::ShowTiling& show, PreparedOperation& prepared) {
    const Matrix placed = show.tiling.placed.then(to_pixels_);
    if (placed.is_invertible())
      prepared.cell = std::make_shared<const TilingCell>(show.tiling, placed, thinnest_line_);
  }

  void add(const content::BeginGroup& begin, PreparedOperation& prepared) {
    if (begin.is_plain) prepared.bounds = {};
  }
  void add(const content::EndGroup&, PreparedOperation&) {}

  const PreparedScene& scene_;
  Matrix to_pixels_;
  PixelRect area_;
  double thinnest_line_;
  EdgeStore& edges_;
  std::vector<std::shared_ptr<const images::Image>> arriving_;
  BorrowedWorkspace workspace_ = borrow_workspace();
};

}  // namespace

PreparedScene prepare(const content::SceneData& scene, const Matrix& to_pixels,
                      const PixelRect& area, int threads, double thinnest_line) {
  PreparedScene prepared;
  prepared.to_pixels = to_pixels;
  prepared.edges.resize(static_cast<std::size_t>(std::max(1, threads)));
  for (const content::Clip& clip : scene.clips) {
    if (!goes_on()) return prepared;
    std::vector<Polyline> lines =
        clip.stroked ? lines_of_stroke(clip.path, *clip.stroked, to_pixels, thinnest_line)
                     : raster::flatten(clip.path, to_pixels, kTolerance);
    const std::optional<Rect> rectangle = clip.stroked ? std::nullopt : upright_rectangle(lines);
    constexpr std::size_t kMostCorners = 8;
    std::vector<Point> corners =
        clip.stroked ? std::vector<Point>() : raster::convex_corners(lines);
    if (corners.size() > kMostCorners) corners.clear();
    prepared.clips.push_back({clip.outer,
                              prepared.edges[0].keep(raster::edges_of(lines, clip.rule)),
                              bounds_of(lines), clip.rule, rectangle, std::move(corners)});
  }
  for (const content::SoftMask& mask : scene.masks) {
    if (!goes_on()) return prepared;
    bool has_transfer = false;
    for (std::size_t i = 0; i < mask.transfer.size(); ++i)
      has_transfer = has_transfer || mask.transfer[i] != i;
    prepared.masks.push_back({&mask, has_transfer,
                              std::make_shared<const PreparedScene>(
                                  prepare(*mask.group, to_pixels, area, threads, thinnest_line))});
  }
  std::vector<Preparer> preparers;
  for (EdgeStore& edges : prepared.edges)
    preparers.emplace_back(prepared, area, thinnest_line, edges);
  prepared.operations.resize((scene.operations.size() + kChunk - 1) / kChunk);
  share_out(prepared.operations.size(), threads, [&](int worker, std::size_t chunk) {
    if (!goes_on()) return;
    Preparer& preparer = preparers[static_cast<std::size_t>(worker)];
    const std::size_t end = std::min(scene.operations.size(), (chunk + 1) * kChunk);
    for (std::size_t i = chunk * kChunk; i < end && goes_on(); ++i) {
      PreparedOperation operation = preparer.prepare(scene.operations[i]);
      if (!operation.bounds.is_empty()) prepared.operations[chunk].push_back(std::move(operation));
    }
  });
  for (const Preparer& preparer : preparers)
    prepared.arriving.insert(prepared.arriving.end(), preparer.arriving().begin(),
                             preparer.arriving().end());
  return prepared;
}

}  // namespace lumvet::rendering
