// SPDX-License-Identifier: Apache-2.0
// What each marked content of a page says, read as a page is.
//
// Threads: free functions.
#pragma once

#include <map>
#include <string>

#include "lumvet/content/scene.h"
#include "lumvet/text/page_words.h"

namespace lumvet::text {

struct MarkedText {
  std::string text;   // UTF-8, in lines; a blank at an end where one is drawn
  Point begin;        // of the baseline of the letter drawn first, in display space
  Point end;          // and where that of the one drawn last ends
  double height = 0;  // of that letter's font, in points
};

// Of the page's content, without its annotations.
std::map<ContentMark, MarkedText> marked_text(const Scene& scene);

}  // namespace lumvet::text
