// SPDX-License-Identifier: Apache-2.0
#include <algorithm>

#include "base/attempt.h"
#include "lumvet/text/tagged_text.h"
#include "text/structure_text.h"
#include "text/white_space.h"

namespace lumvet {
namespace {

// 1 to 6 of "H1" to "H6"; 1 of the title; nothing of what is no heading. "H" is as deep as it lies.
std::optional<int> level_of(const StructureElement& element, const Structure& structure) {
  const std::string& role = element.role;
  if (role == "Title") return 1;
  if (role.size() == 2 && role[0] == 'H' && role[1] >= '1' && role[1] <= '6') return role[1] - '0';
  if (role != "H") return std::nullopt;
  int level = 1;
  for (int at = element.parent; at >= 0;) {
    const StructureElement& above = structure.elements[static_cast<std::size_t>(at)];
    level += above.role == "Sect" ? 1 : 0;
    at = above.parent;
  }
  return std::max(1, level - 1);
}

}  // namespace

Result<std::vector<OutlineEntry>> headings_of(const Document& document) {
  return attempted([&]() -> Result<std::vector<OutlineEntry>> {
    LUMVET_TRY(const Structure structure, document.structure());
    text::PageMarks marks(document);
    std::vector<OutlineEntry> entries;
    std::vector<int> levels;  // of the headings that the next one may lie below
    for (const StructureElement& element : structure.elements) {
      const std::optional<int> level = level_of(element, structure);
      if (!level) continue;
      LUMVET_TRY(const text::ElementText heading, text::text_of_element(structure, element, marks));
      const std::string title =
          text::in_one_line(element.title.empty() ? heading.text : element.title);
      const std::optional<int> page = heading.page ? heading.page : element.page;
      if (title.empty() || !page) continue;
      while (!levels.empty() && levels.back() >= *level) levels.pop_back();
      OutlineEntry entry;
      entry.title = title;
      entry.depth = static_cast<int>(levels.size());
      entry.page = page;
      Destination place;
      place.page = page;
      if (heading.begin) {
        LUMVET_TRY(const Page shown, document.page(*page));
        const Point top = shown.to_display().inverse().apply(
            {heading.begin->x, heading.begin->y - heading.height});
        place.view = Destination::View::xyz;
        place.left = 0;
        place.top = top.y;
      }
      entry.destination = place;
      entries.push_back(std::move(entry));
      levels.push_back(*level);
    }
    return entries;
  });
}

}  // namespace lumvet
