// SPDX-License-Identifier: Apache-2.0
#include "lumvet/compose/chart.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdio>

#include "compose/chart_parts.h"

namespace lumvet {

Color chart_color(std::size_t number) {
  // Dark and light by turns, blues and yellows before reds and greens.
  constexpr std::array<std::array<double, 3>, 8> kColors = {{{0.05, 0.34, 0.51},
                                                             {0.96, 0.70, 0.28},
                                                             {0.55, 0.20, 0.26},
                                                             {0.56, 0.77, 0.85},
                                                             {0.33, 0.35, 0.06},
                                                             {0.86, 0.58, 0.58},
                                                             {0.14, 0.09, 0.24},
                                                             {0.87, 0.88, 0.64}}};
  const auto& [red, green, blue] = kColors[number % kColors.size()];
  return Color::rgb(red, green, blue);
}

std::vector<double> round_marks(double least, double largest, int most) {
  if (!(largest > least)) largest = least + (least == 0 ? 1 : std::abs(least));
  most = std::max(most, 2);
  const double power = std::pow(10, std::floor(std::log10((largest - least) / most)));
  for (const double factor : {1.0, 2.0, 5.0, 10.0, 20.0, 50.0}) {
    const double step = factor * power;
    const double first = std::floor(least / step + 1e-9);
    const double last = std::ceil(largest / step - 1e-9);
    if (last - first + 1 > most) continue;
    std::vector<double> marks;
    const auto count = static_cast<int>(std::lround(last - first)) + 1;
    marks.reserve(static_cast<std::size_t>(count));
    for (int i = 0; i < count; ++i) marks.push_back((first + i) * step);
    return marks;
  }
  return {least, largest};
}

namespace compose {

std::string number_text(double value, double step) {
  int digits = 0;
  for (double s = std::abs(step); digits < 6 && s > 0 && std::abs(s - std::round(s)) > 1e-6;
       s *= 10)
    ++digits;
  std::array<char, 64> text{};
  std::snprintf(text.data(), text.size(), "%.*f", digits, value == 0 ? 0.0 : value);
  // A thin blank between thousands, of five digits and more.
  std::string plain = text.data();
  const std::size_t end = std::min(plain.find('.'), plain.size());
  const std::size_t begin = plain[0] == '-' ? 1 : 0;
  if (end - begin >= 5)
    for (std::size_t at = end; at > begin + 3;) plain.insert(at -= 3, "\u2009");
  if (begin == 1) plain.replace(0, 1, "\u2212");
  return plain;
}

ChartValues values_of(const Chart& chart) {
  ChartValues values;
  const bool needs_positive =
      chart.kind == Chart::Kind::pie || chart.kind == Chart::Kind::stacked_bars;
  const std::size_t used = chart.kind == Chart::Kind::pie ? 1 : chart.series.size();
  for (std::size_t s = 0; s < std::min(used, chart.series.size()); ++s) {
    const ChartSeries& series = chart.series[s];
    std::vector<std::optional<double>> own;
    for (std::size_t i = 0; i < series.values.size(); ++i) {
      const double value = series.values[i];
      const bool is_good = std::isfinite(value) && (!needs_positive || value >= 0);
      own.push_back(is_good ? std::optional(value) : std::nullopt);
      if (is_good) continue;
      const std::string label =
          i < chart.labels.size() ? "'" + chart.labels[i] + "'" : "place " + std::to_string(i + 1);
      values.findings.push_back(
          {(std::isfinite(value) ? "a value below zero" : "a value that is no number") +
           std::string(" at ") + label + (series.name.empty() ? "" : " of '" + series.name + "'") +
           " was left out"});
    }
    values.labels = std::max(values.labels, own.size());
    values.series.push_back(std::move(own));
  }
  return values;
}

}  // namespace compose

Result<std::vector<Finding>> draw_chart(Drawing& drawing, const PageArea& area,
                                        const Chart& chart) {
  compose::ChartValues values = compose::values_of(chart);
  const bool has_any = std::any_of(values.series.begin(), values.series.end(), [](const auto& own) {
    return std::any_of(own.begin(), own.end(), [](const auto& value) { return value.has_value(); });
  });
  if (!has_any) return Error(ErrorCode::invalid_argument, "a chart has one value at least");
  if (!(chart.text_size > 0))
    return Error(ErrorCode::invalid_argument, "letters are more than 0 points large");
  LUMVET_RETURN_IF_ERROR(compose::draw_parts(drawing, area, chart, values));
  return std::move(values.findings);
}

}  // namespace lumvet
