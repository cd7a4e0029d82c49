// SPDX-License-Identifier: Apache-2.0
#include <algorithm>

#include "compose/strips.h"

namespace lumvet::compose {

Result<std::vector<Strip>> strips_of(const Paragraph& paragraph, double width, double left,
                                     const std::string& tag, const std::string& key) {
  LUMVET_TRY(const SetParagraph set, paragraph.set(width));
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
    strip.draw = [set, line, left, tag, key](Drawing& page, Point at) {
      const auto scope = page.tag(tag, {.key = key});
      page.write(set, {at.x + left, at.y}, line, line + 1);
    };
    strips.push_back(std::move(strip));
  }
  return strips;
}

}  // namespace lumvet::compose
