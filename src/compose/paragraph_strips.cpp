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

Result<std::vector<Strip>> strips_of(const Paragraph& paragraph, const LinePlace& place,
                                     const std::string& tag, const std::string& key,
                                     Numbers& numbers) {
  if (paragraph.style().runs_down)
    return Error(ErrorCode::invalid_argument,
                 "lines that run downward stand in drawings; set them with Paragraph::set");
  std::vector<draw::Note> notes;
  LUMVET_TRY(const Paragraph numbered,
             draw::with_numbers(paragraph, numbers.pages, numbers.next_note, notes));
  LUMVET_TRY(const SetParagraph set, numbered.set(place.width, place.free));
  const ParagraphStyle& style = paragraph.style();
  const auto count = static_cast<int>(set.line_count());
  std::vector<Strip> strips;
  for (int i = 0; i < count; ++i) {
    const auto line = static_cast<std::size_t>(i);
    Strip strip;
    strip.height = set.line_top(line + 1) - set.line_top(line);
    if (i == 0) strip.before = style.before;
    const bool is_last = i + 1 == count;
    if (is_last) strip.after = style.after;
    const bool leaves_orphans = i + 1 < std::min(style.orphans, count);
    const bool leaves_widows = count - (i + 1) < std::min(style.widows, count);
    strip.keeps_with_next =
        is_last ? style.keeps_with_next : style.keeps_together || leaves_orphans || leaves_widows;
    for (const draw::Note& note : notes)
      if (leads_to(draw::lines_of(set).lines[line], note)) {
        LUMVET_TRY(FootNote foot, foot_note(note, place.column));
        strip.notes.push_back(std::move(foot));
      }
    strip.draw = [set, line, left = place.left, tag, key](Drawing& page, Point at) {
      const auto scope = page.tag(tag, {.key = key});
      page.write(set, {at.x + left, at.y}, line, line + 1);
    };
    strips.push_back(std::move(strip));
  }
  return strips;
}

}  // namespace lumvet::compose
