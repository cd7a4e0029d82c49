// SPDX-License-Identifier: Apache-2.0
// Words, lines and blocks in little memory, and how pieces in reading order become them.
//
// Threads: a value.
#pragma once

#include <cstdint>
#include <functional>
#include <span>
#include <string>
#include <vector>

#include "text/letters.h"
#include "text/reading_order.h"

namespace lumvet::text {

// A character's part of its word, in 1/65535 of the word's width.
struct Share {
  std::uint16_t begin;
  std::uint16_t end;
};

// Lengths as in Letter.
struct StoredWord {
  std::uint32_t begin;  // bytes of the text
  std::uint32_t end;
  std::uint32_t first_share;  // of WordList::shares, one for each code point
  std::uint32_t line;
  float left;
  float right;
  float top;
  float bottom;
  float size;
  std::int32_t mark;        // of WordList::marks; -1 outside of all
  std::uint16_t direction;  // of WordList::directions
  std::uint16_t style;      // of WordList::styles
  std::uint16_t column;
  std::uint8_t columns;
  Visibility visibility : 4;
  bool is_artifact : 1;
  bool is_bent : 1;  // its letters are where WordList::bends has them
};

struct StoredLine {
  std::uint32_t begin;
  std::uint32_t end;
  std::uint32_t first_word;
  std::uint32_t block;
  bool is_row;
};

struct StoredBlock {
  std::uint32_t begin;
  std::uint32_t end;
  std::uint32_t first_line;
};

// Of a word whose letters stand apart from its line, one quad for each of its code points.
struct StoredBends {
  std::uint32_t word;
  std::uint32_t first;  // of WordList::bends
};

struct Axes {
  Point along;
  Point down;
};

struct WordList {
  std::string text;
  std::vector<StoredWord> words;
  std::vector<StoredLine> lines;
  std::vector<StoredBlock> blocks;
  std::vector<Share> shares;
  std::vector<Axes> directions;
  std::vector<WordStyle> styles;
  std::vector<ContentMark> marks;
  std::vector<StoredBends> bent_words;  // in order
  std::vector<Quad> bends;
  std::size_t unknown = 0;
  std::size_t page_blocks = 0;  // of the page's content, which come first

  // Reads the directions of a scene, each with the lines that are drawn beside its letters, and
  // adds what they say behind all that is there.
  void add(std::span<const Direction> directions,
           const std::function<DrawnLines(const Direction&)>& lines_beside,
           const content::SceneText& text, const WordOptions& options);
  // What comes from here on is of annotations.
  void end_page() { page_blocks = blocks.size(); }
  void finish();  // gives back the memory that was kept for more
  std::size_t memory() const;
};

}  // namespace lumvet::text
