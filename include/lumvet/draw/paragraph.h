// SPDX-License-Identifier: Apache-2.0
// Text in lines: shaped, broken where scripts let it, set to one side or both.
//
//   lumvet::Paragraph text("Six footbridges were inspected on ", {.size = 11});
//   text.add("one day", {.size = 11, .underlined = true}).add(".", {.size = 11});
//   const lumvet::SetParagraph set = text.set(220).value();
//   drawing.write(set, {64, 90});
//   const double below = 90 + set.height();
//
// Threads: values; const methods may run concurrently. Since: 0.2
#pragma once

#include <memory>
#include <string>
#include <vector>

#include "lumvet/base/inside.h"
#include "lumvet/draw/text_style.h"

namespace lumvet {

namespace draw {
struct SetLines;
}

// Lines as they will stand. Copies share them. Lengths are points.
class LUMVET_EXPORT SetParagraph {
 public:
  SetParagraph();
  double width() const { return width_; }  // that it was set to
  double height() const;
  std::size_t line_count() const;
  // From the top of the paragraph.
  double line_top(std::size_t line) const;  // of the line behind the last: the height
  double base_line(std::size_t line) const;
  // From the left of the paragraph, without blanks at the ends of lines.
  double line_left(std::size_t line) const;
  double line_right(std::size_t line) const;
  // What stands in a line, in UTF-8, with the hyphen that divides a word at its end.
  std::string line_text(std::size_t line) const;

 private:
  friend struct Inside<SetParagraph>;
  std::shared_ptr<const draw::SetLines> lines_;
  double width_ = 0;
};

// What stays free of a paragraph's lines for something that stands beside them: so much at its left
// and right, in points, of the lines that begin less far from its top.
struct FreeRoom {
  double height = 0;
  double left = 0;
  double right = 0;
};

class LUMVET_EXPORT Paragraph {
 public:
  explicit Paragraph(ParagraphStyle style = {}) : style_(std::move(style)) {}
  Paragraph(std::string text, const TextStyle& look, ParagraphStyle style = {})
      : style_(std::move(style)) {
    add(std::move(text), look);
  }

  // UTF-8; a line end in it ends a line, a tab leads to the next stop.
  Paragraph& add(std::string text, const TextStyle& look);
  // A note, which in a Flow stands at the foot of the column, with a raised number here, and so in
  // the cells of its tables. `look` is of the letters before it. Elsewhere notes are an error.
  Paragraph& add_note(std::string note, const TextStyle& look);
  // The number of the page on which a heading of the Flow is, by the heading's name, and a link to
  // it unless `look` has one. Of paragraphs, lists and tables of a Flow, but for rows of a source;
  // elsewhere it is an error.
  Paragraph& add_page_of(std::string heading, const TextStyle& look);
  const ParagraphStyle& style() const { return style_; }

  // Errors: invalid_argument for letters that no font has, with the letter, when there is no font,
  // and for a width that is none.
  Result<SetParagraph> set(double width, const FreeRoom& free = {}) const;
  // As wide as its longest line would be in endless room, and as its longest word, in points.
  struct Widths {
    double whole = 0;
    double least = 0;
  };
  Result<Widths> widths() const;

 private:
  friend struct Inside<Paragraph>;
  struct Part {
    enum class Kind { text, note, page };
    std::string text;
    TextStyle look;
    Kind kind = Kind::text;
  };
  ParagraphStyle style_;
  std::vector<Part> parts_;
};

}  // namespace lumvet
