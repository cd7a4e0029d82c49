// SPDX-License-Identifier: Apache-2.0
// Marks made of what a person sees on a page.
#include <algorithm>
#include <cmath>

#include "document/annotation_flags.h"
#include "document/annotations.h"
#include "document/appearance.h"
#include "lumvet/annotate/annotations.h"

namespace lumvet {
namespace {

using Kind = Annotation::Kind;

Rect bounds_of(const std::vector<Point>& points) {
  Rect bounds = Rect::nothing();
  for (const Point p : points) bounds.include(p);
  return bounds;
}

std::vector<Point> page_points(const Page& page, const std::vector<Point>& shown) {
  std::vector<Point> points;
  points.reserve(shown.size());
  for (const Point p : shown) points.push_back(page_point(page, p));
  return points;
}

// Upright on the page as it is shown.
Annotation of_kind(const Page& page, Kind kind) {
  Annotation mark;
  mark.kind = kind;
  if (document::has_rotation(document::type_of(kind))) mark.rotation = page.rotation();
  if (kind == Kind::text || kind == Kind::file_attachment) mark.flags |= document::kNoRotate;
  static const std::vector<double> kRed = {0.8, 0.15, 0.1};
  switch (kind) {
    case Kind::highlight: mark.color = {1, 0.92, 0.4}; break;
    case Kind::text: mark.color = {0.98, 0.82, 0.35}; break;
    case Kind::stamp: mark.icon = "Draft"; break;
    case Kind::free_text:
      mark.default_appearance = "/Helv 11 Tf 0 g";
      mark.intent = "FreeText";
      break;
    case Kind::redact:
      mark.interior_color = {0};
      mark.color = kRed;
      break;
    case Kind::link: break;
    case Kind::ink: mark.border.width = 2; [[fallthrough]];
    default: mark.color = kRed; break;
  }
  return mark;
}

}  // namespace

Point page_point(const Page& page, Point shown) { return page.to_display().inverse().apply(shown); }

Rect page_rect(const Page& page, const PageArea& shown) {
  return page.to_display().inverse().bounds_of(
      {shown.left, shown.top, shown.left + shown.width, shown.top + shown.height});
}

PageArea shown_area(const Page& page, const Rect& rect) {
  const Rect shown = page.to_display().bounds_of(rect);
  return {shown.left, shown.bottom, shown.width(), shown.height()};
}

Rect mark_rect(const Page& page, const Annotation& mark, const PageArea& shown) {
  if ((mark.flags & document::kNoRotate) == 0) return page_rect(page, shown);
  const Point corner = page_point(page, {shown.left, shown.top});
  return {corner.x, corner.y - shown.height / page.user_unit(),
          corner.x + shown.width / page.user_unit(), corner.y};
}

PageArea mark_area(const Page& page, const Annotation& mark) {
  if ((mark.flags & document::kNoRotate) == 0) return shown_area(page, mark.rect);
  const Point corner = page.to_display().apply({mark.rect.left, mark.rect.top});
  return {corner.x, corner.y, mark.rect.width() * page.user_unit(),
          mark.rect.height() * page.user_unit()};
}

Annotation note_at(const Page& page, Point at, const std::string& contents) {
  constexpr double kSize = 20;
  Annotation note = of_kind(page, Kind::text);
  note.rect = mark_rect(page, note, {at.x, at.y, kSize, kSize});
  note.icon = "Comment";
  note.contents = contents;
  return note;
}

Annotation text_mark(const Page& page, Kind kind, const std::vector<Quad>& quads) {
  Annotation mark = of_kind(page, kind);
  std::vector<Point> all;
  for (const Quad& quad : quads) {
    const auto at = [&](std::size_t i) { return page_point(page, quad[i]); };
    // As everybody writes them: the upper two, then the lower two.
    mark.quads.push_back({at(0), at(1), at(3), at(2)});
    all.insert(all.end(), mark.quads.back().begin(), mark.quads.back().end());
  }
  if (!all.empty()) mark.rect = bounds_of(all);
  return mark;
}

Annotation mark_in(const Page& page, Kind kind, const PageArea& area) {
  Annotation mark = of_kind(page, kind);
  mark.rect = mark_rect(page, mark, area);
  return mark;
}

Annotation mark_through(const Page& page, Kind kind, const std::vector<Point>& points) {
  Annotation mark = of_kind(page, kind);
  mark.vertices = page_points(page, points);
  if (!points.empty()) mark.rect = bounds_of(mark.vertices);
  return mark;
}

Annotation ink(const Page& page, const std::vector<std::vector<Point>>& strokes) {
  Annotation mark = of_kind(page, Kind::ink);
  std::vector<Point> all;
  for (const auto& stroke : strokes) {
    mark.strokes.push_back(page_points(page, stroke));
    all.insert(all.end(), mark.strokes.back().begin(), mark.strokes.back().end());
  }
  if (!all.empty()) mark.rect = bounds_of(all);
  return mark;
}

Annotation transformed(Annotation mark, const Matrix& by) {
  mark.rect = by.bounds_of(mark.rect);
  for (auto& quad : mark.quads)
    for (Point& corner : quad) corner = by.apply(corner);
  for (Point& vertex : mark.vertices) vertex = by.apply(vertex);
  for (auto& stroke : mark.strokes)
    for (Point& point : stroke) point = by.apply(point);
  constexpr double kQuarter = 1.5707963267948966;
  const auto quarters = static_cast<int>(std::lround(std::atan2(by.b, by.a) / kQuarter));
  mark.rotation = (mark.rotation + 90 * quarters + 360) % 360;
  return mark;
}

}  // namespace lumvet
