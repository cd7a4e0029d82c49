// SPDX-License-Identifier: Apache-2.0
#include "raster/stroker.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <optional>

#include "base/allowance.h"

namespace lumvet::raster {
namespace {

double dot(Point a, Point b) { return a.x * b.x + a.y * b.y; }
double cross(Point a, Point b) { return a.x * b.y - a.y * b.x; }
Point left_of(Point direction) { return {-direction.y, direction.x}; }

class Outliner {
 public:
  Outliner(const StrokeStyle& style, double tolerance, std::vector<Polyline>& out)
      : style_(style), half_(style.width / 2), out_(out) {
    const double ratio = std::clamp(1 - tolerance / std::max(half_, tolerance), -1.0, 1.0);
    arc_step_ = std::clamp(2 * std::acos(ratio), 0.05, std::numbers::pi / 4);
  }

  void add(const Polyline& line) {
    std::vector<Point> points;
    for (const Point p : line.points)
      if (points.empty() || !(p == points.back())) points.push_back(p);
    if (line.closed && points.size() > 1 && points.front() == points.back()) points.pop_back();
    if (points.size() == 1) return add_dot(points[0], line.closed || line.points.size() > 1);
    if (points.size() < 2) return;

    directions_.clear();
    lengths_.clear();
    const std::size_t segments = line.closed ? points.size() : points.size() - 1;
    for (std::size_t i = 0; i < segments; ++i) {
      const Point step = points[(i + 1) % points.size()] - points[i];
      lengths_.push_back(std::sqrt(dot(step, step)));
      directions_.push_back(step * (1 / lengths_.back()));
    }
    if (line.closed) {
      add_ring(points, 1);
      add_ring(points, -1);
    } else {
      add_open(points);
    }
  }

 private:
  // A subpath of no length shows only its caps (8.5.3.2).
  void add_dot(Point at, bool drawn) {
    if (!drawn || style_.cap == LineCap::butt) return;
    Polyline dot;
    dot.closed = true;
    if (style_.cap == LineCap::round) {
      current_ = &dot.points;
      arc(at, {half_, 0}, 2 * std::numbers::pi);
    } else {
      dot.points = {at + Point{-half_, -half_}, at + Point{half_, -half_}, at + Point{half_, half_},
                    at + Point{-half_, half_}};
    }
    out_.push_back(std::move(dot));
  }

  // One side forward, a cap, the other side back, a cap.
  void add_open(const std::vector<Point>& points) {
    Polyline outline;
    outline.closed = true;
    current_ = &outline.points;
    const std::size_t last = points.size() - 1;
    current_->push_back(points[0] + left_of(directions_[0]) * half_);
    for (std::size_t i = 1; i < last && goes_on(); ++i)
      join(points[i], directions_[i - 1], directions_[i], room_at(i - 1, i));
    cap(points[last], directions_[last - 1]);
    for (std::size_t i = last - 1; i > 0 && goes_on(); --i)
      join(points[i], directions_[i] * -1, directions_[i - 1] * -1, room_at(i - 1, i));
    cap(points[0], directions_[0] * -1);
    out_.push_back(std::move(outline));
  }

  // One border of a closed line, on the left (1) or, run backward, on the right (-1).
  void add_ring(const std::vector<Point>& points, int side) {
    Polyline outline;
    outline.closed = true;
    current_ = &outline.points;
    const std::size_t n = points.size();
    for (std::size_t k = 0; k < n && goes_on(); ++k) {
      const std::size_t i = side > 0 ? k : n - 1 - k;
      const Point before = directions_[(i + n - 1) % n];
      const Point after = directions_[i];
      const double room = room_at((i + n - 1) % n, i);
      if (side > 0)
        join(points[i], before, after, room);
      else
        join(points[i], after * -1, before * -1, room);
    }
    out_.push_back(std::move(outline));
  }

  double room_at(std::size_t before, std::size_t after) const {
    return std::min(lengths_[before], lengths_[after]) / 2;
  }

  // What the outline that is begun takes; a list that grows is there twice.
  void count() {
    constexpr std::size_t kPortion = 4096;  // points
    if (current_->size() < counted_) counted_ = 0;
    if (current_->size() < counted_ + kPortion) return;
    memory_.more(2 * (current_->size() - counted_) * sizeof(Point));
    counted_ = current_->size();
  }

  // The left border around a corner; `room` is half of the shorter of both segments.
  void join(Point at, Point before, Point after, double room) {
    const Point from = left_of(before) * half_;
    const Point to = left_of(after) * half_;
    const double turn = cross(before, after);
    const double along = dot(before, after);
    count();
    const auto add_crossing = [&] { current_->push_back(at + (from + to) * (1 / (1 + along))); };
    if (turn >= 0 && !(turn == 0 && along < 0)) {
      // The inner side: where both borders cross, if that is on both of them; otherwise through the
      // corner itself, so that short neighbors leave no hole.
      if (half_ * turn <= room * (1 + along)) return add_crossing();
      for (const Point p : {at + from, at, at + to}) current_->push_back(p);
      return;
    }
    if (style_.join == LineJoin::miter) {
      // Miter length over width is 1 / sin(φ/2) with φ the angle between the segments (8.4.3.5).
      const double sine_squared = (1 + along) / 2;
      if (sine_squared * style_.miter_limit * style_.miter_limit >= 1) return add_crossing();
    }
    current_->push_back(at + from);
    if (style_.join == LineJoin::round)
      arc(at, from, turn == 0 ? -std::numbers::pi : std::atan2(turn, along));
    current_->push_back(at + to);
  }

  void cap(Point at, Point direction) {
    const Point from = left_of(direction) * half_;
    current_->push_back(at + from);
    if (style_.cap == LineCap::round) arc(at, from, -std::numbers::pi);
    if (style_.cap == LineCap::square) {
      current_->push_back(at + from + direction * half_);
      current_->push_back(at - from + direction * half_);
    }
    current_->push_back(at - from);
  }

  // Points on the circle around `center` from `from` over `angle` radians, ends left out.
  void arc(Point center, Point from, double angle) {
    const int steps = static_cast<int>(std::ceil(std::abs(angle) / arc_step_));
    for (int i = 1; i < steps; ++i) {
      const double a = angle * i / steps;
      const double c = std::cos(a);
      const double s = std::sin(a);
      current_->push_back(center + Point{from.x * c - from.y * s, from.x * s + from.y * c});
    }
    if (std::abs(angle) > 6) current_->push_back(center + from);
  }

  const StrokeStyle& style_;
  double half_;
  double arc_step_ = 0;
  std::vector<Polyline>& out_;
  std::vector<Point>* current_ = nullptr;
  std::vector<Point> directions_;  // of segments
  std::vector<double> lengths_;    // of segments
  TakenMemory memory_;
  std::size_t counted_ = 0;  // points
};

// Walks along lines and keeps what the pattern has switched on.
class Dasher {
 public:
  Dasher(const StrokeStyle& style, std::vector<Polyline>& out) : style_(style), out_(out) {
    for (const double dash : style.dashes) period_ += dash;
    if (is_usable()) find_start();
  }

  bool is_usable() const {
    return period_ > 0 && std::isfinite(period_) &&
           std::all_of(style_.dashes.begin(), style_.dashes.end(), [](double d) { return d >= 0; });
  }

  // False when there would be absurdly many dashes, which look solid anyway.
  bool add(const Polyline& line) {
    std::vector<Point> points = line.points;
    if (line.closed) points.push_back(points.front());
    double length = 0;
    for (std::size_t i = 0; i + 1 < points.size(); ++i)
      length += std::hypot(points[i + 1].x - points[i].x, points[i + 1].y - points[i].y);
    constexpr double kMostDashes = 100'000;
    if (length / period_ * static_cast<double>(style_.dashes.size()) > kMostDashes) return false;
    index_ = start_.index;
    on_ = start_.on;
    left_ = start_.left;
    const std::size_t first_piece = out_.size();
    const bool began_on = on_;
    if (on_) out_.push_back({{points[0]}, false});
    if (on_ && left_ == 0)
      if (const auto direction = first_direction(points)) add_dot_along(*direction);
    for (std::size_t i = 0; i + 1 < points.size() && goes_on(); ++i) walk(points[i], points[i + 1]);
    // A closed line whose ends are both on goes through its start without caps there.
    if (line.closed && began_on && on_ && out_.size() > first_piece + 1) {
      std::vector<Point>& last = out_.back().points;
      std::vector<Point>& first = out_[first_piece].points;
      last.insert(last.end(), first.begin(), first.end());
      first = std::move(last);
      out_.pop_back();
    }
    return true;
  }

 private:
  // Where the pattern is at the beginning of every line.
  void find_start() {
    // An odd number of lengths repeats with on and off exchanged.
    const double cycle = style_.dashes.size() % 2 == 1 ? 2 * period_ : period_;
    double phase = std::fmod(style_.dash_phase, cycle);
    if (phase < 0) phase += cycle;
    while (phase > 0 && phase >= style_.dashes[index_]) {
      phase -= style_.dashes[index_];
      advance();
    }
    start_ = {index_, on_, style_.dashes[index_] - phase};
  }

  static std::optional<Point> first_direction(const std::vector<Point>& points) {
    for (std::size_t i = 0; i + 1 < points.size(); ++i) {
      const Point step = points[i + 1] - points[i];
      if (const double length = std::hypot(step.x, step.y); length > 0) return step * (1 / length);
    }
    return std::nullopt;
  }

  void advance() {
    index_ = (index_ + 1) % style_.dashes.size();
    on_ = !on_;
  }

  void walk(Point from, Point to) {
    const double length = std::hypot(to.x - from.x, to.y - from.y);
    if (length == 0) return;
    double at = 0;
    while (length - at > left_) {
      at += left_;
      const Point here = from + (to - from) * (at / length);
      if (on_ && left_ > 0) out_.back().points.push_back(here);
      advance();
      if (on_) out_.push_back({{here}, false});
      left_ = style_.dashes[index_];
      if (on_ && left_ == 0) add_dot_along((to - from) * (1 / length));
    }
    left_ -= length - at;
    if (on_) out_.back().points.push_back(to);
  }

  // A dash of no length has the line's direction, for its caps (8.4.3.6): a length far below what
  // can be seen.
  void add_dot_along(Point direction) {
    constexpr double kPart = 1e-4;  // of the line's width
    out_.back().points.push_back(out_.back().points.back() + direction * (style_.width * kPart));
  }

  const StrokeStyle& style_;
  std::vector<Polyline>& out_;
  double period_ = 0;
  struct {
    std::size_t index = 0;
    bool on = true;
    double left = 0;
  } start_;
  std::size_t index_ = 0;
  bool on_ = true;
  double left_ = 0;
};

}  // namespace

std::vector<Polyline> stroke(const std::vector<Polyline>& lines, const StrokeStyle& style,
                             double tolerance) {
  std::vector<Polyline> dashed;
  Dasher dasher(style, dashed);
  const bool dashes = !style.dashes.empty() && dasher.is_usable();
  std::vector<Polyline> outlines;
  TakenMemory memory;
  Outliner outliner(style, tolerance, outlines);
  for (const Polyline& line : lines) {
    if (line.points.empty()) continue;
    if (!goes_on()) break;
    // At least both its sides, and the list that it is in.
    memory.more(sizeof(Polyline) + 2 * line.points.size() * sizeof(Point));
    dashed.clear();
    if (!dashes || line.points.size() < 2 || !dasher.add(line)) {
      outliner.add(line);
    } else {
      for (const Polyline& dash : dashed) outliner.add(dash);
    }
  }
  return outlines;
}

}  // namespace lumvet::raster
