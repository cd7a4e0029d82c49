// SPDX-License-Identifier: Apache-2.0
// Lines of a paragraph as they stand: runs of glyphs at places.
//
// Threads: immutable once made.
#pragma once

#include <map>
#include <memory>
#include <string>
#include <vector>

#include "draw/shaping.h"
#include "lumvet/draw/paragraph.h"

namespace lumvet::draw {

struct PlacedRun {
  double left = 0;  // points from the paragraph's left
  TextStyle style;
  // The text of which its clusters are parts.
  std::shared_ptr<const std::u16string> text;
  ShapedRun glyphs;
  bool is_leader = false;  // before a tab's stop, which says nothing

  double width() const { return width_of(glyphs.glyphs) * style.size; }
};

struct SetLine {
  double top = 0;  // points from the paragraph's top
  double height = 0;
  double base_line = 0;  // from the paragraph's top
  double left = 0;
  double right = 0;
  std::vector<PlacedRun> runs;  // as they are seen, from left to right
  std::string text;             // UTF-8
};

struct SetLines {
  std::vector<SetLine> lines;
  bool runs_down = false;
};

const SetLines& lines_of(const SetParagraph& paragraph);

// A note of a paragraph, and its number.
struct Note {
  int number = 0;
  std::string text;
  TextStyle look;  // of the letters that it belongs to
  std::string place() const { return "note-" + std::to_string(number); }
};
// The numbers of the pages that places are on, from 1; 0 as long as they are not known.
using PlacePages = std::map<std::string, int>;

// What a flow says in a paragraph. Notes get raised numbers, from `next` on, each with a link to
// its place. Errors: invalid_argument for pages of places that are none of these.
Result<Paragraph> with_numbers(const Paragraph& paragraph, const PlacePages& pages, int& next,
                               std::vector<Note>& notes);
bool tells_pages(const Paragraph& paragraph);
// What it says, without its notes.
std::string plain_text(const Paragraph& paragraph);
int count_notes(const Paragraph& paragraph);
// Of its first letters; the usual one of a paragraph without any.
TextStyle first_look(const Paragraph& paragraph);

// Ends of lines and soft hyphens, of which nothing is shown.
constexpr bool is_unseen(char16_t c) {
  return c == '\n' || c == '\r' || c == 0xAD || c == 0x2028 || c == 0x2029;
}
inline std::u16string seen(std::u16string_view text) {
  std::u16string rest(text);
  std::erase_if(rest, is_unseen);
  return rest;
}

}  // namespace lumvet::draw
