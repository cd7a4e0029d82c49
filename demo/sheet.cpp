// SPDX-License-Identifier: Apache-2.0
#include "sheet.h"

#include <cmath>
#include <numbers>
#include <sstream>

#include "fonts/encoding.h"
#include "objects/serializer.h"
#include "objects/text_string.h"

namespace demo {

using lumvet::Path;
using lumvet::Point;
using lumvet::Rect;

namespace {

void put(std::string& out, double value) {
  if (!out.empty() && out.back() != '\n' && out.back() != ' ') out += ' ';
  lumvet::objects::serialize_number(std::round(value * 1000) / 1000, out);
}

void put(std::string& out, Point p) {
  put(out, p.x);
  put(out, p.y);
}

}  // namespace

std::string to_win_ansi(const std::string& utf8) {
  std::string out;
  for (std::size_t i = 0; i < utf8.size();) {
    const std::uint32_t code = lumvet::objects::next_code_point(utf8, i);
    char byte = '?';
    if (code >= 32 && code < 127) byte = static_cast<char>(code);
    const auto& table = *lumvet::fonts::find_encoding("WinAnsiEncoding");
    for (unsigned c = 128; code >= 127 && c < 256 && byte == '?'; ++c)
      if (lumvet::fonts::unicode_of_glyph(table[c]) == code) byte = static_cast<char>(c);
    out += byte;
  }
  return out;
}

void Sheet::raw(const std::string& operators) { content_ += operators + "\n"; }

void Sheet::use(const std::string& kind, const std::string& name, lumvet::Object object) {
  lumvet::Dict entries = resources_[kind].as_dict();
  entries.set(name, std::move(object));
  resources_.set(kind, std::move(entries));
}

void Sheet::link(const Rect& rect, int page) { links_.push_back({rect, page}); }

void Sheet::color(Ink ink, bool filling) {
  put(content_, ink.red);
  put(content_, ink.green);
  put(content_, ink.blue);
  content_ += filling ? " rg\n" : " RG\n";
}

double Sheet::text_width(const std::string& utf8, double size, Face face) const {
  const DemoFont& font = face == Face::bold ? bold_ : regular_;
  double width = 0;
  for (const char c : to_win_ansi(utf8)) width += font.widths[static_cast<unsigned char>(c)];
  return width * size;
}

void Sheet::text(double x, double y, double size, const std::string& utf8, Face face, Ink ink) {
  color(ink, true);
  content_ += face == Face::bold ? "BT /Bold" : "BT /Text";
  put(content_, size);
  content_ += " Tf";
  put(content_, {x, y});
  content_ += " Td ";
  lumvet::objects::serialize(lumvet::Object::string(to_win_ansi(utf8)), content_);
  content_ += " Tj ET\n";
}

void Sheet::text_right(double x, double y, double size, const std::string& utf8, Face face,
                       Ink ink) {
  text(x - text_width(utf8, size, face), y, size, utf8, face, ink);
}

void Sheet::text_centered(double x, double y, double size, const std::string& utf8, Face face,
                          Ink ink) {
  text(x - text_width(utf8, size, face) / 2, y, size, utf8, face, ink);
}

double Sheet::paragraph(double x, double y, double width, double size, const std::string& utf8,
                        Ink ink) {
  std::istringstream words(utf8);
  std::string line;
  const double leading = size * 1.45;
  for (std::string word; words >> word;) {
    const std::string longer = line.empty() ? word : line + " " + word;
    if (text_width(longer, size) > width && !line.empty()) {
      text(x, y, size, line, Face::regular, ink);
      y -= leading;
      line = word;
    } else {
      line = longer;
    }
  }
  if (!line.empty()) text(x, y, size, line, Face::regular, ink);
  return y - leading;
}

void Sheet::path(const Path& path) {
  std::size_t at = 0;
  for (const Path::Segment segment : path.segments()) {
    const int count = segment == Path::Segment::curve ? 3 : segment == Path::Segment::close ? 0 : 1;
    for (int i = 0; i < count; ++i) put(content_, path.points()[at++]);
    constexpr const char* kOperators[] = {" m\n", " l\n", " c\n", "h\n"};
    content_ += kOperators[static_cast<int>(segment)];
  }
}

void Sheet::line(double x0, double y0, double x1, double y1, double thickness, Ink ink) {
  Path segment;
  segment.move_to({x0, y0});
  segment.line_to({x1, y1});
  stroke(segment, thickness, ink);
}

void Sheet::area(const Rect& rect, Ink ink) {
  Path box;
  box.add_rect(rect);
  fill(box, ink);
}

void Sheet::frame(const Rect& rect, double thickness, Ink ink) {
  Path box;
  box.add_rect(rect);
  stroke(box, thickness, ink);
}

void Sheet::fill(const Path& shape, Ink ink) {
  color(ink, true);
  path(shape);
  content_ += "f\n";
}

void Sheet::stroke(const Path& shape, double thickness, Ink ink) {
  color(ink, false);
  put(content_, thickness);
  content_ += " w\n";
  path(shape);
  content_ += "S\n";
}

void Sheet::ellipse(Point center, double rx, double ry, Ink ink, bool filled) {
  constexpr double kRound = 0.5522847498;
  const auto p = [&](double x, double y) { return Point{center.x + x * rx, center.y + y * ry}; };
  Path shape;
  shape.move_to(p(1, 0));
  shape.curve_to(p(1, kRound), p(kRound, 1), p(0, 1));
  shape.curve_to(p(-kRound, 1), p(-1, kRound), p(-1, 0));
  shape.curve_to(p(-1, -kRound), p(-kRound, -1), p(0, -1));
  shape.curve_to(p(kRound, -1), p(1, -kRound), p(1, 0));
  shape.close();
  if (filled)
    fill(shape, ink);
  else
    stroke(shape, 0.8, ink);
}

void Sheet::slice(Point center, double radius, double from, double to, Ink ink) {
  constexpr double kDegree = std::numbers::pi / 180;
  const auto p = [&](double degrees, double r) {
    return Point{center.x + std::cos(degrees * kDegree) * r,
                 center.y + std::sin(degrees * kDegree) * r};
  };
  Path shape;
  shape.move_to(center);
  shape.line_to(p(from, radius));
  const int pieces = std::max(1, static_cast<int>(std::ceil((to - from) / 60)));
  for (int i = 0; i < pieces; ++i) {
    const double a = from + (to - from) * i / pieces;
    const double b = from + (to - from) * (i + 1) / pieces;
    const double reach = radius * 4 / 3 * std::tan((b - a) * kDegree / 4);
    const Point start = p(a, radius);
    const Point end = p(b, radius);
    const auto along = [&](Point at, double degrees, double length) {
      return Point{at.x - std::sin(degrees * kDegree) * length,
                   at.y + std::cos(degrees * kDegree) * length};
    };
    shape.curve_to(along(start, a, reach), along(end, b, -reach), end);
  }
  shape.close();
  fill(shape, ink);
}

void Sheet::image(const std::string& name, const Rect& rect) {
  content_ += "q";
  put(content_, rect.width());
  content_ += " 0 0";
  put(content_, rect.height());
  put(content_, {rect.left, rect.bottom});
  content_ += " cm /" + name + " Do Q\n";
}

}  // namespace demo
