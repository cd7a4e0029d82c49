// SPDX-License-Identifier: Apache-2.0
#include "appearance/annotation_look.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "appearance/icons.h"
#include "appearance/shapes.h"
#include "document/appearance.h"

namespace lumvet::appearance {
namespace {

using Kind = Annotation::Kind;

const Color kBlack = Color::gray(0);

Rect grown(const Rect& r, double by) {
  return {r.left - by, r.bottom - by, r.right + by, r.top + by};
}

Rect bounds_of(const std::vector<Point>& points) {
  Rect bounds = Rect::nothing();
  for (const Point p : points) bounds.include(p);
  return bounds;
}

double width_of(const Annotation& mark) { return std::clamp(mark.border.width, 0.0, 100.0); }

StrokeStyle stroke_of(const Annotation& mark) {
  const bool has_bends =
      mark.kind == Kind::ink || mark.kind == Kind::polyline || mark.border.cloud > 0;
  StrokeStyle style{.width = width_of(mark), .join = has_bends ? LineJoin::round : LineJoin::miter};
  if (mark.border.style == "D")
    for (const double length : mark.border.dash) style.dashes.push_back(std::max(length, 0.0));
  if (std::all_of(style.dashes.begin(), style.dashes.end(), [](double l) { return l <= 0; }))
    style.dashes.clear();
  return style;
}

// Its line in its color, and what is within in the interior color.
void paint(Drawing& drawing, const Annotation& mark, const Path& path) {
  if (const auto inner = color_of(mark.interior_color)) drawing.fill(path, *inner);
  const auto line = color_of(mark.color);
  if (width_of(mark) > 0 && line) drawing.stroke(path, *line, stroke_of(mark));
}

class MarkPainter {
 public:
  MarkPainter(const Annotation& mark, const Fonts& fonts) : mark_(mark), fonts_(fonts) {}

  std::optional<Look> look() {
    switch (mark_.kind) {
      case Kind::text:
      case Kind::file_attachment:
      case Kind::sound: return icon();
      case Kind::link: return link();
      case Kind::free_text: return free_text();
      case Kind::line: return line();
      case Kind::square:
      case Kind::circle: return enclosed();
      case Kind::polygon:
      case Kind::polyline: return corners();
      case Kind::highlight:
      case Kind::underline:
      case Kind::squiggly:
      case Kind::strike_out: return text_mark();
      case Kind::caret: return caret();
      case Kind::stamp: return stamp();
      case Kind::ink: return ink();
      case Kind::redact: return redact();
      case Kind::movie:
      case Kind::screen:
      case Kind::three_d:
      case Kind::rich_media: return film();
      default: return std::nullopt;
    }
  }

 private:
  Color color(const Color& otherwise) const { return color_of(mark_.color).value_or(otherwise); }

  // The rectangle without what its differences leave free.
  Rect inner() const {
    const Rect& r = mark_.rect;
    const Rect within{r.left + mark_.inset[0], r.bottom + mark_.inset[3], r.right - mark_.inset[2],
                      r.top - mark_.inset[1]};
    return within.width() > 0 && within.height() > 0 ? within : r;
  }

  // What is drawn from now on is upright where the mark is turned. Gives the place in that frame.
  Rect turn_upright(Drawing& drawing, const Rect& place) const {
    if (mark_.rotation == 0) return place;
    drawing.transform(document::turned_left(mark_.rotation, place.width(), place.height())
                          .then(Matrix::translation(place.left, place.bottom)));
    return mark_.rotation % 180 == 0 ? Rect{0, 0, place.width(), place.height()}
                                     : Rect{0, 0, place.height(), place.width()};
  }

  // In its own size at the upper left corner, unless there is less room.
  std::optional<Look> icon() {
    const double size = std::min({kIconSize * 1.5, mark_.rect.width(), mark_.rect.height()});
    const double drawn = size > 1 ? size : kIconSize;
    const Rect place{mark_.rect.left, mark_.rect.top - drawn, mark_.rect.left + drawn,
                     mark_.rect.top};
    Look look{place, sheet_over(place)};
    look.drawing.transform(Matrix::scaling(drawn / kIconSize, drawn / kIconSize)
                               .then(Matrix::translation(place.left, place.bottom)));
    static const Color kNote = Color::rgb(0.98, 0.82, 0.35);
    static const Color kFile = Color::rgb(0.45, 0.62, 0.8);
    if (mark_.kind == Kind::text) draw_note_icon(look.drawing, mark_.icon, color(kNote));
    if (mark_.kind == Kind::file_attachment) draw_file_icon(look.drawing, mark_.icon, color(kFile));
    if (mark_.kind == Kind::sound) draw_sound_icon(look.drawing, mark_.icon, color(kFile));
    return look;
  }

  // A frame where the file asks for one; one that says nothing of it shows none.
  std::optional<Look> link() {
    const double width = width_of(mark_);
    if (width <= 0 || (!mark_.has_border && mark_.color.empty())) return std::nullopt;
    if (mark_.rect.width() <= width || mark_.rect.height() <= width) return std::nullopt;
    Look look{mark_.rect, sheet_over(mark_.rect)};
    const Rect& r = mark_.rect;
    const bool is_underlined = mark_.border.style == "U";
    const Path path =
        is_underlined
            ? polygon({{r.left, r.bottom + width / 2}, {r.right, r.bottom + width / 2}}, false)
            : polygon(corners_of(grown(r, -width / 2)), true);
    look.drawing.stroke(path, color(kBlack), stroke_of(mark_));
    return look;
  }

  std::optional<Look> enclosed() {
    const double width = width_of(mark_);
    const double cloud_room = mark_.border.cloud > 0 ? cloud_height(mark_.border.cloud) : 0;
    const Rect r = grown(inner(), -width / 2 - cloud_room);
    if (r.width() <= 0 || r.height() <= 0) return std::nullopt;
    const bool is_round = mark_.kind == Kind::circle;
    Path path;
    if (mark_.border.cloud > 0)
      path = cloud(is_round ? around_ellipse(r) : corners_of(r), mark_.border.cloud);
    else
      path = is_round ? ellipse({r.left, r.bottom, r.width(), r.height()})
                      : polygon(corners_of(r), true);
    Look look{mark_.rect, sheet_over(mark_.rect)};
    Annotation shown = mark_;
    if (shown.color.empty() && shown.interior_color.empty()) shown.color = {0};
    paint(look.drawing, shown, path);
    return look;
  }

  // A place around points, with room for the line and what stands at its ends.
  Look around(const std::vector<Point>& points, double more) const {
    const Rect place = grown(bounds_of(points), width_of(mark_) / 2 + more);
    return {place, sheet_over(place)};
  }

  // A line through points, with what stands at its ends.
  void open_line(Drawing& drawing, std::vector<Point> points) const {
    const double width = width_of(mark_);
    const Color own = color(kBlack);
    const auto begin = line_end(mark_.line_ends[0], points.front(), points[1], width);
    const auto end = line_end(mark_.line_ends[1], points.back(), points[points.size() - 2], width);
    const auto shorten = [](Point& at, Point from, double by) {
      const Point way = from - at;
      const double whole = std::hypot(way.x, way.y);
      if (whole > by && whole > 0) at = {at.x + way.x * by / whole, at.y + way.y * by / whole};
    };
    if (begin) shorten(points.front(), points[1], begin->shortened);
    if (end) shorten(points.back(), points[points.size() - 2], end->shortened);
    if (width > 0) drawing.stroke(polygon(points, false), own, stroke_of(mark_));
    for (const auto& one : {begin, end}) {
      if (!one) continue;
      if (const auto inside = color_of(mark_.interior_color); one->is_filled && inside)
        drawing.fill(one->shape, *inside);
      drawing.stroke(one->shape, own, {.width = std::max(width, 0.5), .join = LineJoin::miter});
    }
  }

  std::optional<Look> line() {
    if (mark_.vertices.size() < 2) return std::nullopt;
    Point from = mark_.vertices[0];
    Point to = mark_.vertices[1];
    const Point way = to - from;
    const double whole = std::hypot(way.x, way.y);
    if (whole <= 0) return std::nullopt;
    const LeaderLines& leaders = mark_.leaders;
    const Point up{-way.y / whole, way.x / whole};
    const auto raised = [&](Point p, double by) { return Point{p.x + up.x * by, p.y + up.y * by}; };
    const double side = leaders.length < 0 ? -1 : 1;
    const double width = width_of(mark_);
    constexpr double kLetters = 9;  // points
    const double more = line_end_reach(width) + std::abs(leaders.length) + leaders.extension +
                        (mark_.has_caption ? 2.5 * kLetters : 0);
    Look look = around(mark_.vertices, more);
    if (leaders.length != 0)
      for (const Point end : {from, to})
        look.drawing.line(raised(end, side * leaders.offset),
                          raised(end, leaders.length + side * leaders.extension), color(kBlack),
                          {.width = std::max(width, 0.5)});
    from = raised(from, leaders.length);
    to = raised(to, leaders.length);
    if (mark_.has_caption && !mark_.contents.empty())
      captioned_line(look.drawing, from, to, kLetters);
    else
      open_line(look.drawing, {from, to});
    return look;
  }

  // In the middle of the line, which makes room for it, or above it; upright for who reads it.
  void captioned_line(Drawing& drawing, Point from, Point to, double size) const {
    const Point way = to - from;
    const double whole = std::hypot(way.x, way.y);
    const TextStyle style = style_of({.color = mark_.color}, size, fonts_);
    const double wide = Drawing::text_width(mark_.contents, style).value_or(0);
    const double gap = wide + 6;
    const bool is_within = !mark_.caption_is_above && gap < whole;
    if (is_within) {
      const auto at = [&](double share) {
        return Point{from.x + way.x * share, from.y + way.y * share};
      };
      Annotation half = mark_;
      half.line_ends[1] = {};
      MarkPainter(half, fonts_).open_line(drawing, {from, at(0.5 - gap / 2 / whole)});
      half.line_ends = {std::string(), mark_.line_ends[1]};
      MarkPainter(half, fonts_).open_line(drawing, {at(0.5 + gap / 2 / whole), to});
    } else {
      open_line(drawing, {from, to});
    }
    const auto scope = drawing.scope();
    // Never upside down, and from below to above where it runs across.
    const Matrix upright = document::turned_left(mark_.rotation, 0, 0);
    const double along = way.x * upright.a + way.y * upright.b;
    const double across = way.x * upright.c + way.y * upright.d;
    constexpr double kSteep = 0.01;
    const bool is_back = std::abs(along) < kSteep * whole ? across < 0 : along < 0;
    const double turn = is_back ? -1 : 1;
    const Point middle{(from.x + to.x) / 2, (from.y + to.y) / 2};
    drawing.transform({turn * way.x / whole, turn * way.y / whole, -turn * way.y / whole,
                       turn * way.x / whole, middle.x, middle.y});
    const double below = is_within ? -size * 0.35 : width_of(mark_) / 2 + 3;
    drawing.write(mark_.contents, {0, below}, style, Drawing::Side::middle);
  }

  std::optional<Look> corners() {
    const bool is_closed = mark_.kind == Kind::polygon;
    if (mark_.vertices.size() < 2) return std::nullopt;
    const double cloud_room =
        is_closed && mark_.border.cloud > 0 ? cloud_height(mark_.border.cloud) : 0;
    Look look = around(mark_.vertices, std::max(cloud_room, line_end_reach(width_of(mark_))));
    if (!is_closed) {
      if (const auto inside = color_of(mark_.interior_color); inside && mark_.vertices.size() > 2)
        look.drawing.fill(polygon(mark_.vertices, true), *inside);
      open_line(look.drawing, mark_.vertices);
      return look;
    }
    Annotation shown = mark_;
    if (shown.color.empty() && shown.interior_color.empty()) shown.color = {0};
    paint(
        look.drawing, shown,
        cloud_room > 0 ? cloud(mark_.vertices, mark_.border.cloud) : polygon(mark_.vertices, true));
    return look;
  }

  std::optional<Look> ink() {
    std::vector<Point> all;
    for (const auto& stroke : mark_.strokes) all.insert(all.end(), stroke.begin(), stroke.end());
    if (all.empty() || width_of(mark_) <= 0) return std::nullopt;
    Look look = around(all, width_of(mark_) + 1);
    StrokeStyle style = stroke_of(mark_);
    style.cap = LineCap::round;
    for (const std::vector<Point>& stroke : mark_.strokes) {
      if (stroke.empty()) continue;
      // A point alone is a dot.
      const Path path =
          stroke.size() == 1 ? polygon({stroke[0], stroke[0]}, false) : smooth(stroke);
      look.drawing.stroke(path, color(kBlack), style);
    }
    return look;
  }

  // Its corners as they lie: lower left, lower right, upper right, upper left, along the line. The
  // standard names another order than the one that everybody writes (12.5.6.10).
  struct Line {
    Point begin;
    Point end;
    Point up;  // from the base line to the top
  };
  static Line line_of(const std::array<Point, 4>& quad) {
    const bool is_around = std::hypot(quad[2].x - quad[1].x, quad[2].y - quad[1].y) <
                           std::hypot(quad[3].x - quad[1].x, quad[3].y - quad[1].y);
    // As everybody writes them: the upper two, then the lower two. Around, when they turn.
    const Point lower_left = is_around ? quad[0] : quad[2];
    const Point lower_right = is_around ? quad[1] : quad[3];
    const Point upper_left = is_around ? quad[3] : quad[0];
    return {lower_left, lower_right, upper_left - lower_left};
  }

  std::optional<Look> text_mark() {
    std::vector<std::array<Point, 4>> quads = mark_.quads;
    if (quads.empty()) {
      const Rect& r = mark_.rect;
      if (r.width() <= 0 || r.height() <= 0) return std::nullopt;
      quads.push_back(
          {Point{r.left, r.top}, {r.right, r.top}, {r.left, r.bottom}, {r.right, r.bottom}});
    }
    std::vector<Point> all;
    for (const auto& quad : quads) all.insert(all.end(), quad.begin(), quad.end());
    const Rect bounds = bounds_of(all);
    Rect place = grown(bounds, 1 + bounds.height() / 8 / static_cast<double>(quads.size()));
    Look look{place, sheet_over(place)};
    for (const auto& quad : quads) text_line(look.drawing, line_of(quad));
    return look;
  }

  void text_line(Drawing& drawing, const Line& line) {
    const Point along = line.end - line.begin;
    const double whole = std::hypot(along.x, along.y);
    const double high = std::hypot(line.up.x, line.up.y);
    if (!(whole > 0) || !(high > 0)) return;
    const auto at = [&](double share, double raised) {
      return Point{line.begin.x + along.x * share + line.up.x * raised,
                   line.begin.y + along.y * share + line.up.y * raised};
    };
    const double width = std::max(high / 16, 0.4);
    switch (mark_.kind) {
      case Kind::highlight: {
        // Rounded where the text begins and ends.
        static const Color kYellow = Color::rgb(1, 0.92, 0.4);
        const double bulge = std::min(high / 6 / whole, 0.5);
        Path path;
        path.move_to(at(0, 0));
        path.line_to(at(1, 0));
        path.curve_to(at(1 + bulge, 0.25), at(1 + bulge, 0.75), at(1, 1));
        path.line_to(at(0, 1));
        path.curve_to(at(-bulge, 0.75), at(-bulge, 0.25), at(0, 0));
        path.close();
        drawing.fill(path, color(kYellow));
        return;
      }
      case Kind::squiggly: {
        const double step = std::max(high / 6, 1.0);
        constexpr double kMostSteps = 5000;
        const int count =
            std::min(static_cast<int>(std::clamp(whole / step, 1.0, kMostSteps)), steps_left_);
        if (count == 0) return;
        steps_left_ -= count;
        std::vector<Point> points;
        points.reserve(static_cast<std::size_t>(count) + 1);
        for (int i = 0; i <= count; ++i)
          points.push_back(at(static_cast<double>(i) / count, i % 2 == 0 ? 0.04 : 0.14));
        drawing.stroke(polygon(points, false), color(kBlack),
                       {.width = width, .join = LineJoin::round});
        return;
      }
      default: {
        const double raised = mark_.kind == Kind::underline ? 0.08 : 0.42;
        drawing.line(at(0, raised), at(1, raised), color(kBlack), {.width = width});
      }
    }
  }

  std::optional<Look> caret() {
    const Rect place = inner();
    if (place.width() <= 0 || place.height() <= 0) return std::nullopt;
    Look look{mark_.rect, sheet_over(mark_.rect)};
    const Rect r = turn_upright(look.drawing, place);
    const double middle = (r.left + r.right) / 2;
    Path path;
    path.move_to({r.left, r.bottom});
    path.curve_to({(r.left + middle) / 2, r.bottom}, {middle, (r.bottom + r.top) / 2},
                  {middle, r.top});
    path.curve_to({middle, (r.bottom + r.top) / 2}, {(r.right + middle) / 2, r.bottom},
                  {r.right, r.bottom});
    path.close();
    static const Color kBlue = Color::rgb(0.15, 0.35, 0.7);
    look.drawing.fill(path, color(kBlue));
    return look;
  }

  // Its name in words within a frame.
  std::optional<Look> stamp() {
    if (mark_.rect.width() < 4 || mark_.rect.height() < 4) return std::nullopt;
    static const Color kRust = Color::rgb(0.66, 0.22, 0.16);
    const Color own = color(kRust);
    Look look{mark_.rect, sheet_over(mark_.rect)};
    const Rect r = turn_upright(look.drawing, mark_.rect);
    const double line = std::clamp(r.height() / 20, 0.8, 3.0);
    const Rect frame = grown(r, -line);
    const Path path = rounded_box({frame.left, frame.bottom, frame.width(), frame.height()},
                                  std::min(frame.height(), frame.width()) / 6);
    look.drawing.stroke(path, own, {.width = line});
    std::string text;
    for (const char letter : mark_.icon.empty() ? std::string("Draft") : mark_.icon) {
      const bool is_large = letter >= 'A' && letter <= 'Z';
      if (is_large && !text.empty()) text += ' ';
      text += is_large || letter < 'a' || letter > 'z' ? letter : static_cast<char>(letter - 0x20);
    }
    TextStyle style = style_of({.font = "HeBo"}, 1, fonts_);
    style.color = own;
    const double wide = Drawing::text_width(text, style).value_or(0);
    const double high = style.face.cap_height();
    if (wide <= 0 || high <= 0) return look;
    style.size = std::min(0.82 * frame.width() / wide, 0.55 * frame.height() / high);
    look.drawing.write(text, {(r.left + r.right) / 2, (r.bottom + r.top - style.size * high) / 2},
                       style, Drawing::Side::middle);
    return look;
  }

  std::optional<Look> free_text() {
    const Rect text_box = inner();
    if (text_box.width() <= 0 || text_box.height() <= 0) return std::nullopt;
    TextLook look = read_text_look(mark_.default_appearance);
    read_style(mark_.default_style, look);
    const Color ink_color = color_of(look.color).value_or(kBlack);
    const double width =
        mark_.has_border || mark_.intent != "FreeTextTypeWriter" ? width_of(mark_) : 0;
    std::vector<Point> all = mark_.vertices;
    for (const Point corner : corners_of(text_box)) all.push_back(corner);
    const Rect place =
        mark_.vertices.empty() ? mark_.rect : grown(bounds_of(all), line_end_reach(width));
    Look drawn{place, sheet_over(place)};
    const Rect frame = grown(text_box, -width / 2);
    if (const auto ground = color_of(mark_.color))
      drawn.drawing.fill(polygon(corners_of(text_box), true), *ground);
    if (width > 0 && frame.width() > 0 && frame.height() > 0)
      drawn.drawing.stroke(mark_.border.cloud > 0 ? cloud(corners_of(frame), mark_.border.cloud)
                                                  : polygon(corners_of(frame), true),
                           ink_color, stroke_of(mark_));
    if (mark_.vertices.size() >= 2) {
      // The line begins at what it tells of.
      Annotation callout = mark_;
      callout.color = look.color.empty() ? std::vector<double>{0} : look.color;
      callout.line_ends = {callout_end(mark_), std::string()};
      MarkPainter(callout, fonts_).open_line(drawn.drawing, mark_.vertices);
    }
    write_text(drawn.drawing, grown(text_box, -width - 2), look, mark_.contents, mark_.alignment);
    return drawn;
  }

  // From the top of a box, cut at its edges. Text without a size becomes as large as has room.
  void write_text(Drawing& drawing, const Rect& place, const TextLook& look,
                  const std::string& text, Annotation::Alignment alignment) const {
    if (text.empty() || place.width() <= 0 || place.height() <= 0) return;
    const auto scope = drawing.scope();
    const Rect room = turn_upright(drawing, place);
    using Align = ParagraphStyle::Align;
    const Align align = alignment == Annotation::Alignment::centered ? Align::center
                        : alignment == Annotation::Alignment::right  ? Align::right
                                                                     : Align::start;
    constexpr double kUsual = 12;
    constexpr double kLeast = 4;
    double size = look.size > 0 ? look.size : kUsual;
    const auto set_in = [&](double points) {
      return Paragraph(text, style_of(look, points, fonts_), {.align = align, .line_height = 1.2})
          .set(room.width());
    };
    Result<SetParagraph> lines = set_in(size);
    while (look.size <= 0 && lines.ok() && lines->height() > room.height() && size > kLeast)
      lines = set_in(size = std::max(size * 0.9, kLeast));
    if (!lines.ok()) return;
    drawing.clip(polygon(corners_of(grown(room, 1)), true));
    drawing.write(*lines, {room.left, room.top});
  }

  // What is to go: framed, so that it is seen what will.
  std::optional<Look> redact() {
    std::vector<std::array<Point, 4>> quads = mark_.quads;
    const Rect& r = mark_.rect;
    if (quads.empty() && r.width() > 0 && r.height() > 0)
      quads.push_back(
          {Point{r.left, r.top}, {r.right, r.top}, {r.left, r.bottom}, {r.right, r.bottom}});
    if (quads.empty()) return std::nullopt;
    std::vector<Point> all;
    for (const auto& quad : quads) all.insert(all.end(), quad.begin(), quad.end());
    const Rect place = grown(bounds_of(all), 1);
    Look look{place, sheet_over(place)};
    static const Color kRed = Color::rgb(0.8, 0.1, 0.1);
    for (const auto& quad : quads) {
      const Line line = line_of(quad);
      const auto moved = [&](Point p) { return Point{p.x + line.up.x, p.y + line.up.y}; };
      look.drawing.stroke(polygon({line.begin, line.end, moved(line.end), moved(line.begin)}, true),
                          color(kRed), {.width = 1, .join = LineJoin::miter});
    }
    return look;
  }

  std::optional<Look> film() {
    const Rect& r = mark_.rect;
    if (r.width() <= 0 || r.height() <= 0) return std::nullopt;
    Look look{r, sheet_over(r)};
    look.drawing.fill(polygon(corners_of(r), true), Color::gray(0.9));
    look.drawing.stroke(polygon(corners_of(grown(r, -0.5)), true), Color::gray(0.5), {.width = 1});
    draw_film_icon(look.drawing, r);
    return look;
  }

  const Annotation& mark_;
  const Fonts& fonts_;
  int steps_left_ = 20'000;  // of waves, in all lines
};

// All of it together, as opaque as it is, and mixed with the page.
Look mixed(Look look, const Annotation& mark) {
  DrawOptions how{.opacity = mark.opacity};
  if (mark.kind == Kind::highlight && mark.blend.empty()) how.blend = BlendMode::multiply;
  if (how.opacity >= 1 && how.blend == BlendMode::normal) return look;
  Drawing whole(look.place.width(), look.place.height(), Drawing::Space::upward);
  whole.draw(look.drawing, {0, look.place.height()}, how);
  look.drawing = std::move(whole);
  return look;
}

}  // namespace

std::optional<Look> look_of(const Annotation& mark, const Fonts& fonts) {
  Annotation seen = mark;
  seen.contents = seen_part(std::move(seen.contents));
  seen.icon = seen_part(std::move(seen.icon));
  std::optional<Look> look = MarkPainter(seen, fonts).look();
  if (!look || !is_place(look->place) || !look->drawing.status().ok()) return std::nullopt;
  return mixed(*std::move(look), mark);
}

}  // namespace lumvet::appearance
