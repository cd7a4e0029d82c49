// SPDX-License-Identifier: Apache-2.0
// Parts of a page that can be measured, the viewports of the standard: drawings (ISO 32000-2, 12.9)
// and maps (12.10).
//
// Threads: values. Since: 0.2
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "lumvet/geometry/matrix.h"

namespace lumvet {

// How a measured number is written (table 268).
struct MeasureUnit {
  enum class Fraction { decimal, fraction, rounded, truncated };

  std::string label = {};  // "ft"
  double factor = 1;       // from the unit before it, or from what is measured to the first
  Fraction fraction = Fraction::decimal;
  int precision = 100;          // of decimals their power of ten, of fractions their denominator
  bool is_kept = false;         // zeros at the end, or a fraction that could be smaller
  std::string thousands = ",";  // between groups of digits
  std::string decimal_sign = ".";
  std::string before = " ";  // the label
  std::string after = " ";
  bool label_first = false;
  bool operator==(const MeasureUnit&) const = default;
};

// A point of a map: degrees north and east, or as its system counts.
struct MapPoint {
  double north = 0;
  double east = 0;
  bool operator==(const MapPoint&) const = default;
};

struct Measure {
  enum class Kind { drawing, map };

  Kind kind = Kind::drawing;

  // Of a drawing. Units follow one another from large to small: "3 ft 4 in".
  std::string scale = {};  // in words: "1 in = 4 ft"
  std::vector<MeasureUnit> x = {};
  std::vector<MeasureUnit> y = {};  // those of x when it is empty
  std::vector<MeasureUnit> distance = {};
  std::vector<MeasureUnit> area = {};
  std::vector<MeasureUnit> angle = {};
  std::vector<MeasureUnit> slope = {};
  std::optional<Point> origin = {};   // of coordinates, in the page's own space
  std::optional<double> y_to_x = {};  // a factor, where y has other units

  // Of a map.
  std::vector<Point> bounds = {};  // of what the map shows; 0 to 1 across the area, each way
  std::vector<Point> places = {};  // counted alike, each belonging to one of `points`
  std::vector<MapPoint> points = {};
  bool is_projected = false;
  int epsg = 0;          // the number of its system; 0 when it has none
  std::string wkt = {};  // the description of its system, as a well-known text

  bool operator==(const Measure&) const = default;
};

struct MeasuredArea {
  Rect area;  // in the page's own space; of several the last one that holds a point counts
  std::string name = {};
  std::optional<Measure> measure = {};
  bool operator==(const MeasuredArea&) const = default;
};

}  // namespace lumvet
