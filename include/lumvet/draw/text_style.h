// SPDX-License-Identifier: Apache-2.0
// How letters look, and how the lines of a paragraph are set.
//
// Threads: values. Since: 0.2
#pragma once

#include <string>
#include <vector>

#include "lumvet/draw/color.h"
#include "lumvet/draw/typeface.h"

namespace lumvet {

struct TextStyle {
  Typeface face = Typeface();
  double size = 11;  // points
  Color color = Color();
  double spacing = 0;  // points more behind each letter
  double rise = 0;     // points above the line
  bool underlined = false;
  bool struck_out = false;
  std::string language = {};  // "de-AT": by which letters are shaped and words divided
  // Where a click leads: an address, or "#" and the name of a place in the document.
  std::string link = {};
  // Whether a box stands for letters that no font has; without it they are an error.
  bool shows_missing = false;
};

// Where a tab leads. Behind the last stop each leads half an inch further.
struct TabStop {
  enum class Align { left, right, center };

  double at = 0;              // points from the left of the paragraph
  Align align = Align::left;  // of what stands behind it
  std::string leader = {};    // over and over, in the room before it: "."
};

struct ParagraphStyle {
  enum class Align {
    start,  // at the side where reading begins
    end,
    center,
    justified,  // at both sides, but for the last line
    left,
    right,
  };

  Align align = Align::start;
  double line_height = 1.25;  // from line to line, of the size of the letters
  // Points. Of the first line besides; it may be less than 0, down to -left.
  double first_indent = 0;
  double left = 0;
  double right = 0;
  double before = 0;  // of the flow above; the larger of two paragraphs' counts
  double after = 0;
  std::vector<TabStop> tabs = {};
  // Words are divided at line ends by the patterns of their language, where there are some.
  bool divides_words = false;
  // Lines run downward, one to the left of the other, from the top right corner: letters that are
  // written so stand upright, the others are turned to the right (UAX #50). Lengths along lines
  // count from their top, those across from the right. In a Flow such paragraphs stand beside each
  // other, in lines as long as its columns are high; in a cell of a table lines are as long as
  // their text wants. Not in lists.
  bool runs_down = false;
  // In a flow of pages.
  int orphans = 2;  // as many lines at least stay at the foot of a page
  int widows = 2;   // and come to the head of the next
  bool keeps_together = false;
  bool keeps_with_next = false;
};

}  // namespace lumvet
