// SPDX-License-Identifier: Apache-2.0
#include "lumvet/geometry/path.h"

namespace lumvet {

void Path::move_to(Point p) {
  // A move straight after a move replaces it.
  if (!segments_.empty() && segments_.back() == Segment::move) {
    points_.back() = p;
  } else {
    segments_.push_back(Segment::move);
    points_.push_back(p);
  }
  current_ = start_ = p;
}

void Path::line_to(Point p) {
  if (segments_.empty()) return move_to(p);
  if (segments_.back() == Segment::close) move_to(start_);
  segments_.push_back(Segment::line);
  points_.push_back(p);
  current_ = p;
}

void Path::curve_to(Point control1, Point control2, Point end) {
  if (segments_.empty()) move_to(control1);
  if (segments_.back() == Segment::close) move_to(start_);
  segments_.push_back(Segment::curve);
  points_.insert(points_.end(), {control1, control2, end});
  current_ = end;
}

void Path::close() {
  if (segments_.empty() || segments_.back() == Segment::close) return;
  segments_.push_back(Segment::close);
  current_ = start_;
}

void Path::add_rect(const Rect& rect) {
  move_to({rect.left, rect.bottom});
  line_to({rect.right, rect.bottom});
  line_to({rect.right, rect.top});
  line_to({rect.left, rect.top});
  close();
}

void Path::append(const Path& other, const Matrix& placed) {
  if (other.is_empty()) return;
  segments_ += other.segments_;
  points_.reserve(points_.size() + other.points_.size());
  for (const Point p : other.points_) points_.push_back(placed.apply(p));
  current_ = placed.apply(other.current_);
  start_ = placed.apply(other.start_);
}

void Path::clear() {
  segments_.clear();
  points_.clear();
}

Rect Path::bounds() const {
  Rect bounds = Rect::nothing();
  for (const Point p : points_) bounds.include(p);
  return bounds;
}

Path Path::transformed(const Matrix& matrix) const {
  Path mapped;
  mapped.append(*this, matrix);
  return mapped;
}

}  // namespace lumvet
