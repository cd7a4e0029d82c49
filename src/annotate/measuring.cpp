// SPDX-License-Identifier: Apache-2.0
#include "lumvet/annotate/measuring.h"

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>
#include <numbers>
#include <numeric>

namespace lumvet {
namespace {

using Kind = Annotation::Kind;

// The rectangle that is drawn, without what is free around it.
Rect drawn(const Annotation& mark) {
  const Rect& r = mark.rect;
  return {r.left + mark.inset[0], r.bottom + mark.inset[3], r.right - mark.inset[2],
          r.top - mark.inset[1]};
}

double way(const std::vector<Point>& points, bool is_closed) {
  double length = 0;
  for (std::size_t i = 0; i + 1 < points.size(); ++i)
    length += std::hypot(points[i + 1].x - points[i].x, points[i + 1].y - points[i].y);
  if (is_closed && points.size() > 2)
    length += std::hypot(points.front().x - points.back().x, points.front().y - points.back().y);
  return length;
}

std::string digits_of(double value, int precision, const MeasureUnit& unit) {
  std::array<char, 64> room{};
  const auto written = std::to_chars(room.data(), room.data() + room.size(), value,
                                     std::chars_format::fixed, precision);
  std::string text(room.data(), written.ptr);
  const std::size_t point = text.find('.');
  std::string fraction = point == std::string::npos ? "" : text.substr(point + 1);
  std::string whole = text.substr(0, point);
  if (!unit.is_kept)
    while (fraction.ends_with('0')) fraction.pop_back();
  if (!unit.thousands.empty())
    for (std::size_t at = whole.size(); at > 3; at -= 3) whole.insert(at - 3, unit.thousands);
  return fraction.empty() ? whole : whole + unit.decimal_sign + fraction;
}

std::string with_label(const std::string& number, const MeasureUnit& unit) {
  return unit.label_first ? unit.label + unit.before + number : number + unit.before + unit.label;
}

// A number in the last of the units that are used (12.9.2).
std::string last_number(double value, const MeasureUnit& unit) {
  switch (unit.fraction) {
    case MeasureUnit::Fraction::rounded: return digits_of(std::round(value), 0, unit);
    case MeasureUnit::Fraction::truncated: return digits_of(std::floor(value), 0, unit);
    case MeasureUnit::Fraction::fraction: {
      double whole = std::floor(value);
      auto parts = static_cast<std::int64_t>(std::llround((value - whole) * unit.precision));
      std::int64_t of = unit.precision;
      if (parts == of) {
        whole += 1;
        parts = 0;
      }
      if (!unit.is_kept && parts > 0) {
        const std::int64_t common = std::gcd(parts, of);
        parts /= common;
        of /= common;
      }
      std::string text = whole > 0 || parts == 0 ? digits_of(whole, 0, unit) : "";
      if (parts > 0)
        text += (text.empty() ? "" : " ") + std::to_string(parts) + "/" + std::to_string(of);
      return text;
    }
    default: {
      const int decimals = static_cast<int>(std::lround(std::log10(std::max(unit.precision, 1))));
      return digits_of(value, decimals, unit);
    }
  }
}

}  // namespace

Measure drawing_scale(double times, const std::string& unit, int decimals) {
  constexpr double kInch = 72;
  constexpr std::array<std::pair<std::string_view, double>, 6> kPoints = {
      {{"m", kInch / 0.0254},
       {"cm", kInch / 2.54},
       {"mm", kInch / 25.4},
       {"km", kInch / 0.0000254},
       {"ft", kInch * 12},
       {"in", kInch}}};
  if (!(times > 0) || !std::isfinite(times)) times = 1;
  double points = 1;
  for (const auto& [name, length] : kPoints)
    if (unit == name) points = length;
  MeasureUnit base{.label = unit, .factor = times / points};
  base.precision = static_cast<int>(std::lround(std::pow(10, std::clamp(decimals, 0, 6))));
  Measure measure;
  measure.scale = "1:" + digits_of(times, 3, MeasureUnit{.thousands = ""});
  measure.x = {base};
  base.factor = 1;
  measure.distance = {base};
  base.label = unit + "²";
  measure.area = {base};
  return measure;
}

Result<std::optional<Measure>> measure_of(const Page& page, const Annotation& mark) {
  LUMVET_TRY(const std::vector<MeasuredArea> areas, page.measured_areas());
  const Point middle{(mark.rect.left + mark.rect.right) / 2,
                     (mark.rect.bottom + mark.rect.top) / 2};
  for (auto one = areas.rbegin(); one != areas.rend(); ++one) {
    const Rect& r = one->area;
    const bool holds =
        middle.x >= r.left && middle.x <= r.right && middle.y >= r.bottom && middle.y <= r.top;
    if (holds && one->measure && one->measure->kind == Measure::Kind::drawing) return one->measure;
  }
  return std::optional<Measure>();
}

double length_of(const Annotation& mark) {
  switch (mark.kind) {
    case Kind::line:
    case Kind::polyline: return way(mark.vertices, false);
    case Kind::polygon: return way(mark.vertices, true);
    case Kind::ink: {
      double length = 0;
      for (const auto& stroke : mark.strokes) length += way(stroke, false);
      return length;
    }
    case Kind::square: return 2 * (drawn(mark).width() + drawn(mark).height());
    case Kind::circle: {
      // Ramanujan's second; it is off by less than anybody can measure.
      const double a = drawn(mark).width() / 2;
      const double b = drawn(mark).height() / 2;
      if (!(a + b > 0)) return 0;
      const double h = (a - b) * (a - b) / ((a + b) * (a + b));
      return std::numbers::pi * (a + b) * (1 + 3 * h / (10 + std::sqrt(4 - 3 * h)));
    }
    default: return 0;
  }
}

double area_of(const Annotation& mark) {
  const Rect r = drawn(mark);
  switch (mark.kind) {
    case Kind::square: return r.width() * r.height();
    case Kind::circle: return std::numbers::pi / 4 * r.width() * r.height();
    case Kind::polygon:
    case Kind::polyline: {
      const std::vector<Point>& points = mark.vertices;
      const bool is_closed =
          mark.kind == Kind::polygon || (points.size() > 3 && points.front() == points.back());
      if (!is_closed) return 0;
      double twice = 0;
      for (std::size_t i = 0; i < points.size(); ++i) {
        const Point a = points[i];
        const Point b = points[(i + 1) % points.size()];
        twice += a.x * b.y - b.x * a.y;
      }
      return std::abs(twice) / 2;
    }
    default: return 0;
  }
}

std::string in_units(double value, const std::vector<MeasureUnit>& units) {
  if (units.empty() || !std::isfinite(value)) return {};
  std::string text;
  double rest = std::abs(value);
  for (std::size_t i = 0; i < units.size(); ++i) {
    rest *= units[i].factor;
    const bool is_last = i + 1 == units.size();
    const double whole = std::floor(rest + 1e-9);
    if (!is_last && whole == 0) continue;
    // What a fraction of the larger unit is, is left to the smaller one.
    if (!text.empty()) text += units[i - 1].after;
    text +=
        with_label(is_last ? last_number(rest, units[i]) : digits_of(whole, 0, units[i]), units[i]);
    rest = std::max(rest - whole, 0.0);
  }
  return (value < 0 ? "-" : "") + text;
}

std::string measured_text(const Annotation& mark, const Measure& measure) {
  if (measure.kind != Measure::Kind::drawing || measure.x.empty()) return {};
  const double x = measure.x.front().factor;
  const double area = area_of(mark);
  if (area > 0 && !measure.area.empty()) return in_units(area * x * x, measure.area);
  const double length = length_of(mark);
  if (length > 0 && !measure.distance.empty()) return in_units(length * x, measure.distance);
  return {};
}

}  // namespace lumvet
