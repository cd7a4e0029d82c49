// SPDX-License-Identifier: Apache-2.0
// The glyphs of a scene as letters on paper: what each stands for and where, sorted by the way in
// which their lines run.
//
// Threads: free functions.
#pragma once

#include <cstdint>
#include <string_view>
#include <vector>

#include "content/scene_text.h"

namespace lumvet::text {

// Lengths are points, in the frame of its direction: `begin` and `end` along the line, the others
// across it, downward.
struct Letter {
  float begin = 0;
  float end = 0;
  float base = 0;  // the baseline
  float top = 0;
  float bottom = 0;
  float size = 0;               // of the font
  std::string_view characters;  // UTF-8; as long as the scene's text lives
  std::uint32_t run = 0;        // of SceneText::runs
  bool is_blank = false;        // white space
  bool is_unknown = false;      // the document does not tell what it stands for
  // One printable character of ASCII, as nearly all are.
  bool is_plain = false;

  float width() const { return end - begin; }
  float height() const { return bottom - top; }
};

// A way in which lines run, and the letters that do, in the order in which they are drawn.
struct Direction {
  Point along;  // of length 1, in display space
  Point down;   // to the next line, of length 1
  std::vector<Letter> letters;

  // Whether most of it is written from right to left.
  bool goes_left() const;
  double place_along(Point p) const { return p.x * along.x + p.y * along.y; }
  double place_across(Point p) const { return p.x * down.x + p.y * down.y; }
  Point to_display(double along_line, double across) const {
    return along * along_line + down * across;
  }
};

// U+FFFD, for what nothing tells.
inline constexpr std::string_view kUnknown = "\xEF\xBF\xBD";

// Of the page's content, without its annotations; letters wholly outside `bounds`, in display
// space, are not on the page. The direction with the most letters comes first.
std::vector<Direction> letters_of(const content::SceneText& text, const Rect& bounds);

}  // namespace lumvet::text
