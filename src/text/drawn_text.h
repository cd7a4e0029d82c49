// SPDX-License-Identifier: Apache-2.0
// A scene's glyphs put together to words and lines, in the order in which they are drawn, and which
// part of that is which marked content.
//
// Threads: free functions.
#pragma once

#include <map>
#include <optional>
#include <string>

#include "lumvet/content/scene.h"
#include "lumvet/geometry/matrix.h"

namespace lumvet::text {

// Text as it grows.
struct Line {
  std::string text;   // UTF-8
  Point begin;        // of its first letter, in display space
  double height = 0;  // of that letter, in points
};

// Marked content by the stream that it is in, by offset in the file, and its number; the page's own
// content is no stream.
using MarkKey = std::pair<std::optional<std::uint64_t>, int>;

struct DrawnText {
  Line all;
  std::map<MarkKey, Line> by_mark;
};

// Of the page's content, without its annotations.
DrawnText read(const Scene& scene);

}  // namespace lumvet::text
