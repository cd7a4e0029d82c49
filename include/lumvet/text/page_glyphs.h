// SPDX-License-Identifier: Apache-2.0
// The glyphs of a page one by one, as they are drawn: for those who put words together in their own
// way. PageWords is what most programs want.
//
//   const lumvet::PageGlyphs drawn = lumvet::glyphs_of(lumvet::Scene::record(page).value());
//   for (const lumvet::PageGlyph& glyph : drawn.glyphs) std::cout << glyph.characters;
//
// Threads: values; free functions. Since: 0.2
#pragma once

#include <string>
#include <vector>

#include "lumvet/text/page_words.h"

namespace lumvet {

struct PageGlyph {
  // UTF-8: what it stands for; U+FFFD where nothing tells. The glyphs of marked content that says
  // this itself (ISO 32000-2, 14.9.4) are one, as far as they stand on one line.
  std::string characters = {};
  bool is_unknown = false;
  Quad quad = {};
  double size = 0;        // of its font, in points
  std::size_t style = 0;  // of PageGlyphs::styles
  Visibility visibility = Visibility::seen;
  std::optional<ContentMark> mark = {};  // innermost
};

struct PageGlyphs {
  std::vector<WordStyle> styles = {};
  std::vector<PageGlyph> glyphs = {};  // blanks too
};

// Of the page's content, without its annotations, in the order in which they are drawn.
LUMVET_EXPORT PageGlyphs glyphs_of(const Scene& scene);

}  // namespace lumvet
