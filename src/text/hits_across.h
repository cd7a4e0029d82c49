// SPDX-License-Identifier: Apache-2.0
// What is found where one page ends and the next begins.
//
// Threads: free functions.
#pragma once

#include <string_view>
#include <vector>

#include "lumvet/text/text_search.h"

namespace lumvet::text {

// A page's text, and what of it is not running heads and page numbers above and below.
struct Body {
  std::string_view text;
  TextSpan span;
};

// What is left of a page's text when the heads at its beginning and its end are taken off.
TextSpan body_of(const PageWords& words, const std::vector<TextSpan>& heads);

// Those that overlap none of the hits that the pages have by themselves. Errors: as
// TextSearch::in's.
Result<std::vector<HitAcross>> hits_across(const TextSearch& search, const Body& page,
                                           const std::vector<TextSpan>& hits, const Body& next,
                                           const std::vector<TextSpan>& next_hits);

}  // namespace lumvet::text
