// SPDX-License-Identifier: Apache-2.0
// A sheet to draw on: shapes, text, pictures, pages of other documents.
//
//   lumvet::Drawing drawing(400, 300);
//   drawing.fill(lumvet::box({20, 20, 120, 80}), lumvet::Color::rgb(0.2, 0.5, 0.3));
//   {
//     const auto scope = drawing.scope();   // what is set within ends with it
//     drawing.move(200, 150);
//     drawing.turn(30);
//     drawing.write("turned", {0, 0}, {.size = 20});
//   }
//
// Places and lengths are points from the top left corner, y downward; with Space::upward they are
// in the standard's own space (ISO 32000-2, 8.3.2.3), from the bottom left corner with y upward,
// and the top of an area is its upper edge. A drawing can become a page (NewDocument), the tile of
// a pattern, a mask, or a part of other drawings.
//
// Nothing that is drawn returns an error: the first one stays with the drawing, which draws on, and
// whoever takes the drawing returns it.
//
// Copies cost nothing until one of them is drawn on. Threads: const methods may run concurrently;
// anything else needs exclusive access. Since: 0.2
#pragma once

#include <memory>
#include <optional>
#include <string>

#include "lumvet/color/blend_mode.h"
#include "lumvet/document/document.h"
#include "lumvet/draw/color.h"
#include "lumvet/draw/paragraph.h"
#include "lumvet/draw/picture.h"
#include "lumvet/geometry/path.h"
#include "lumvet/geometry/stroke_style.h"

namespace lumvet {

namespace draw {
struct DrawingData;
}

// Paths of areas, from their top towards larger values, whichever way these go.
LUMVET_EXPORT Path box(const PageArea& area);
LUMVET_EXPORT Path rounded_box(const PageArea& area, double radius);
LUMVET_EXPORT Path ellipse(const PageArea& area);
// A sector between two angles, clockwise from the top where y is downward, in degrees; a ring's
// where an inner radius is given.
LUMVET_EXPORT Path sector(Point center, double radius, double from, double to, double inner = 0);

// How a drawing goes onto another.
struct DrawOptions {
  double opacity = 1;  // of all of it together
  BlendMode blend = BlendMode::normal;
  bool isolated = true;   // blends among its own parts alone (11.4.5)
  bool knockout = false;  // whose parts replace each other (11.4.6)
};

// How a layer begins (8.11.4.3).
struct LayerOptions {
  bool is_shown = true;
  bool is_printed = true;
};

// In points from the page's top left corner, y downward, whichever way the drawing counts.
struct FieldPlace {
  std::string name = {};
  PageArea area = {};
};

struct TagOptions {
  std::string alternate = {};    // what is said in place of it: of a picture
  std::string actual_text = {};  // what it reads
  std::string language = {};     // "de-AT"
  std::string title = {};
  // Tags of one document with the same name here are one element: a table that goes over pages.
  std::string key = {};
};

class LUMVET_EXPORT Drawing {
 public:
  enum class Space { downward, upward };
  Drawing(double width, double height, Space space = Space::downward);
  Drawing(const Drawing&);
  Drawing(Drawing&&) noexcept;
  Drawing& operator=(const Drawing&);
  Drawing& operator=(Drawing&&) noexcept;
  ~Drawing();

  double width() const;
  double height() const;
  Space space() const;

  // What is set while it lives ends with it. They end in the reverse order of their beginnings. A
  // drawing that is returned, or moved elsewhere, before they end is whole, and nothing more is
  // drawn on it.
  class LUMVET_EXPORT Scope {
   public:
    Scope(Scope&& other) noexcept;
    Scope(const Scope&) = delete;
    Scope& operator=(const Scope&) = delete;
    Scope& operator=(Scope&&) = delete;
    ~Scope();

   private:
    friend class Drawing;
    enum class Kind { state, tag, layer };
    Scope(Drawing& drawing, Kind kind) : drawing_(&drawing), kind_(kind) {}
    Drawing* drawing_;
    Kind kind_;
  };
  [[nodiscard]] Scope scope();

  // Of what is drawn from now on, within what was set before.
  void move(double across, double along);
  void turn(double degrees);  // clockwise where y is downward, to the left where it is upward
  void scale(double across, double along);
  void transform(const Matrix& matrix);  // from the new space to the one until now
  void clip(const Path& path, FillRule rule = FillRule::nonzero);
  void set_opacity(double opacity);
  void set_blend(BlendMode blend);
  // What is drawn shows as far as a drawing that lies at a place is light, or opaque (11.5).
  enum class Mask { light, opacity };
  void set_mask(const Drawing& mask, Mask kind, Point at = {});

  void fill(const Path& path, const Paint& paint, FillRule rule = FillRule::nonzero);
  void stroke(const Path& path, const Paint& paint, const StrokeStyle& style = {});
  void line(Point from, Point to, const Paint& paint, const StrokeStyle& style = {});

  // One line of text, from a point on its base line, or so that it ends there, or its middle is
  // there.
  enum class Side { left, middle, right };
  void write(const std::string& text, Point at, const TextStyle& style, Side side = Side::left);
  // Lines of a paragraph; `at` is its top left corner, or that of the first of these lines.
  void write(const SetParagraph& paragraph, Point at);
  void write(const SetParagraph& paragraph, Point at, std::size_t first_line,
             std::size_t lines_end);
  // How wide a line of text is, in points. Errors: as Paragraph::set's.
  static Result<double> text_width(const std::string& text, const TextStyle& style);

  // How something is fitted into an area.
  enum class Fit {
    inside,   // as large as it has room as a whole, in the middle
    filling,  // so large that nothing stays empty; what is outside is cut off
    stretched,
  };
  void draw(const Picture& picture, const PageArea& area, Fit fit = Fit::inside);
  // A page of another document with what its annotations look like, upright as it is shown.
  void draw(const Page& page, const PageArea& area, Fit fit = Fit::inside);
  // Another drawing at its own size, its top left corner at a place, with its links, places and
  // entries of the outline, and without its tags and fields.
  void draw(const Drawing& drawing, Point at, const DrawOptions& options = {});

  // Of pages, and of drawings that are drawn onto them; elsewhere they are left out. What a click
  // leads to: an address, or "#" and the name of a place.
  void link(const PageArea& area, const std::string& target);
  void name_place(const std::string& name, Point at);
  // An entry of the outline that leads to a height, so deep below the outermost.
  void add_outline_entry(const std::string& title, double at, int depth = 0);

  // Where a field of a form is to go. It is not drawn; whoever makes the form asks for it.
  void note_field(const std::string& name, const PageArea& area);
  std::vector<FieldPlace> field_places() const;

  // What is drawn while it lives is of an element of the structure: "H1", "P", "Figure" (14.8.4).
  // Tags may lie within each other.
  [[nodiscard]] Scope tag(const std::string& type, const TagOptions& options = {});
  // What is no content: running heads, rules, backgrounds. So is everything outside of tags, in
  // documents that have some.
  [[nodiscard]] Scope artifact();

  // What is drawn while it lives is of a layer, which a reader can hide (8.11). Layers of one name
  // in a document are one, and begin as the first of them says; within another one both count.
  [[nodiscard]] Scope layer(const std::string& name, const LayerOptions& options = {});

  // What went wrong first; done when nothing did.
  Status status() const;
  // Alone, on a page of its own size, to be shown and rendered like any other. Errors: status().
  Result<Document> as_document() const;

 private:
  friend struct Inside<Drawing>;
  void end_scope(Scope::Kind kind);
  draw::DrawingData& own();

  std::shared_ptr<draw::DrawingData> data_;
};

}  // namespace lumvet
