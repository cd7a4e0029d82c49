// SPDX-License-Identifier: Apache-2.0
#include "redact/cut_paths.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "raster/polyline.h"

namespace lumvet::redacting {
namespace {

// The subpaths by themselves, as they stand.
std::vector<Path> subpaths_of(const Path& path) {
  std::vector<Path> all;
  std::size_t at = 0;
  const auto next = [&] { return path.points()[at++]; };
  for (const Path::Segment segment : path.segments()) {
    if (segment == Path::Segment::move || all.empty()) all.emplace_back();
    switch (segment) {
      case Path::Segment::move: all.back().move_to(next()); break;
      case Path::Segment::line: all.back().line_to(next()); break;
      case Path::Segment::curve: {
        const Point a = next();
        const Point b = next();
        all.back().curve_to(a, b, next());
        break;
      }
      case Path::Segment::close: {
        all.back().close();
        // What follows without a move begins where this did.
        break;
      }
    }
  }
  return all;
}

double distance(Point a, Point b) { return std::hypot(b.x - a.x, b.y - a.y); }

// From where to where on the way from `a` to `b` it is deeper than `depth` within a hull.
struct Span {
  double begin = 0;
  double end = 0;
};
std::optional<Span> deep_part(const Polygon& hull, Point a, Point b, double depth) {
  Span span{0, 1};
  for (std::size_t i = 0; i < hull.size(); ++i) {
    const Point p = hull[i];
    const Point q = hull[(i + 1) % hull.size()];
    const double length = distance(p, q);
    if (!(length > 0)) continue;
    const auto depth_of = [&](Point at) {
      return ((q.x - p.x) * (at.y - p.y) - (q.y - p.y) * (at.x - p.x)) / length - depth;
    };
    const double from = depth_of(a);
    const double to = depth_of(b);
    if (from <= 0 && to <= 0) return std::nullopt;
    if (from < 0) span.begin = std::max(span.begin, from / (from - to));
    if (to < 0) span.end = std::min(span.end, from / (from - to));
  }
  if (span.begin >= span.end) return std::nullopt;
  return span;
}

// What is left of a way of lines, piece by piece.
class LineCutter {
 public:
  LineCutter(const Areas& areas, double depth, const StrokeStyle& style)
      : areas_(areas),
        depth_(depth),
        phase_(style.dash_phase),
        has_dashes_(!style.dashes.empty()) {}

  std::vector<LinePart> cut(std::vector<Point> points, bool is_closed) {
    if (is_closed) points.push_back(points.front());
    for (std::size_t i = 0; i + 1 < points.size(); ++i) segment(points[i], points[i + 1]);
    if (points.size() == 1 && !is_deep(points[0])) begin(points[0]);
    end();
    if (is_closed && !is_cut_) {
      parts_.front().path.close();
      return std::move(parts_);
    }
    // The corner in which a closed line begins stays a corner; dashes begin anew in it.
    const bool is_joined =
        is_closed && !has_dashes_ && parts_.size() > 1 && starts_whole_ && ends_whole_;
    if (is_joined) {
      Path whole = parts_.back().path;
      const Path& first = parts_.front().path;
      for (std::size_t i = 1; i < first.points().size(); ++i) whole.line_to(first.points()[i]);
      parts_.front() = {std::move(whole), parts_.back().dash_phase};
      parts_.pop_back();
    }
    return std::move(parts_);
  }
  bool is_cut() const { return is_cut_; }

 private:
  bool is_deep(Point p) const {
    return std::any_of(areas_.hulls().begin(), areas_.hulls().end(), [&](const Polygon& hull) {
      return deep_part(hull, p, {p.x + 1e-9, p.y}, depth_).has_value();
    });
  }

  void begin(Point p) {
    if (is_open_) return;
    if (parts_.empty() && gone_ == 0) starts_whole_ = true;
    parts_.push_back({Path(), phase_ + gone_});
    parts_.back().path.move_to(p);
    is_open_ = true;
  }
  void end() {
    ends_whole_ = is_open_;
    is_open_ = false;
  }

  void segment(Point a, Point b) {
    const double length = distance(a, b);
    std::vector<Span> deep;
    for (const Polygon& hull : areas_.hulls())
      if (const auto span = deep_part(hull, a, b, depth_)) deep.push_back(*span);
    std::sort(deep.begin(), deep.end(), [](Span x, Span y) { return x.begin < y.begin; });
    const auto at = [&](double t) { return Point{a.x + t * (b.x - a.x), a.y + t * (b.y - a.y)}; };
    double done = 0;
    const double before = gone_;
    for (const Span& span : deep) {
      is_cut_ = true;
      if (span.begin > done) {
        gone_ = before + done * length;
        begin(at(done));
        parts_.back().path.line_to(at(span.begin));
      }
      done = std::max(done, span.end);
      end();
    }
    if (done < 1 || deep.empty()) {
      gone_ = before + done * length;
      begin(at(done));
      parts_.back().path.line_to(b);
    }
    gone_ = before + length;
  }

  const Areas& areas_;
  double depth_;
  double phase_;
  bool has_dashes_;
  double gone_ = 0;  // of the way
  bool is_open_ = false;
  bool is_cut_ = false;
  bool starts_whole_ = false;
  bool ends_whole_ = false;
  std::vector<LinePart> parts_;
};

// One subpath as lines, which knows what its curves were.
class Contour {
 public:
  Contour(const Path& path, double fine) {
    std::size_t at = 0;
    const auto next = [&] { return path.points()[at++]; };
    for (const Path::Segment segment : path.segments()) {
      if (segment == Path::Segment::close) continue;
      if (segment != Path::Segment::curve) {
        points_.push_back(next());
        continue;
      }
      Path curve;
      curve.move_to(points_.back());
      const Point a = next();
      const Point b = next();
      const Point end = next();
      curve.curve_to(a, b, end);
      const std::size_t first = points_.size() - 1;
      for (const raster::Polyline& line : raster::flatten(curve, Matrix(), fine))
        points_.insert(points_.end(), line.points.begin() + 1, line.points.end());
      curves_.emplace(first, Curve{points_.size() - 1, a, b});
    }
    for (std::size_t i = 0; i < points_.size(); ++i) places_.emplace(key(points_[i]), i);
  }

  const Polygon& points() const { return points_; }

  // A piece of it, with the curves that are whole in it.
  void append(const Polygon& piece, Path& path) const {
    const std::size_t count = piece.size();
    std::size_t start = 0;
    while (start + 1 < count && is_within_curve(piece[start])) ++start;
    const auto at = [&](std::size_t i) { return piece[(start + i) % count]; };
    path.move_to(at(0));
    for (std::size_t i = 0; i < count;) {
      const auto place = places_.find(key(at(i)));
      const auto curve = place == places_.end() ? curves_.end() : curves_.find(place->second);
      if (curve != curves_.end() && is_whole(curve->first, curve->second.last, i, at, count)) {
        path.curve_to(curve->second.a, curve->second.b, points_[curve->second.last]);
        i += curve->second.last - curve->first;
        continue;
      }
      ++i;
      if (i < count) path.line_to(at(i));
    }
    path.close();
  }

 private:
  struct Curve {
    std::size_t last;
    Point a;
    Point b;
  };
  using Key = std::pair<double, double>;
  static Key key(Point p) { return {p.x, p.y}; }

  bool is_within_curve(Point p) const {
    const auto place = places_.find(key(p));
    if (place == places_.end()) return false;
    const auto after = curves_.upper_bound(place->second);
    if (after == curves_.begin()) return false;
    const auto curve = std::prev(after);
    return place->second > curve->first && place->second < curve->second.last;
  }

  template <typename At>
  bool is_whole(std::size_t first, std::size_t last, std::size_t from, const At& at,
                std::size_t count) const {
    if (from + (last - first) > count) return false;
    for (std::size_t i = first; i <= last; ++i)
      if (key(at(from + i - first)) != key(points_[i])) return false;
    return true;
  }

  Polygon points_;
  std::map<std::size_t, Curve> curves_;  // by the place of their first point
  std::map<Key, std::size_t> places_;
};

bool comes_near(const raster::Polyline& line, const Areas& areas, double reach) {
  const std::size_t count = line.points.size();
  for (std::size_t i = 0; i < count; ++i) {
    Rect bounds = Rect::nothing();
    bounds.include(line.points[i]);
    if (i + 1 < count || line.closed) bounds.include(line.points[(i + 1) % count]);
    if (areas.touches(bounds.grown(std::max(reach, 1e-6)))) return true;
  }
  return false;
}

}  // namespace

std::optional<Path> cut_filling(const Path& path, const Areas& areas, double fine) {
  Path kept;
  bool is_cut = false;
  for (const Path& one : subpaths_of(path)) {
    if (!areas.touches(one.bounds())) {
      kept.append(one, Matrix());
      continue;
    }
    const Contour contour(one, fine);
    const std::vector<Polygon> pieces = areas.outside(contour.points());
    if (pieces.size() == 1 && pieces[0].size() == contour.points().size()) {
      kept.append(one, Matrix());
      continue;
    }
    is_cut = true;
    for (const Polygon& piece : pieces)
      if (piece.size() > 2) contour.append(piece, kept);
  }
  if (!is_cut) return std::nullopt;
  return kept;
}

std::optional<std::vector<LinePart>> cut_stroke(const Path& path, const StrokeStyle& style,
                                                const Areas& areas, double fine) {
  // A square cap reaches as far as the diagonal of half the width, a sharp corner further.
  const double depth = std::max(style.width, 0.0) * 0.75;
  const double reach =
      style.join == LineJoin::miter ? depth * std::max(style.miter_limit, 1.0) : depth;
  std::vector<LinePart> all;
  bool is_near = false;
  for (const Path& one : subpaths_of(path)) {
    std::vector<LinePart> parts;
    bool is_cut = false;
    for (const raster::Polyline& line : raster::flatten(one, Matrix(), fine)) {
      is_near = is_near || comes_near(line, areas, reach);
      LineCutter cutter(areas, depth, style);
      std::vector<LinePart> left = cutter.cut(line.points, line.closed);
      is_cut = is_cut || cutter.is_cut();
      std::move(left.begin(), left.end(), std::back_inserter(parts));
    }
    if (is_cut)
      std::move(parts.begin(), parts.end(), std::back_inserter(all));
    else
      all.push_back({one, style.dash_phase});
  }
  if (!is_near) return std::nullopt;
  return all;
}

}  // namespace lumvet::redacting
