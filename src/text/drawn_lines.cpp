// SPDX-License-Identifier: Apache-2.0
#include "text/drawn_lines.h"

#include <algorithm>
#include <cmath>

namespace lumvet::text {
namespace {

// Points.
constexpr double kShortest = 8;
constexpr double kThickest = 3;
constexpr double kSame = 1;   // by which parts of one line may lie beside each other
constexpr double kApart = 2;  // and along it

class Collecting {
 public:
  explicit Collecting(const Direction& direction) : direction_(direction) {}

  void add_side(Point from, Point to) {
    const double u0 = direction_.place_along(from);
    const double v0 = direction_.place_across(from);
    const double u1 = direction_.place_along(to);
    const double v1 = direction_.place_across(to);
    add_box(std::min(u0, u1), std::max(u0, u1), std::min(v0, v1), std::max(v0, v1));
  }
  void add_box(double left, double right, double top, double bottom) {
    constexpr std::size_t kMost = 20000;  // then the page is a drawing
    if (lines_.along.size() + lines_.across.size() >= kMost) return;
    if (right - left >= kShortest && bottom - top <= kThickest)
      lines_.along.push_back({(top + bottom) / 2, left, right});
    else if (bottom - top >= kShortest && right - left <= kThickest)
      lines_.across.push_back({(left + right) / 2, top, bottom});
  }
  void add_stroke(const Path& path, const Matrix& placed) {
    const auto& points = path.points();
    std::size_t next = 0;
    Point start;
    Point here;
    for (const Path::Segment segment : path.segments()) {
      switch (segment) {
        case Path::Segment::move: start = here = placed.apply(points[next++]); break;
        case Path::Segment::line: {
          const Point to = placed.apply(points[next++]);
          add_side(here, to);
          here = to;
          break;
        }
        case Path::Segment::curve:
          next += 3;
          here = placed.apply(points[next - 1]);
          break;
        case Path::Segment::close:
          add_side(here, start);
          here = start;
          break;
      }
    }
  }
  // Each of its subpaths, as the box around it.
  void add_fill(const Path& path) {
    const auto& points = path.points();
    std::size_t next = 0;
    Rect box = Rect::nothing();
    const auto put = [&] {
      if (box.left <= box.right) add_box(box.left, box.right, box.bottom, box.top);
      box = Rect::nothing();
    };
    for (const Path::Segment segment : path.segments()) {
      if (segment == Path::Segment::move) put();
      const std::size_t count = segment == Path::Segment::curve   ? 3
                                : segment == Path::Segment::close ? 0
                                                                  : 1;
      for (std::size_t i = 0; i < count; ++i, ++next)
        box.include({direction_.place_along(points[next]), direction_.place_across(points[next])});
    }
    put();
  }

  DrawnLines take() {
    join(lines_.along);
    join(lines_.across);
    return std::move(lines_);
  }

 private:
  static void join(std::vector<DrawnLine>& lines) {
    std::sort(lines.begin(), lines.end(),
              [](const DrawnLine& a, const DrawnLine& b) { return a.at < b.at; });
    std::vector<DrawnLine> joined;
    for (std::size_t first = 0; first < lines.size();) {
      std::size_t end = first + 1;
      while (end < lines.size() && lines[end].at - lines[first].at <= kSame) ++end;
      const auto begins = lines.begin() + static_cast<std::ptrdiff_t>(first);
      const auto ends = lines.begin() + static_cast<std::ptrdiff_t>(end);
      std::sort(begins, ends,
                [](const DrawnLine& a, const DrawnLine& b) { return a.begin < b.begin; });
      for (auto line = begins; line != ends; ++line) {
        if (line != begins && line->begin <= joined.back().end + kApart)
          joined.back().end = std::max(joined.back().end, line->end);
        else
          joined.push_back(*line);
      }
      first = end;
    }
    lines = std::move(joined);
  }

  const Direction& direction_;
  DrawnLines lines_;
};

// Whether one of some lines lies between two places, and reaches into a stretch of heights.
bool lies_between(const std::vector<DrawnLine>& lines, double from, double to, double top,
                  double bottom) {
  auto line = std::lower_bound(lines.begin(), lines.end(), from - kSame,
                               [](const DrawnLine& known, double at) { return known.at < at; });
  for (; line != lines.end() && line->at <= to + kSame; ++line)
    if (line->at >= from && line->at <= to && line->begin <= bottom && line->end >= top)
      return true;
  return false;
}

}  // namespace

bool DrawnLines::is_drawn(double from, double to, double height) const {
  return lies_between(across, from, to, height, height);
}

bool DrawnLines::part(double from, double to, double height) const {
  return is_drawn(from, to, height) || has_gap(from, to, height, height);
}

bool DrawnLines::has_gap(double from, double to, double top, double bottom) const {
  return lies_between(gaps, from, to, top, bottom);
}

DrawnLines drawn_lines(const content::SceneData& scene, const Direction& direction) {
  Collecting collecting(direction);
  constexpr std::size_t kMostPoints = 2000;  // of a path that is no picture
  for (const content::Operation& operation : scene.operations) {
    if (const auto* stroke = std::get_if<content::StrokePath>(&operation.what)) {
      if (stroke->path.points().size() <= kMostPoints)
        collecting.add_stroke(stroke->path, stroke->stroked.placed);
    } else if (const auto* fill = std::get_if<content::FillPath>(&operation.what)) {
      if (fill->path.points().size() <= kMostPoints) collecting.add_fill(fill->path);
    }
  }
  return collecting.take();
}

}  // namespace lumvet::text
