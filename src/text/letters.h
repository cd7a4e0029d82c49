// SPDX-License-Identifier: Apache-2.0
// The glyphs of a scene as letters on paper: what each stands for and where, sorted by the way in
// which their lines run.
//
// Threads: free functions.
#pragma once

#include <cstdint>
#include <deque>
#include <string>
#include <string_view>
#include <vector>

#include "content/scene_data.h"
#include "lumvet/text/page_words.h"

namespace lumvet::text {

inline double dot(Point a, Point b) { return a.x * b.x + a.y * b.y; }

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
  // Of Direction::bends, where it stands elsewhere than its line says; -1 where it does not.
  std::int32_t bend = -1;
  Visibility visibility = Visibility::seen;
  bool is_blank = false;    // white space
  bool is_unknown = false;  // the document does not tell what it stands for
  // One printable character of ASCII, as nearly all are.
  bool is_plain = false;

  float width() const { return end - begin; }
  float height() const { return bottom - top; }
};

// A way in which lines run, and the letters that do, in the order in which they are drawn.
struct Direction {
  Point along;  // of length 1, in display space
  Point down;   // to the next line, of length 1
  std::vector<Letter> letters{};
  std::size_t plain = 0;           // of the letters
  bool may_have_accents = false;   // that stand by themselves
  std::vector<Quad> bends{};       // around letters of lines that are no straight ones
  std::deque<std::string> made{};  // characters that no glyph has by itself

  // Whether most of it is written from right to left.
  bool goes_left() const;
  double place_along(Point p) const { return p.x * along.x + p.y * along.y; }
  double place_across(Point p) const { return p.x * down.x + p.y * down.y; }
  Point to_display(double along_line, double across) const {
    return along * along_line + down * across;
  }
  Quad quad_of(const Letter& letter) const {
    if (letter.bend >= 0) return bends[static_cast<std::size_t>(letter.bend)];
    return {to_display(letter.begin, letter.top), to_display(letter.end, letter.top),
            to_display(letter.end, letter.bottom), to_display(letter.begin, letter.bottom)};
  }
};

// U+FFFD, for what nothing tells.
inline constexpr std::string_view kUnknown = "\xEF\xBF\xBD";

enum class Runs { of_page, of_annotations };

// Of the page's content, or of its annotations; letters wholly outside the page are left out. The
// direction with the most letters comes first.
std::vector<Direction> letters_of(const content::SceneData& scene, const WordOptions& options,
                                  Runs runs = Runs::of_page);

}  // namespace lumvet::text
