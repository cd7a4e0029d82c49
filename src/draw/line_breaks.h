// SPDX-License-Identifier: Apache-2.0
// Where lines of a text end: as far as they have room, where its scripts let them (UAX #14).
//
// Threads: one thread at a time.
#pragma once

#include <vector>

#include "draw/shaping.h"

namespace lumvet::draw {

struct LineRange {
  int begin = 0;            // units of the text
  int end = 0;              // without the blanks at its end
  int next = 0;             // where the next line begins
  bool is_hard = false;     // what follows begins anew, or nothing does
  bool is_divided = false;  // a hyphen stands at its end
};

class LineBreaks {
 public:
  // Errors: invalid_argument where the text's breaks cannot be told.
  static Result<LineBreaks> of(const ShapedText& text, const ParagraphStyle& style);

  // The line that begins at a unit, in so much room, in points.
  LineRange line_from(int begin, double room) const;
  // Of a part of the text, in points; tabs as far as their stops.
  double width(int begin, int end) const;
  double widest_word() const;
  // How far a tab leads that begins at a place and stands before a unit.
  double behind_tab(int tab, double x) const;

 private:
  struct Opportunity {
    int at = 0;
    bool is_hard = false;
  };

  int without_blanks(int begin, int end) const;
  double hyphen_width(int unit) const;
  LineRange divided(int begin, int word, int word_end, double room) const;
  LineRange forced(int begin, int end, double room) const;

  const ShapedText* text_ = nullptr;
  const ParagraphStyle* style_ = nullptr;
  std::vector<double> widths_;  // up to each unit, in points
  std::vector<bool> begins_;    // whether a cluster begins at a unit
  std::vector<Opportunity> opportunities_;
  bool has_tabs_ = false;
};

// A hyphen in the style of a unit. Errors: as ShapedText::of's.
Result<ShapedText> hyphen_at(const ShapedText& text, int unit);

}  // namespace lumvet::draw
