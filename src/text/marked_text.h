// SPDX-License-Identifier: Apache-2.0
// What each marked content of a page says, in the order in which it is drawn.
//
// Threads: free functions.
#pragma once

#include <map>
#include <optional>
#include <string>
#include <utility>

#include "lumvet/content/scene.h"
#include "lumvet/geometry/matrix.h"

namespace lumvet::text {

struct MarkedText {
  std::string text;   // UTF-8, in lines
  Point begin;        // of its first letter's baseline, in display space
  double height = 0;  // of that letter's font, in points
};

// Marked content by the stream that it is in, by offset in the file, and its number; the page's own
// content is no stream.
using MarkKey = std::pair<std::optional<std::uint64_t>, int>;

// Of the page's content, without its annotations.
std::map<MarkKey, MarkedText> marked_text(const Scene& scene);

}  // namespace lumvet::text
