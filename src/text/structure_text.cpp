// SPDX-License-Identifier: Apache-2.0
#include "text/structure_text.h"

#include <algorithm>
#include <cmath>
#include <set>
#include <vector>

#include "content/scene_data.h"
#include "document/inside.h"

namespace lumvet::text {
namespace {

// Puts texts that follow each other together.
class Joining {
 public:
  explicit Joining(ElementText& said) : said_(said) {}

  void add(const std::string& text) {
    said_.text += text;
    last_.reset();
  }
  void add(const MarkedText& text, int page) {
    if (last_ && (page != last_page_ || is_apart(*last_, text)) && !said_.text.empty() &&
        said_.text.back() != ' ')
      said_.text += ' ';
    said_.text += text.text;
    last_ = text;
    last_page_ = page;
  }

 private:
  // Whether a word ends between two, whichever way their line runs.
  static bool is_apart(const MarkedText& before, const MarkedText& text) {
    constexpr double kBlank = 0.2;  // of the font size
    const auto distance = [](Point a, Point b) { return std::hypot(a.x - b.x, a.y - b.y); };
    return std::min(distance(before.end, text.begin), distance(before.begin, text.end)) >
           kBlank * text.height;
  }

  ElementText& said_;
  std::optional<MarkedText> last_;
  int last_page_ = -1;
};

}  // namespace

ContentMark content_mark(const Document& document, const StructurePart& part) {
  ContentMark mark{part.mark, {}};
  if (part.object == ObjectId()) return mark;
  const Object object = store_of(document).resolve(Object(part.object));
  if (const Stream* stream = object.as_stream()) mark.form = stream->offset;
  return mark;
}

Result<const MarkedText*> PageMarks::find(const StructurePart& part) {
  constexpr std::size_t kMostKept = 8;
  auto known = texts_.find(*part.page);
  if (known == texts_.end()) {
    LUMVET_TRY(const Page page, document_.page(*part.page));
    LUMVET_TRY(const Scene scene, record_to_read(page, {.annotations = false}));
    if (texts_.size() >= kMostKept) texts_.erase(texts_.begin());
    known = texts_.emplace(*part.page, marked_text(scene)).first;
  }
  const auto text = known->second.find(content_mark(document_, part));
  return text == known->second.end() ? nullptr : &text->second;
}

Result<ElementText> text_of_element(const Structure& structure, const StructureElement& element,
                                    PageMarks& marks, const std::vector<bool>* left_out) {
  ElementText said;
  Joining joining(said);
  std::vector<std::pair<const StructureElement*, std::size_t>> open = {{&element, 0}};
  std::set<const StructureElement*> met = {&element};
  while (!open.empty()) {
    auto& [at, next] = open.back();
    if (next == 0 && !at->actual_text.empty()) {
      joining.add(at->actual_text);
      next = at->parts.size();
    }
    if (next >= at->parts.size()) {
      open.pop_back();
      continue;
    }
    const StructurePart& part = at->parts[next++];
    if (part.kind == StructurePart::Kind::element && part.element >= 0) {
      const auto number = static_cast<std::size_t>(part.element);
      const auto* below = &structure.elements[number];
      const bool is_left_out = left_out != nullptr && (*left_out)[number];
      if (!is_left_out && met.insert(below).second) open.emplace_back(below, 0);
    }
    if (part.kind != StructurePart::Kind::marked_content || !part.page) continue;
    LUMVET_TRY(const MarkedText* text, marks.find(part));
    if (!said.page) said.page = part.page;
    if (text == nullptr) continue;
    if (!said.begin) {
      said.begin = text->begin;
      said.height = text->height;
    }
    joining.add(*text, *part.page);
  }
  return said;
}

}  // namespace lumvet::text
