// SPDX-License-Identifier: Apache-2.0
#include "sheet.h"

namespace demo {

using lumvet::Drawing;
using lumvet::PageArea;
using lumvet::Path;
using lumvet::Point;
using lumvet::Rect;

namespace {

// Of an area in a space with y upward the top is its upper edge.
PageArea area_of(const Rect& rect) { return {rect.left, rect.top, rect.width(), rect.height()}; }

// Its points go upward from its lower edge.
Path box_of(const Rect& rect) {
  Path path;
  path.add_rect(rect);
  return path;
}

}  // namespace

lumvet::Color color_of(Ink ink) { return lumvet::Color::rgb(ink.red, ink.green, ink.blue); }

lumvet::TextStyle Sheet::look(double size, Face face, Ink ink) const {
  return {.face = face == Face::bold ? fonts_.bold : fonts_.regular,
          .size = size,
          .color = color_of(ink)};
}

void Sheet::link(const Rect& rect, int page) {
  drawing_.link(area_of(rect), "#page-" + std::to_string(page + 1));
}

double Sheet::text_width(const std::string& utf8, double size, Face face) const {
  return Drawing::text_width(utf8, look(size, face, kInk)).value();
}

void Sheet::text(double x, double y, double size, const std::string& utf8, Face face, Ink ink) {
  drawing_.write(utf8, {x, y}, look(size, face, ink));
}

void Sheet::text_right(double x, double y, double size, const std::string& utf8, Face face,
                       Ink ink) {
  drawing_.write(utf8, {x, y}, look(size, face, ink), Drawing::Side::right);
}

void Sheet::text_centered(double x, double y, double size, const std::string& utf8, Face face,
                          Ink ink) {
  drawing_.write(utf8, {x, y}, look(size, face, ink), Drawing::Side::middle);
}

double Sheet::paragraph(double x, double y, double width, double size, const std::string& utf8,
                        Ink ink) {
  constexpr double kLineHeight = 1.45;
  const lumvet::SetParagraph set =
      lumvet::Paragraph(utf8, look(size, Face::regular, ink), {.line_height = kLineHeight})
          .set(width)
          .value();
  drawing_.write(set, {x, y + set.base_line(0)});
  return y - set.height();
}

void Sheet::line(double x0, double y0, double x1, double y1, double thickness, Ink ink) {
  line(x0, y0, x1, y1, lumvet::StrokeStyle{.width = thickness}, ink);
}

void Sheet::line(double x0, double y0, double x1, double y1, const lumvet::StrokeStyle& style,
                 Ink ink) {
  drawing_.line({x0, y0}, {x1, y1}, color_of(ink), style);
}

void Sheet::area(const Rect& rect, Ink ink) { fill(box_of(rect), ink); }

void Sheet::frame(const Rect& rect, double thickness, Ink ink) {
  stroke(box_of(rect), {.width = thickness}, ink);
}

void Sheet::fill(const Path& shape, Ink ink) { drawing_.fill(shape, color_of(ink)); }

void Sheet::stroke(const Path& shape, const lumvet::StrokeStyle& style, Ink ink) {
  drawing_.stroke(shape, color_of(ink), style);
}

void Sheet::ellipse(Point center, double rx, double ry, Ink ink, bool filled) {
  const Path shape = lumvet::ellipse({center.x - rx, center.y - ry, 2 * rx, 2 * ry});
  if (filled)
    fill(shape, ink);
  else
    stroke(shape, {.width = 0.8}, ink);
}

void Sheet::picture(const lumvet::Picture& picture, const Rect& rect) {
  drawing_.draw(picture, area_of(rect), Drawing::Fit::stretched);
}

}  // namespace demo
