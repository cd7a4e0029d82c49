// SPDX-License-Identifier: Apache-2.0
#include "compose/chart_parts.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace lumvet::compose {
namespace {

const Color kInk = Color::gray(0.15);
const Color kFaint = Color::gray(0.42);
const Color kRule = Color::gray(0.82);

// Where bars, lines and sectors are, in points.
struct Plot {
  double left = 0;
  double top = 0;
  double right = 0;
  double bottom = 0;
  double width() const { return right - left; }
  double height() const { return bottom - top; }
};

// As much of a text as has room, with a sign for the rest.
Result<std::string> shortened(const std::string& text, const TextStyle& style, double room) {
  std::string shown = text;
  for (std::string rest = text;;) {
    LUMVET_TRY(const double width, Drawing::text_width(shown, style));
    if (width <= room || rest.empty()) return shown;
    // Whole characters.
    while (!rest.empty() && (static_cast<unsigned char>(rest.back()) & 0xC0) == 0x80)
      rest.pop_back();
    if (!rest.empty()) rest.pop_back();
    shown = rest + "…";
  }
}

class Drawer {
 public:
  Drawer(Drawing& drawing, const PageArea& area, const Chart& chart, const ChartValues& values)
      : drawing_(drawing),
        chart_(chart),
        values_(values),
        left_(area.left),
        plot_{area.left, area.top, area.left + area.width, area.top + area.height} {}

  Status draw() {
    if (drawing_.space() == Drawing::Space::upward)
      return Error(ErrorCode::invalid_argument, "charts are drawn with y downward");
    LUMVET_RETURN_IF_ERROR(title());
    LUMVET_RETURN_IF_ERROR(legend());
    if (chart_.kind == Chart::Kind::pie) return pie();
    LUMVET_RETURN_IF_ERROR(axes());
    if (chart_.kind == Chart::Kind::bars) return bars();
    if (chart_.kind == Chart::Kind::stacked_bars) return stacked_bars();
    return lines();
  }

 private:
  double size() const { return chart_.text_size; }
  TextStyle style(const Color& color = kFaint, double times = 1) const {
    return {.face = chart_.face, .size = size() * times, .color = color};
  }
  Color color(std::size_t i) const {
    const bool is_pie = chart_.kind == Chart::Kind::pie;
    if (!is_pie && i < chart_.series.size() && chart_.series[i].color)
      return *chart_.series[i].color;
    return chart_color(i);
  }
  Error no_room(double width, double height) const {
    return Error(ErrorCode::invalid_argument,
                 "the chart has no room: it needs " + std::to_string(std::lround(width)) + " by " +
                     std::to_string(std::lround(height)) + " points besides its legend and names");
  }

  Status title() {
    if (chart_.title.empty()) return Done{};
    LUMVET_TRY(const SetParagraph set,
               Paragraph(chart_.title, style(kInk, 1.3)).set(plot_.width()));
    drawing_.write(set, {plot_.left, plot_.top});
    plot_.top += set.height() + size() * 0.6;
    return Done{};
  }

  // A patch of color and a name each, in rows below the chart.
  Status legend() {
    const bool is_pie = chart_.kind == Chart::Kind::pie;
    if (!chart_.shows_legend || (!is_pie && chart_.series.size() < 2)) return Done{};
    std::vector<std::string> names;
    if (is_pie)
      names = chart_.labels;
    else
      for (const ChartSeries& series : chart_.series) names.push_back(series.name);
    if (is_pie) names.resize(std::max(names.size(), values_.labels));
    const double patch = size();
    const double row = size() * 1.6;
    struct Entry {
      double x;
      std::size_t row;
    };
    std::vector<Entry> entries;
    double x = 0;
    std::size_t rows = 0;
    for (std::string& name : names) {
      LUMVET_TRY(name, shortened(name, style(), plot_.width() - patch * 1.6));
      LUMVET_TRY(const double width, Drawing::text_width(name, style()));
      const double all = patch * 1.6 + width;
      if (x > 0 && x + all > plot_.width()) {
        x = 0;
        ++rows;
      }
      entries.push_back({x, rows});
      x += all + size() * 1.8;
    }
    const double top = plot_.bottom - static_cast<double>(rows + 1) * row;
    for (std::size_t i = 0; i < names.size(); ++i) {
      const double left = plot_.left + entries[i].x;
      const double y = top + static_cast<double>(entries[i].row) * row + row * 0.7;
      drawing_.fill(box({left, y - patch * 0.8, patch, patch * 0.85}), color(i));
      drawing_.write(names[i], {left + patch * 1.6, y}, style());
    }
    plot_.bottom = top - size() * 0.6;
    return Done{};
  }

  // From zero, or further where values go.
  void find_marks() {
    double least = 0;
    double largest = 0;
    for (std::size_t i = 0; i < values_.labels; ++i) {
      double sum = 0;
      for (const auto& own : values_.series) {
        const double value = i < own.size() ? own[i].value_or(0) : 0;
        sum += value;
        least = std::min(least, value);
        largest = std::max(largest, value);
      }
      if (chart_.kind == Chart::Kind::stacked_bars) largest = std::max(largest, sum);
    }
    const auto fits = static_cast<int>(plot_.height() / (size() * 2.4));
    marks_ = round_marks(least, largest, std::clamp(fits, 2, 8));
  }
  double step() const { return marks_.size() > 1 ? marks_[1] - marks_[0] : 1; }
  double y_of(double value) const {
    return plot_.bottom -
           plot_.height() * (value - marks_.front()) / (marks_.back() - marks_.front());
  }
  double slot() const {
    return plot_.width() / static_cast<double>(std::max<std::size_t>(1, values_.labels));
  }
  double middle_of(std::size_t i) const {
    return plot_.left + (static_cast<double>(i) + 0.5) * slot();
  }

  Status axes() {
    if (!chart_.value_title.empty()) {
      drawing_.write(chart_.value_title, {plot_.left, plot_.top + size()}, style());
      plot_.top += size() * 1.8;
    }
    plot_.top += size() * 0.6;
    find_marks();
    double widest = 0;
    for (const double mark : marks_) {
      LUMVET_TRY(const double width, Drawing::text_width(number_text(mark, step()), style()));
      widest = std::max(widest, width);
    }
    plot_.left += widest + size() * 0.7;
    LUMVET_RETURN_IF_ERROR(names());
    find_marks();                 // there is less room now
    constexpr double kLeast = 3;  // times the letters
    if (plot_.width() < kLeast * size() || plot_.height() < kLeast * size())
      return no_room(kLeast * size(), kLeast * size());
    for (const double mark : marks_) {
      const double y = y_of(mark);
      drawing_.line({plot_.left, y}, {plot_.right, y}, mark == 0 ? kFaint : kRule, {.width = 0.5});
      drawing_.write(number_text(mark, step()), {plot_.left - size() * 0.5, y + size() * 0.35},
                     style(), Drawing::Side::right);
    }
    return Done{};
  }

  // Below their places: in lines, turned where words have no room, some of them where even that has
  // none.
  Status names() {
    if (chart_.labels.empty()) return Done{};
    const std::size_t count = std::min(chart_.labels.size(), values_.labels);
    const double room = slot() * 0.94;
    double word = 0;
    double whole = 0;
    for (std::size_t i = 0; i < count; ++i) {
      LUMVET_TRY(const Paragraph::Widths widths, Paragraph(chart_.labels[i], style()).widths());
      word = std::max(word, widths.least);
      whole = std::max(whole, widths.whole);
    }
    if (word <= room) return names_in_lines(count, room);
    return turned_names(count, whole);
  }

  Status names_in_lines(std::size_t count, double room) {
    std::vector<SetParagraph> all;
    double height = 0;
    for (std::size_t i = 0; i < count; ++i) {
      LUMVET_TRY(SetParagraph set,
                 Paragraph(chart_.labels[i], style(),
                           {.align = ParagraphStyle::Align::center, .line_height = 1.15})
                     .set(room));
      height = std::max(height, set.height());
      all.push_back(std::move(set));
    }
    plot_.bottom -= height + size() * 0.5;
    for (std::size_t i = 0; i < count; ++i)
      drawing_.write(all[i], {middle_of(i) - room / 2, plot_.bottom + size() * 0.5});
    return Done{};
  }

  Status turned_names(std::size_t count, double longest) {
    constexpr double kDegrees = 45;
    constexpr double kMostOfHeight = 0.6;
    constexpr double kMostOfWidth = 0.25;
    const double slanted = std::numbers::sqrt2 / 2;
    const double length = std::min(longest, plot_.height() * kMostOfHeight / slanted);
    plot_.bottom -= length * slanted + size();
    // The first ones lean out to the left.
    const double out = length * slanted - (middle_of(0) - left_);
    plot_.left += std::clamp(out, 0.0, plot_.width() * kMostOfWidth);
    // Lines of letters that stand aslant need so much beside each other.
    const double needed = size() * 1.3 / slanted;
    const auto each = static_cast<std::size_t>(std::max(1.0, std::ceil(needed / slot())));
    for (std::size_t i = 0; i < count; i += each) {
      const double room = std::min(length, (middle_of(i) - left_) / slanted);
      LUMVET_TRY(const std::string name, shortened(chart_.labels[i], style(), room));
      const auto scope = drawing_.scope();
      drawing_.move(middle_of(i) + size() * 0.3, plot_.bottom + size());
      drawing_.turn(-kDegrees);
      drawing_.write(name, {0, 0}, style(), Drawing::Side::right);
    }
    return Done{};
  }

  // Whether a place is free; it is taken then.
  bool takes(const Rect& own) {
    const bool is_free = std::none_of(written_.begin(), written_.end(), [&](const Rect& other) {
      return !own.intersected(other).is_empty();
    });
    if (is_free) written_.push_back(own);
    return is_free;
  }

  // Where it runs into no other that is there already.
  void value_at(double value, double x, double y) {
    if (!chart_.shows_values) return;
    const TextStyle small = style(kInk, 0.9);
    const std::string text = number_text(value, value);
    const double width = Drawing::text_width(text, small).value_or(0) + size() * 0.3;
    const double line = value < 0 ? y + size() * 1.1 : y - size() * 0.35;
    const Rect own{x - width / 2, line - size(), x + width / 2, line};
    if (own.left < plot_.left || own.right > plot_.right || !takes(own)) return;
    drawing_.write(text, {x, line}, small, Drawing::Side::middle);
  }

  Status bars() {
    constexpr double kOfSlot = 0.74;
    const auto count = static_cast<double>(values_.series.size());
    const double wide = slot() * kOfSlot / count;
    for (std::size_t i = 0; i < values_.labels; ++i)
      for (std::size_t s = 0; s < values_.series.size(); ++s) {
        if (i >= values_.series[s].size() || !values_.series[s][i]) continue;
        const double value = *values_.series[s][i];
        const double left = middle_of(i) - slot() * kOfSlot / 2 + wide * static_cast<double>(s);
        bar(left + wide * 0.05, wide * 0.9, 0, value, color(s));
        value_at(value, left + wide / 2, y_of(value));
      }
    return Done{};
  }

  void bar(double left, double width, double from, double to, const Color& color) {
    const double a = y_of(from);
    const double b = y_of(to);
    if (a != b) drawing_.fill(box({left, std::min(a, b), width, std::abs(a - b)}), color);
  }

  Status stacked_bars() {
    constexpr double kOfSlot = 0.62;
    for (std::size_t i = 0; i < values_.labels; ++i) {
      double sum = 0;
      for (std::size_t s = 0; s < values_.series.size(); ++s) {
        if (i >= values_.series[s].size() || !values_.series[s][i]) continue;
        const double value = *values_.series[s][i];
        bar(middle_of(i) - slot() * kOfSlot / 2, slot() * kOfSlot, sum, sum + value, color(s));
        sum += value;
      }
      value_at(sum, middle_of(i), y_of(sum));
    }
    return Done{};
  }

  Status lines() {
    for (std::size_t s = 0; s < values_.series.size(); ++s) {
      Path path;
      bool goes_on = false;  // no line leads over a value that is missing
      const auto& own = values_.series[s];
      for (std::size_t i = 0; i < own.size(); ++i) {
        if (!own[i]) {
          goes_on = false;
          continue;
        }
        const Point at{middle_of(i), y_of(*own[i])};
        if (goes_on)
          path.line_to(at);
        else
          path.move_to(at);
        goes_on = true;
      }
      drawing_.stroke(path, color(s),
                      {.width = size() * 0.2, .cap = LineCap::round, .join = LineJoin::round});
      const double dot = size() * 0.5;
      for (std::size_t i = 0; i < own.size(); ++i) {
        if (!own[i]) continue;
        drawing_.fill(ellipse({middle_of(i) - dot / 2, y_of(*own[i]) - dot / 2, dot, dot}),
                      color(s));
        value_at(*own[i], middle_of(i), y_of(*own[i]) - dot / 2);
      }
    }
    return Done{};
  }

  // Clockwise from the top; shares stand beside their sectors, where they have room.
  Status pie() {
    double sum = 0;
    const auto& own = values_.series.front();
    for (const auto& value : own) sum += value.value_or(0);
    if (!(sum > 0))
      return Error(ErrorCode::invalid_argument, "the values of a pie are more than 0 together");
    const TextStyle small = style(kInk, 0.95);
    LUMVET_TRY(const double widest, Drawing::text_width("100\u2009%", small));
    const double margin = size() * 2.2;  // for the shares
    const double radius =
        std::min(plot_.width() / 2 - widest - size() * 1.3, plot_.height() / 2 - margin);
    if (radius < size()) return no_room(2 * (widest + size() * 2.3), 2 * (margin + size()));
    const Point center{(plot_.left + plot_.right) / 2, (plot_.top + plot_.bottom) / 2};
    constexpr double kWhole = 360;
    constexpr double kPercent = 100;
    double at = 0;
    for (std::size_t i = 0; i < own.size(); ++i) {
      const double part = own[i].value_or(0) / sum;
      if (part <= 0) continue;
      const double to = at + kWhole * part;
      drawing_.fill(sector(center, radius, at, to), color(i));
      if (part < 1)
        drawing_.stroke(sector(center, radius, at, to), Color::gray(1), {.width = 0.75});
      const double middle = (at + to) / 2 * std::numbers::pi / 180;
      // Beside its sector, where it runs into no other.
      const double out = radius + size() * 1.1;
      const double x = center.x + out * std::sin(middle);
      const double y = center.y - out * std::cos(middle) + size() * 0.35;
      const auto side = std::sin(middle) > 0.3    ? Drawing::Side::left
                        : std::sin(middle) < -0.3 ? Drawing::Side::right
                                                  : Drawing::Side::middle;
      const std::string share = number_text(kPercent * part, part < 0.01 ? 0.1 : 1) + "\u2009%";
      LUMVET_TRY(const double width, Drawing::text_width(share, small));
      const double left = side == Drawing::Side::left    ? x
                          : side == Drawing::Side::right ? x - width
                                                         : x - width / 2;
      if (takes({left, y - size(), left + width, y})) drawing_.write(share, {left, y}, small);
      at = to;
    }
    return Done{};
  }

  Drawing& drawing_;
  const Chart& chart_;
  const ChartValues& values_;
  double left_;  // of the area
  Plot plot_;
  std::vector<double> marks_;
  std::vector<Rect> written_;  // values, with y downward
};

}  // namespace

Status draw_parts(Drawing& drawing, const PageArea& area, const Chart& chart,
                  const ChartValues& values) {
  return Drawer(drawing, area, chart, values).draw();
}

}  // namespace lumvet::compose
