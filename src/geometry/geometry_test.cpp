// SPDX-License-Identifier: Apache-2.0
#include "lumvet/geometry/matrix.h"
#include "lumvet/geometry/path.h"
#include "tests/support/catch.h"

using namespace lumvet;

TEST_CASE("a map and its inverse cancel out, and then() applies in order", "[geometry]") {
  const Matrix m{2, 1, -0.5, 3, 7, -4};
  const Point p{3.25, -8};
  const Point back = m.then(m.inverse()).apply(p);
  CHECK(back.x == Approx(p.x));
  CHECK(back.y == Approx(p.y));
  const Point moved_then_scaled =
      Matrix::translation(1, 2).then(Matrix::scaling(10, 10)).apply({0, 0});
  CHECK(moved_then_scaled == Point{10, 20});
  CHECK_FALSE(Matrix::scaling(0, 1).is_invertible());
}

TEST_CASE("bounds of a turned rectangle hold its corners", "[geometry]") {
  const Matrix quarter{0, 1, -1, 0, 0, 0};
  CHECK(quarter.bounds_of({1, 2, 4, 8}) == Rect{-8, 1, -2, 4});
}

TEST_CASE("a path goes on from the start of a closed subpath", "[geometry]") {
  Path path;
  CHECK(path.current_point() == Point{});
  path.move_to({1, 1});
  path.line_to({5, 1});
  CHECK(path.current_point() == Point{5, 1});
  path.close();
  CHECK(path.current_point() == Point{1, 1});
  path.line_to({9, 9});
  REQUIRE(path.segments().size() == 5);
  CHECK(path.segments()[3] == Path::Segment::move);
  CHECK(path.points()[2] == Point{1, 1});
}

TEST_CASE("of several moves in a row the last one counts", "[geometry]") {
  Path path;
  path.move_to({1, 1});
  path.move_to({2, 2});
  path.line_to({3, 3});
  CHECK(path.points().size() == 2);
  CHECK(path.bounds() == Rect{2, 2, 3, 3});
}
