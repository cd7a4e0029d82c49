// SPDX-License-Identifier: Apache-2.0
#include "render/prepared_scene.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <tuple>

#include "base/allowance.h"
#include "base/parallel.h"
#include "raster/stroker.h"
#include "render/tiling_cell.h"

namespace lumvet::rendering {
namespace {

using raster::PixelRect;
using raster::Polyline;

constexpr double kTolerance = 0.03;     // pixels
constexpr double kThinnestLine = 0.75;  // pixels; thinner lines would fade away
constexpr double kHairline = 1.0;       // pixels, for lines of width 0
constexpr std::size_t kChunk = 16;      // operations prepared at a time by one thread

void transform(std::vector<Polyline>& lines, const Matrix& matrix) {
  for (Polyline& line : lines)
    for (Point& p : line.points) p = matrix.apply(p);
}

// The rectangle that lines are, if they are one with upright sides.
std::optional<Rect> upright_rectangle(const std::vector<Polyline>& lines) {
  if (lines.size() != 1 || lines[0].points.size() != 4) return std::nullopt;
  const std::vector<Point>& p = lines[0].points;
  const bool across_first =
      p[0].y == p[1].y && p[1].x == p[2].x && p[2].y == p[3].y && p[3].x == p[0].x;
  const bool down_first =
      p[0].x == p[1].x && p[1].y == p[2].y && p[2].x == p[3].x && p[3].y == p[0].y;
  if (!across_first && !down_first) return std::nullopt;
  Rect rectangle = Rect::nothing();
  for (const Point corner : p) rectangle.include(corner);
  return rectangle;
}

// Outlines that were flattened already, by glyph and the four numbers of its size and slant.
class GlyphCache {
 public:
  GlyphEdges get(const std::shared_ptr<const Path>& outline, const Matrix& m) {
    GlyphEdges& edges = kept_[{outline.get(), m.a, m.b, m.c, m.d}];
    if (!edges)
      edges = std::make_shared<const raster::Edges>(
          raster::edges_of(raster::flatten(*outline, {m.a, m.b, m.c, m.d, 0, 0}, kTolerance)));
    return edges;
  }

 private:
  std::map<std::tuple<const Path*, double, double, double, double>, GlyphEdges> kept_;
};

// Level and upright pieces of lines `width` pixels wide are moved so that both their edges lie
// between pixels. False where there are none.
bool put_on_whole_pixels(std::vector<Polyline>& lines, double width) {
  constexpr double kLevel = 1.0 / 64;  // pixels
  const bool is_odd = std::fmod(width, 2) == 1;
  const auto snapped = [is_odd](double v) { return is_odd ? std::floor(v) + 0.5 : std::round(v); };
  bool any = false;
  for (Polyline& line : lines) {
    const std::vector<Point> points = line.points;
    const std::size_t count = points.size();
    for (std::size_t i = line.closed ? 0 : 1; i < count; ++i) {
      const std::size_t before = (i + count - 1) % count;
      const bool is_upright = std::abs(points[i].x - points[before].x) < kLevel;
      const bool is_level = std::abs(points[i].y - points[before].y) < kLevel;
      if (is_upright == is_level) continue;  // neither, or no line at all
      any = true;
      for (const std::size_t at : {before, i}) {
        Point& p = line.points[at];
        if (is_upright) p.x = snapped(points[at].x);
        if (is_level) p.y = snapped(points[at].y);
      }
    }
  }
  return any;
}

// The line's width when it is adjusted, in whole pixels, and its points with it.
void adjust(std::vector<Polyline>& lines, StrokeStyle& style, const Matrix& placed) {
  const bool keeps_axes = (placed.b == 0 && placed.c == 0) || (placed.a == 0 && placed.d == 0);
  if (!keeps_axes || !placed.is_invertible()) return;
  const double scale = placed.scale();
  const double width = std::max(1.0, std::round(style.width * scale));
  std::vector<Polyline> pixels = lines;
  transform(pixels, placed);
  if (!put_on_whole_pixels(pixels, width)) return;
  transform(pixels, placed.inverse());
  lines = std::move(pixels);
  style.width = width / scale;
}

std::vector<Polyline> lines_of_stroke(const Path& path, const content::Stroked& stroked,
                                      const Matrix& to_pixels) {
  const Matrix placed = stroked.placed.then(to_pixels);
  const double scale = placed.scale();
  constexpr double kNoScale = 1e-9;
  if (!(scale > kNoScale)) return {};
  StrokeStyle style = stroked.style;
  const double thinnest = style.width == 0 ? kHairline : kThinnestLine;
  style.width = std::max(style.width, thinnest / scale);
  std::vector<Polyline> middle = raster::flatten(path, {}, kTolerance / scale);
  if (style.adjusted) adjust(middle, style, placed);
  std::vector<Polyline> lines = raster::stroke(middle, style, kTolerance / scale);
  transform(lines, placed);
  return lines;
}

PixelRect bounds_of(const std::vector<Polyline>& lines) {
  Rect bounds = Rect::nothing();
  for (const Polyline& line : lines)
    for (const Point p : line.points) bounds.include(p);
  return raster::pixels_touched(bounds.grown(1.0 / 256));
}

// What one thread keeps while it prepares.
class Preparer {
 public:
  Preparer(const Matrix& to_pixels, const PixelRect& area, EdgeStore& edges)
      : to_pixels_(to_pixels), area_(area), edges_(edges) {}

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
  void set_lines(const std::vector<Polyline>& lines, PreparedOperation& prepared) {
    prepared.rectangle = upright_rectangle(lines);
    if (prepared.rectangle) return;
    std::size_t points = 0;
    for (const Polyline& line : lines) points += line.points.size();
    const TakenMemory memory(points * (sizeof(Point) + sizeof(raster::Edge)));
    if (memory.status().ok()) prepared.edges = edges_.keep(raster::edges_of(lines));
  }

  void add(const content::FillPath& fill, PreparedOperation& prepared) {
    set_lines(raster::flatten(fill.path, to_pixels_, kTolerance), prepared);
    prepared.rule = fill.rule;
  }

  void add(const content::StrokePath& stroke, PreparedOperation& prepared) {
    set_lines(lines_of_stroke(stroke.path, stroke.stroked, to_pixels_), prepared);
  }

  void add(const content::ShowGlyphs& show, PreparedOperation& prepared) {
    for (const content::PlacedGlyph& glyph : show.glyphs) {
      const Matrix placed = glyph.placed.then(to_pixels_);
      const PixelRect bounds =
          raster::pixels_touched(placed.bounds_of(glyph.outline->bounds())).intersected(area_);
      if (bounds.is_empty()) continue;
      prepared.glyphs.push_back({glyphs_.get(glyph.outline, placed), raster::in_steps(placed.e),
                                 raster::in_steps(placed.f), bounds});
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
    if (!is_letter && upright && !lines.empty()) lines = {on_whole_pixels(placed)};
    set_lines(lines, prepared);
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
      prepared.cell = std::make_shared<const TilingCell>(show.tiling, placed);
  }

  void add(const content::BeginGroup& begin, PreparedOperation& prepared) {
    if (begin.is_plain) prepared.bounds = {};
  }
  void add(const content::EndGroup&, PreparedOperation&) {}

  Matrix to_pixels_;
  PixelRect area_;
  EdgeStore& edges_;
  std::vector<std::shared_ptr<const images::Image>> arriving_;
  GlyphCache glyphs_;
};

}  // namespace

PreparedScene prepare(const content::SceneData& scene, const Matrix& to_pixels,
                      const PixelRect& area, int threads) {
  PreparedScene prepared;
  prepared.to_pixels = to_pixels;
  prepared.edges.resize(static_cast<std::size_t>(std::max(1, threads)));
  for (const content::Clip& clip : scene.clips) {
    if (!goes_on()) return prepared;
    std::vector<Polyline> lines = clip.stroked
                                      ? lines_of_stroke(clip.path, *clip.stroked, to_pixels)
                                      : raster::flatten(clip.path, to_pixels, kTolerance);
    const std::optional<Rect> rectangle = clip.stroked ? std::nullopt : upright_rectangle(lines);
    prepared.clips.push_back({clip.outer, prepared.edges[0].keep(raster::edges_of(lines)),
                              bounds_of(lines), clip.rule, rectangle});
  }
  for (const content::SoftMask& mask : scene.masks) {
    if (!goes_on()) return prepared;
    bool has_transfer = false;
    for (std::size_t i = 0; i < mask.transfer.size(); ++i)
      has_transfer = has_transfer || mask.transfer[i] != i;
    prepared.masks.push_back(
        {&mask, has_transfer,
         std::make_shared<const PreparedScene>(prepare(*mask.group, to_pixels, area, threads))});
  }
  std::vector<Preparer> preparers;
  for (EdgeStore& edges : prepared.edges) preparers.emplace_back(to_pixels, area, edges);
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
