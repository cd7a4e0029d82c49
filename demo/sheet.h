// SPDX-License-Identifier: Apache-2.0
// One page being written: text, lines, areas. Points from the bottom left corner.
#pragma once

#include <array>
#include <memory>
#include <set>
#include <string>
#include <vector>

#include "lumvet/geometry/path.h"
#include "lumvet/objects/object.h"

namespace demo {

enum class Face { regular, bold };

// A font file that the documents embed.
struct DemoFont {
  lumvet::Bytes file;
  std::string name;
  std::array<double, 256> widths{};  // by code of WinAnsiEncoding, in units of the em
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

class Sheet {
 public:
  Sheet(const DemoFont& regular, const DemoFont& bold, double width, double height)
      : regular_(regular), bold_(bold), width_(width), height_(height) {}

  double width() const { return width_; }
  double height() const { return height_; }

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
  void area(const lumvet::Rect& rect, Ink ink);
  void frame(const lumvet::Rect& rect, double thickness = 0.6, Ink ink = kInk);
  void fill(const lumvet::Path& path, Ink ink);
  void stroke(const lumvet::Path& path, double thickness, Ink ink = kInk);
  void ellipse(lumvet::Point center, double rx, double ry, Ink ink, bool filled = true);
  // Degrees counterclockwise from the right.
  void slice(lumvet::Point center, double radius, double from, double to, Ink ink);
  void image(const std::string& name, const lumvet::Rect& rect);
  // Operators as they are: "q", "[4 2] 0 d", "/Faint gs".
  void raw(const std::string& operators);

  void use(const std::string& kind, const std::string& name, lumvet::Object object);
  void link(const lumvet::Rect& rect, int page);

  const std::string& content() const { return content_; }
  const lumvet::Dict& resources() const { return resources_; }
  struct Link {
    lumvet::Rect rect;
    int page;
  };
  const std::vector<Link>& links() const { return links_; }
  lumvet::Array annotations;  // other than links
  lumvet::Dict entries;       // of the page, besides those that every page has
  int rotate = 0;
  std::unique_ptr<lumvet::Rect> crop;

 private:
  void color(Ink ink, bool filling);
  void path(const lumvet::Path& path);

  const DemoFont& regular_;
  const DemoFont& bold_;
  double width_;
  double height_;
  std::string content_;
  lumvet::Dict resources_;
  std::vector<Link> links_;
};

// WinAnsiEncoding; what it lacks becomes '?'.
std::string to_win_ansi(const std::string& utf8);

}  // namespace demo
