// SPDX-License-Identifier: Apache-2.0
// One page being drawn: text, lines, areas. Points from the bottom left corner.
#pragma once

#include <memory>
#include <string>

#include "lumvet/draw/drawing.h"
#include "lumvet/objects/object.h"

namespace demo {

enum class Face { regular, bold };

struct Fonts {
  lumvet::Typeface regular;
  lumvet::Typeface bold;
};

struct Ink {
  double red = 0;
  double green = 0;
  double blue = 0;
};

inline constexpr Ink kInk{0.13, 0.16, 0.20};
inline constexpr Ink kPale{0.45, 0.50, 0.55};
inline constexpr Ink kRiver{0.16, 0.42, 0.60};
inline constexpr Ink kMoss{0.33, 0.52, 0.30};
inline constexpr Ink kRust{0.72, 0.33, 0.16};
inline constexpr Ink kSand{0.93, 0.90, 0.84};

lumvet::Color color_of(Ink ink);

class Sheet {
 public:
  Sheet(const Fonts& fonts, lumvet::Drawing& drawing) : fonts_(fonts), drawing_(drawing) {}

  double width() const { return drawing_.width(); }
  double height() const { return drawing_.height(); }
  // What the rest is drawn with.
  lumvet::Drawing& drawing() { return drawing_; }

  void text(double x, double y, double size, const std::string& utf8, Face face = Face::regular,
            Ink ink = kInk);
  void text_right(double x, double y, double size, const std::string& utf8,
                  Face face = Face::regular, Ink ink = kInk);
  void text_centered(double x, double y, double size, const std::string& utf8,
                     Face face = Face::regular, Ink ink = kInk);
  double text_width(const std::string& utf8, double size, Face face = Face::regular) const;
  // Set within `width`, line by line downward; gives the height of the line after the last.
  double paragraph(double x, double y, double width, double size, const std::string& utf8,
                   Ink ink = kInk);

  void line(double x0, double y0, double x1, double y1, double thickness = 0.6, Ink ink = kInk);
  void line(double x0, double y0, double x1, double y1, const lumvet::StrokeStyle& style,
            Ink ink = kInk);
  void area(const lumvet::Rect& rect, Ink ink);
  void frame(const lumvet::Rect& rect, double thickness = 0.6, Ink ink = kInk);
  void fill(const lumvet::Path& path, Ink ink);
  void stroke(const lumvet::Path& path, const lumvet::StrokeStyle& style, Ink ink = kInk);
  void ellipse(lumvet::Point center, double rx, double ry, Ink ink, bool filled = true);
  void picture(const lumvet::Picture& picture, const lumvet::Rect& rect);
  void link(const lumvet::Rect& rect, int page);  // from 0

  // What a drawing does not say.
  lumvet::Array annotations;
  int rotate = 0;
  std::unique_ptr<lumvet::Rect> crop;

 private:
  lumvet::TextStyle look(double size, Face face, Ink ink) const;

  const Fonts& fonts_;
  lumvet::Drawing& drawing_;
};

}  // namespace demo
