// SPDX-License-Identifier: Apache-2.0
// What tagged documents say, in the order and with the roles that their authors gave it (ISO
// 32000-2, 14.8).
//
//   for (const lumvet::TaggedBlock& block : lumvet::tagged_text(document).value())
//     std::cout << block.role << ": " << block.text << '\n';
//
// Threads: free functions. Since: 0.2
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "lumvet/document/document.h"

namespace lumvet {

struct TaggedBlock {
  std::string role = {};         // the standard type: "P", "H1", "LI", "TD"
  std::string text = {};         // UTF-8, in one line; of what shows no text its description
  std::string language = {};     // "de-AT", where it is said
  int depth = 0;                 // 0 below the root
  std::optional<int> page = {};  // from 0, where it begins
};

// Paragraphs, headings, items of lists, cells, captions and whatever else holds content; nothing of
// a document that is not tagged. What no element holds, as running heads, is not there. Errors: as
// Document::structure's and Scene::record's.
LUMVET_EXPORT Result<std::vector<TaggedBlock>> tagged_text(const Document& document);

// The headings (14.8.4.3), as entries of an outline that lead to where they stand. None of a
// document that is not tagged. Errors: as tagged_text's.
LUMVET_EXPORT Result<std::vector<OutlineEntry>> headings_of(const Document& document);

}  // namespace lumvet
