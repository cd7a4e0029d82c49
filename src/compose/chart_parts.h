// SPDX-License-Identifier: Apache-2.0
// What charts are made of: values that count, axes, legends.
//
// Threads: values and free functions.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "lumvet/compose/chart.h"

namespace lumvet::compose {

struct ChartValues {
  std::vector<std::vector<std::optional<double>>> series;  // nothing for those left out
  std::size_t labels = 0;                                  // how many places there are
  std::vector<Finding> findings;
};

ChartValues values_of(const Chart& chart);

// As marks of a step show it, with blanks between thousands.
std::string number_text(double value, double step);

Status draw_parts(Drawing& drawing, const PageArea& area, const Chart& chart,
                  const ChartValues& values);

}  // namespace lumvet::compose
