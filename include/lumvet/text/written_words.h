// SPDX-License-Identifier: Apache-2.0
// What a page says, written for other programs.
//
//   std::cout << lumvet::laid_out(lumvet::PageWords::of(page).value());
//
// Threads: free functions. Since: 0.2
#pragma once

#include <string>
#include <string_view>

#include "lumvet/text/page_words.h"

namespace lumvet {

// Plain text with words about where they stand on the page, by blanks and empty lines; text that is
// turned against most of the page follows below. Lines end in a line end, the last one too.
LUMVET_EXPORT std::string laid_out(const PageWords& words);

// Plain text with each paragraph in one line: hyphens at the ends of lines go where small letters
// follow, and an empty line is between blocks. Ends in a line end.
LUMVET_EXPORT std::string paragraphs(const PageWords& words);

// The rows of the page's tables as RFC 4180 has them, an empty line between two tables.
LUMVET_EXPORT std::string tables_as_csv(const PageWords& words);

// What an HTML document begins with, before the bodies of its pages.
LUMVET_EXPORT std::string begin_of_html(std::string_view title);
// The blocks as elements of an HTML body in reading order: paragraphs, headings where the letters
// are larger than those of most of the page, tables.
LUMVET_EXPORT std::string as_html(const PageWords& words);
// The same of what is selected, which is cut within words where it begins and ends there.
LUMVET_EXPORT std::string as_html(const PageWords& words, const TextSpan& selected);

}  // namespace lumvet
