// SPDX-License-Identifier: Apache-2.0
#include "lumvet/text/page_words.h"

#include <algorithm>
#include <set>

#include "base/attempt.h"
#include "document/inside.h"
#include "text/marked_text.h"

namespace lumvet {
namespace {

using text::MarkedText;
using text::MarkKey;

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

// The pages' texts, each read once and only where it is asked for.
class Pages {
 public:
  explicit Pages(const Document& document) : document_(document) {}

  Result<const MarkedText*> find(const StructurePart& part) {
    auto known = texts_.find(*part.page);
    if (known == texts_.end()) {
      LUMVET_TRY(const Page page, document_.page(*part.page));
      LUMVET_TRY(const Scene scene, Scene::record(page, {.annotations = false}));
      known = texts_.emplace(*part.page, text::marked_text(scene)).first;
    }
    std::optional<std::uint64_t> form;
    if (part.object != ObjectId()) {
      const Object object = store_of(document_).resolve(Object(part.object));
      if (const Stream* stream = object.as_stream()) form = stream->offset;
    }
    const auto text = known->second.find(MarkKey(form, part.mark));
    return text == known->second.end() ? nullptr : &text->second;
  }

 private:
  const Document& document_;
  std::map<int, std::map<MarkKey, MarkedText>> texts_;
};

struct Heading {
  std::string text;
  std::optional<int> page;
  std::optional<Point> begin;  // in display space, the first letter's line
  double height = 0;
};

// What an element says, and all below it.
Status gather(const Structure& structure, const StructureElement& element, Pages& pages,
              Heading& heading) {
  std::vector<std::pair<const StructureElement*, std::size_t>> open = {{&element, 0}};
  std::set<const StructureElement*> met = {&element};
  while (!open.empty()) {
    auto& [at, next] = open.back();
    if (next == 0 && !at->actual_text.empty()) {
      heading.text += at->actual_text;
      next = at->parts.size();
    }
    if (next >= at->parts.size()) {
      open.pop_back();
      continue;
    }
    const StructurePart& part = at->parts[next++];
    if (part.kind == StructurePart::Kind::element && part.element >= 0) {
      const auto* below = &structure.elements[static_cast<std::size_t>(part.element)];
      if (met.insert(below).second) open.emplace_back(below, 0);
    }
    if (part.kind != StructurePart::Kind::marked_content || !part.page) continue;
    LUMVET_TRY(const MarkedText* said, pages.find(part));
    if (!heading.page) heading.page = part.page;
    if (said == nullptr) continue;
    if (!heading.begin) {
      heading.begin = said->begin;
      heading.height = said->height;
    }
    heading.text += said->text;
  }
  return Done{};
}

// In one line, without blanks at its ends.
std::string in_one_line(const std::string& text) {
  std::string line;
  for (const char c : text) {
    const bool is_white = c == ' ' || c == '\n' || c == '\t' || c == '\r';
    if (!is_white)
      line += c;
    else if (!line.empty() && line.back() != ' ')
      line += ' ';
  }
  if (!line.empty() && line.back() == ' ') line.pop_back();
  return line;
}

}  // namespace

Result<std::vector<OutlineEntry>> headings_of(const Document& document) {
  return attempted([&]() -> Result<std::vector<OutlineEntry>> {
    LUMVET_TRY(const Structure structure, document.structure());
    Pages pages(document);
    std::vector<OutlineEntry> entries;
    std::vector<int> levels;  // of the headings that the next one may lie below
    for (const StructureElement& element : structure.elements) {
      const std::optional<int> level = level_of(element, structure);
      if (!level) continue;
      Heading heading;
      LUMVET_RETURN_IF_ERROR(gather(structure, element, pages, heading));
      const std::string title = in_one_line(element.title.empty() ? heading.text : element.title);
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
