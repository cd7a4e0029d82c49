// SPDX-License-Identifier: Apache-2.0
// What comes again from page to page above and below the text: running heads, page numbers.
//
//   const auto heads = lumvet::running_heads(pages);
//   std::cout << pages[3].without_lines(heads[3]).text();
//
// Threads: free functions. Since: 0.2
#pragma once

#include <vector>

#include "lumvet/text/page_words.h"

namespace lumvet {

// Of each page the lines that are such: those that the document marks as artifacts (ISO 32000-2,
// 14.8.2.2), and among the first and last lines of a page those that one of the pages within two
// has at the same height, but for numbers. The pages follow each other.
LUMVET_EXPORT std::vector<std::vector<TextSpan>> running_heads(const std::vector<PageWords>& pages);

}  // namespace lumvet
