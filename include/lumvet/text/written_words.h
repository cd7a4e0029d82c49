// SPDX-License-Identifier: Apache-2.0
// What a page says, written for other programs.
//
//   std::cout << lumvet::laid_out(lumvet::PageWords::of(page).value());
//
// Threads: free functions. Since: 0.2
#pragma once

#include <string>
#include <string_view>
#include <vector>

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

// A picture that stands on the page, for HTML.
struct HtmlPicture {
  Quad quad = {};
  std::string source = {};       // its address, or a data: URI
  std::string description = {};  // in words, for who cannot see it
};

// What an HTML document begins with, before the bodies of its pages.
LUMVET_EXPORT std::string begin_of_html(std::string_view title);
// The blocks as elements of an HTML body in reading order: paragraphs with bold, italic and colored
// words, headings where the letters are larger than those of most of the page, lists where lines
// begin with bullets or numbers, tables with cells that take several columns, and pictures before
// what stands beside or below them.
LUMVET_EXPORT std::string as_html(const PageWords& words,
                                  const std::vector<HtmlPicture>& pictures = {});
// The same of what is selected, which is cut within words where it begins and ends there.
LUMVET_EXPORT std::string as_html(const PageWords& words, const TextSpan& selected);

}  // namespace lumvet
