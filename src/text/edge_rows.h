// SPDX-License-Identifier: Apache-2.0
// The first and the last lines of a page, in which running heads are looked for.
//
// Threads: free functions.
#pragma once

#include <string>
#include <vector>

#include "lumvet/text/page_words.h"

namespace lumvet::text {

struct EdgeLine {
  TextSpan span;
  double middle = 0;  // from the top of the page, in points
  // What it says, with one sign for each number, in the parts that wide gaps make of it.
  std::vector<std::string> parts;
};

// Lines that stand beside each other.
using EdgeRow = std::vector<EdgeLine>;

// The rows at one end of a page, the outermost first: one, and those that follow closely.
using EdgeRows = std::vector<EdgeRow>;

struct Edges {
  EdgeRows above;
  EdgeRows below;
};

Edges edges_of(const PageWords& words);

// Left and right pages may differ: pages as far as this from one another are near.
constexpr int kNearPages = 2;

// The lines that the document marks as artifacts, and those that one of the pages near it has too,
// in the order of the text.
std::vector<TextSpan> heads_of(const PageWords& words, const Edges& own,
                               const std::vector<const Edges*>& near);

}  // namespace lumvet::text
