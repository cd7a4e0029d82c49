// SPDX-License-Identifier: Apache-2.0
#include <algorithm>

#include "compose/strips.h"
#include "draw/set_lines.h"

namespace lumvet::compose {
namespace {

// Smaller than what it belongs to, behind its number.
Result<FootNote> foot_note(const draw::Note& note, double width) {
  constexpr double kSmaller = 0.82;
  TextStyle look = note.look;
  look.size *= kSmaller;
  look.rise = 0;
  look.link.clear();
  const double indent = look.size * 1.6;
  LUMVET_TRY(
      SetParagraph set,
      Paragraph(std::to_string(note.number) + "\t" + note.text, look,
                {.line_height = 1.2, .first_indent = -indent, .left = indent, .tabs = {{indent}}})
          .set(width));
  return FootNote{std::move(set), note.place()};
}

bool leads_to(const draw::SetLine& line, const draw::Note& note) {
  return std::any_of(line.runs.begin(), line.runs.end(), [&](const draw::PlacedRun& run) {
    return run.style.link == "#" + note.place();
  });
}

}  // namespace

double height_of(const std::vector<FootNote>& notes) {
  double height = 0;
  for (const FootNote& note : notes) height += note.set.height();
  return height;
}

Status add_foot_notes(const SetParagraph& set, std::size_t first, std::size_t end,
                      const std::vector<draw::Note>& notes, double column,
                      std::vector<FootNote>& found) {
  for (std::size_t line = first; line < end && !notes.empty(); ++line)
    for (const draw::Note& note : notes)
      if (leads_to(draw::lines_of(set).lines[line], note)) {
        LUMVET_TRY(FootNote foot, foot_note(note, column));
        found.push_back(std::move(foot));
      }
  return Done{};
}

bool holds_on(const ParagraphStyle& style, std::size_t line, std::size_t count) {
  const std::size_t before = line + 1;
  if (before == count) return style.keeps_with_next;
  const auto least = [](int lines) { return static_cast<std::size_t>(std::max(lines, 0)); };
  return style.keeps_together || before < least(style.orphans) ||
         count - before < least(style.widows);
}

Result<std::vector<Strip>> strips_of(const Paragraph& paragraph, const LinePlace& place,
                                     const std::string& tag, const std::string& key,
                                     Numbers& numbers) {
  if (paragraph.style().runs_down)
    return Error(ErrorCode::invalid_argument, "items of lists have lines that run across");
  std::vector<draw::Note> notes;
  LUMVET_TRY(const Paragraph numbered,
             draw::with_numbers(paragraph, numbers.pages, numbers.next_note, notes));
  LUMVET_TRY(const SetParagraph set, numbered.set(place.width, place.free));
  const ParagraphStyle& style = paragraph.style();
  const std::size_t count = set.line_count();
  std::vector<Strip> strips;
  for (std::size_t line = 0; line < count; ++line) {
    Strip strip;
    strip.height = set.line_top(line + 1) - set.line_top(line);
    if (line == 0) strip.before = style.before;
    if (line + 1 == count) strip.after = style.after;
    strip.keeps_with_next = holds_on(style, line, count);
    LUMVET_RETURN_IF_ERROR(add_foot_notes(set, line, line + 1, notes, place.column, strip.notes));
    strip.draw = [set, line, left = place.left, tag, key](Drawing& page, Point at) {
      const auto scope = page.tag(tag, {.key = key});
      page.write(set, {at.x + left, at.y}, line, line + 1);
    };
    strips.push_back(std::move(strip));
  }
  return strips;
}

}  // namespace lumvet::compose
