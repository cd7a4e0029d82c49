// SPDX-License-Identifier: Apache-2.0
// Charts: bars, lines and pies out of a few numbers.
//
//   lumvet::Chart chart{.title = "Bridges by grade", .labels = {"2024", "2025", "2026"}};
//   chart.series = {{"good", {8, 9, 11}}, {"limited", {1, 1, 2}}};
//   lumvet::draw_chart(drawing, {64, 120, 460, 220}, chart).value();
//
// Axes have their marks at round numbers. Names that have no room beside each other are set in
// lines, then turned, then left out by turns, so that none runs into another. Colors can be told
// apart by people who see fewer of them.
//
// Threads: values and free functions. Since: 0.2
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "lumvet/base/findings.h"
#include "lumvet/draw/drawing.h"

namespace lumvet {

struct ChartSeries {
  std::string name = {};
  std::vector<double> values = {};  // one for each label
  std::optional<Color> color = {};  // its own, in place of the next of chart_color()
};

struct Chart {
  enum class Kind {
    bars,          // beside each other
    stacked_bars,  // upon each other
    lines,
    pie,  // of the first series
  };

  Kind kind = Kind::bars;
  std::string title = {};
  std::string value_title = {};  // of the axis of values: "crowns"
  std::vector<std::string> labels = {};
  std::vector<ChartSeries> series = {};
  // At bars and points where they have room; of a pie shares are shown always.
  bool shows_values = false;
  bool shows_legend = true;  // where there are several series, or a pie
  Typeface face = Typeface();
  double text_size = 9;  // points
};

// Colors that differ in hue and lightness, as many as are asked for.
LUMVET_EXPORT Color chart_color(std::size_t number);

// Into an area of a drawing. Gives what was left out: values that are no numbers, and values below
// zero of pies and of stacked bars. Errors: invalid_argument for a chart without values, and for
// an area that leaves no room to draw in, with what it needs.
LUMVET_EXPORT Result<std::vector<Finding>> draw_chart(Drawing& drawing, const PageArea& area,
                                                      const Chart& chart);

// Where marks of an axis from one value to another lie, at 1, 2 or 5 times a power of ten: up to
// `most` of them, the outermost at or beyond the two.
LUMVET_EXPORT std::vector<double> round_marks(double least, double largest, int most = 7);

}  // namespace lumvet
