// SPDX-License-Identifier: Apache-2.0
// What the elements of a structure tree say, out of the marked content that they hold.
//
// Threads: one thread at a time.
#pragma once

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "lumvet/document/document.h"
#include "text/marked_text.h"

namespace lumvet::text {

// Of a part that is marked content.
ContentMark content_mark(const Document& document, const StructurePart& part);

// The pages' texts, the last few of them, each read where it is asked for.
class PageMarks {
 public:
  explicit PageMarks(const Document& document) : document_(document) {}

  // Null where the page has no such content; until another page is asked for.
  Result<const MarkedText*> find(const StructurePart& part);

 private:
  Document document_;
  std::map<int, std::map<ContentMark, MarkedText>> texts_;
};

struct ElementText {
  std::string text;                 // UTF-8, in lines
  std::optional<int> page = {};     // from 0, of its first content
  std::optional<Point> begin = {};  // in display space, the first letter's line
  double height = 0;                // of that letter's font, in points
};

// What an element says, and all below it, but for the elements that are left out, by their numbers.
// Errors: as Scene::record's.
Result<ElementText> text_of_element(const Structure& structure, const StructureElement& element,
                                    PageMarks& marks, const std::vector<bool>* left_out = nullptr);

}  // namespace lumvet::text
