// SPDX-License-Identifier: Apache-2.0
// What a flow is made of once it is set to a width: strips that pages are filled with from top to
// bottom, none of them parted. They are made as they are needed, and gone once they are drawn.
//
// Threads: one thread at a time.
#pragma once

#include <functional>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "draw/set_lines.h"
#include "lumvet/compose/table.h"
#include "lumvet/draw/drawing.h"

namespace lumvet::compose {

using DrawStrip = std::function<void(Drawing& page, Point at)>;

// What stands at the foot of the column in which a strip is.
struct FootNote {
  SetParagraph set;
  std::string place;  // by which its number leads to it
};
constexpr double kAboveNotes = 14;  // points between the text and its notes, with the rule
double height_of(const std::vector<FootNote>& notes);
// Those to which numbers in some lines lead, set as wide as their column.
Status add_foot_notes(const SetParagraph& set, std::size_t first, std::size_t end,
                      const std::vector<draw::Note>& notes, double column,
                      std::vector<FootNote>& found);

struct Strip {
  double height = 0;  // points
  // Free above and below it, of which the larger counts between two; none at the head of a column.
  double before = 0;
  double after = 0;
  bool keeps_with_next = false;
  bool breaks_page = false;  // the next one begins a page
  DrawStrip draw = {};
  // What comes again above it where it begins a column: the heads of its table.
  std::shared_ptr<const Strip> head = {};
  std::vector<FootNote> notes = {};
  // What it says about the document.
  struct Heading {
    std::string text;
    int level = 1;
    std::string name;        // by which links call it
    std::size_t number = 0;  // among all headings
  };
  std::vector<Heading> headings = {};
};

// Gives one strip after the other, nothing behind the last.
using StripSource = std::function<Result<std::optional<Strip>>()>;

// What paragraphs are told.
struct Numbers {
  draw::PlacePages pages;
  int next_note = 1;
};

// The lines of a paragraph; `tag` is of what they are, `key` what makes them one element. Its notes
// are as wide as `column`.
struct LinePlace {
  double width = 0;  // points
  double left = 0;
  double column = 0;
  FreeRoom free = {};
};
Result<std::vector<Strip>> strips_of(const Paragraph& paragraph, const LinePlace& place,
                                     const std::string& tag, const std::string& key,
                                     Numbers& numbers);

// Whether the line holds on to the one behind it.
bool holds_on(const ParagraphStyle& style, std::size_t line, std::size_t count);

// A paragraph whose lines run downward, in a flow.
struct DownwardText {
  Paragraph text;
  std::string tag;
  std::string key;
  std::optional<Strip::Heading> heading = {};
};
// One paragraph beside the other, from the right: strips of lines that are as long as a column is
// high. Errors: invalid_argument where lines are wider than the column.
Result<std::vector<Strip>> strips_of(const std::vector<DownwardText>& texts, double width,
                                     double height, Numbers& numbers);

// The rows of a table, which stays as long as they are asked for, as do the numbers; rows that are
// higher than `highest` are parted. Errors, also of the source: invalid_argument for a table that
// needs more width, with how much, and for cells that have no place.
Result<StripSource> strips_of(const Table& table, double width, double highest,
                              const std::string& key, Numbers& numbers);

}  // namespace lumvet::compose
