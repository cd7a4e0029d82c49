// SPDX-License-Identifier: Apache-2.0
#include <algorithm>

#include "compose/strips.h"

namespace lumvet::compose {
namespace {

// A line that runs downward, before it has a place.
struct DownwardLine {
  std::size_t text = 0;  // of which it is one
  SetParagraph set;
  std::size_t line = 0;
  double across = 0;  // points
  double length = 0;
  double before = 0;
  double after = 0;
  bool keeps_with_next = false;
  std::vector<FootNote> notes = {};
};

struct NumberedText {
  Paragraph text;
  std::vector<draw::Note> notes;
};

Result<std::vector<DownwardLine>> lines_of(const std::vector<NumberedText>& texts, double width,
                                           double length) {
  std::vector<DownwardLine> lines;
  for (std::size_t i = 0; i < texts.size(); ++i) {
    const ParagraphStyle& style = texts[i].text.style();
    LUMVET_TRY(const SetParagraph set, texts[i].text.set(length));
    const std::size_t count = set.line_count();
    for (std::size_t line = 0; line < count; ++line) {
      DownwardLine own{i, set, line};
      own.across = set.line_top(line + 1) - set.line_top(line);
      if (own.across > width)
        return Error(ErrorCode::invalid_argument,
                     "a line that runs downward is wider than its column");
      own.length = set.line_right(line);
      own.before = line == 0 ? style.before : 0;
      own.after = line + 1 == count ? style.after : 0;
      own.keeps_with_next = holds_on(style, line, count);
      LUMVET_RETURN_IF_ERROR(add_foot_notes(set, line, line + 1, texts[i].notes, width, own.notes));
      lines.push_back(std::move(own));
    }
  }
  return lines;
}

// How many lines from one on stand beside each other; where those behind have no room, the ones
// that hold on to them go with them, unless all do.
std::size_t end_of_strip(const std::vector<DownwardLine>& lines, std::size_t first, double width) {
  double taken = 0;
  std::size_t end = first;
  for (; end < lines.size(); ++end) {
    const double gap = end == first ? 0 : std::max(lines[end - 1].after, lines[end].before);
    if (end > first && taken + gap + lines[end].across > width) break;
    taken += gap + lines[end].across;
  }
  if (end == lines.size()) return end;
  std::size_t kept = end;
  while (kept > first && lines[kept - 1].keeps_with_next) --kept;
  return kept > first ? kept : end;
}

Strip strip_of(const std::vector<DownwardText>& texts, std::vector<DownwardLine> lines,
               double width) {
  Strip strip;
  struct Placed {
    SetParagraph set;
    std::size_t line;
    double right;  // of the column, from its left
    std::string tag;
    std::string key;
  };
  std::vector<Placed> placed;
  double right = width;
  for (std::size_t i = 0; i < lines.size(); ++i) {
    DownwardLine& line = lines[i];
    const DownwardText& text = texts[line.text];
    if (i > 0) right -= std::max(lines[i - 1].after, line.before);
    placed.push_back({line.set, line.line, right, text.tag, text.key});
    right -= line.across;
    strip.height = std::max(strip.height, line.length);
    strip.notes.insert(strip.notes.end(), line.notes.begin(), line.notes.end());
    if (text.heading && line.line == 0) strip.headings.push_back(*text.heading);
  }
  strip.draw = [placed = std::move(placed)](Drawing& page, Point at) {
    for (const Placed& one : placed) {
      const auto scope = page.tag(one.tag, {.key = one.key});
      page.write(one.set, {at.x + one.right, at.y}, one.line, one.line + 1);
    }
  };
  return strip;
}

double height_with_notes(const Strip& strip) {
  const double notes = height_of(strip.notes);
  return strip.height + (notes > 0 ? notes + kAboveNotes : 0);
}

}  // namespace

Result<std::vector<Strip>> strips_of(const std::vector<DownwardText>& texts, double width,
                                     double height, Numbers& numbers) {
  std::vector<NumberedText> numbered;
  for (const DownwardText& one : texts) {
    NumberedText& own = numbered.emplace_back();
    LUMVET_TRY(own.text, draw::with_numbers(one.text, numbers.pages, numbers.next_note, own.notes));
  }
  // Lines are shorter by what notes take below them.
  constexpr int kMostTries = 8;
  std::vector<Strip> strips;
  double length = height;
  for (int tried = 0; tried < kMostTries; ++tried) {
    LUMVET_TRY(std::vector<DownwardLine> lines, lines_of(numbered, width, length));
    strips.clear();
    double most = 0;
    for (std::size_t first = 0; first < lines.size();) {
      const std::size_t end = end_of_strip(lines, first, width);
      const auto at = [&](std::size_t i) { return lines.begin() + static_cast<std::ptrdiff_t>(i); };
      strips.push_back(strip_of(texts, std::vector(at(first), at(end)), width));
      most = std::max(most, height_with_notes(strips.back()));
      first = end;
    }
    if (most <= height || length - (most - height) < height / 4) break;
    length -= most - height;
  }
  return strips;
}

}  // namespace lumvet::compose
