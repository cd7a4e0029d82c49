// SPDX-License-Identifier: Apache-2.0
// Marks, links and the like on pages (ISO 32000-2, 12.5), as they stand in the file.
//
//   for (const lumvet::Annotation& mark : document.page(0)->annotations().value())
//     std::cout << mark.author << ": " << mark.contents << '\n';
//
// Threads: values. Since: 0.2
#pragma once

#include <array>
#include <cstdint>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "lumvet/document/action.h"
#include "lumvet/document/measured_area.h"
#include "lumvet/geometry/matrix.h"
#include "lumvet/objects/object.h"

namespace lumvet {

struct AnnotationBorder {
  double width = 1;               // points
  std::string style = "S";        // by the names of table 168: "S" solid, "D" dashed, "B", "I", "U"
  std::vector<double> dash = {};  // points on, points off
  double cloud = 0;               // how strongly the line bulges, 0 to 2 (table 169)
  bool operator==(const AnnotationBorder&) const = default;
};

// The lines that lead from what a line measures to the line (12.5.6.7), in points.
struct LeaderLines {
  double length = 0;     // negative to the other side
  double extension = 0;  // beyond the line
  double offset = 0;     // free before they begin
  bool operator==(const LeaderLines&) const = default;
};

struct Annotation {
  // By the names of table 171.
  enum class Kind {
    text,
    link,
    free_text,
    line,
    square,
    circle,
    polygon,
    polyline,
    highlight,
    underline,
    squiggly,
    strike_out,
    caret,
    stamp,
    ink,
    popup,
    file_attachment,
    redact,
    sound,
    movie,
    screen,
    widget,
    printer_mark,
    trap_net,
    watermark,
    three_d,
    rich_media,
    projection,
    other,
  };

  ObjectId id = {};  // 0 0 when it stands in the page itself
  Kind kind = Kind::other;
  std::string type = {};   // as the file names it: "FreeText"
  Rect rect = {};          // points of the page's space
  std::int64_t flags = 4;  // table 167; printed

  std::string contents = {};  // UTF-8, as all texts here
  std::string name = {};      // unique on its page
  std::string author = {};
  std::string subject = {};
  std::string language = {};
  std::string created = {};  // as DocumentInfo's
  std::string modified = {};

  std::vector<double> color = {};  // 0 none, 1 gray, 3 red-green-blue, 4 cyan-magenta-yellow-black
  std::vector<double> interior_color = {};
  double opacity = 1;
  std::string blend = {};  // "Multiply": by which it mixes with the page; empty for Normal
  AnnotationBorder border = {};
  bool has_border = false;  // whether the file says anything of it
  std::string icon = {};    // "Comment", "PushPin"; of a stamp "Draft"
  std::string intent = {};  // "LineDimension"

  std::vector<std::array<Point, 4>> quads = {};  // of text that is marked, or of a link
  std::vector<Point> vertices = {};              // of a line, a polygon, a free text's call-out
  std::vector<std::vector<Point>> strokes = {};  // of ink
  std::array<std::string, 2> line_ends = {};     // "OpenArrow"
  LeaderLines leaders = {};
  bool has_caption = false;       // a line that shows its contents
  bool caption_is_above = false;  // or within the line
  // How what is drawn is measured (12.9); null where nothing is said of it.
  std::shared_ptr<const Measure> measure = {};
  // What is free between the rectangle and what is drawn: left, top, right, bottom, in points.
  std::array<double, 4> inset = {};

  // By how much what free text, stamps, carets and captions show is turned against the page, to the
  // left: 0, 90, 180 or 270 degrees (/Rotate, which several programs write).
  int rotation = 0;

  // Of free text, and of what a redaction leaves behind.
  enum class Alignment { left, centered, right };
  Alignment alignment = Alignment::left;
  std::string default_appearance = {};  // operators that set font and color (12.7.4.3)
  std::string default_style = {};       // the same as a style of CSS
  std::string rich_contents = {};       // XHTML (annex on rich text, 12.7.4.4), as it stands
  std::string overlay_text = {};
  bool repeats_overlay = false;

  std::string appearance_state = {};                // "Off", "Yes"
  std::vector<std::string> appearance_states = {};  // those it can be drawn in; "" when in one only

  std::optional<ObjectId> in_reply_to = {};
  bool is_grouped = false;        // with what it replies to, rather than an answer
  std::string review_model = {};  // "Marked", "Review"
  std::string review_state = {};  // "Accepted"
  std::optional<ObjectId> popup = {};
  std::optional<ObjectId> popup_of = {};  // of a pop-up: the annotation whose text it shows
  bool is_open = false;

  std::optional<Destination> destination = {};  // its own, or that of its first action
  std::vector<Action> actions = {};             // when it is clicked
  std::vector<Trigger> triggers = {};
  std::string file = {};  // of an attached file
  Object layer = {};      // that it belongs to, as a reference; null without

  bool is_hidden() const { return has_flag(2); }
  bool is_printed() const { return has_flag(3); }
  bool is_shown() const { return !is_hidden() && !has_flag(6); }  // on a screen
  bool is_read_only() const { return has_flag(7); }
  bool is_locked() const { return has_flag(8); }

 private:
  bool has_flag(int bit) const { return (flags >> (bit - 1) & 1) != 0; }
};

}  // namespace lumvet
