// SPDX-License-Identifier: Apache-2.0
// Text onto pages: page numbers, running titles, a watermark. Its font goes into the document, cut
// down to the letters used.
//
//   auto pages = lumvet::EditableDocument::of(report);
//   lumvet::write_on_pages(pages, {}, {.text = "{page} of {pages}"});
//   lumvet::write_on_pages(pages, {}, {.text = "DRAFT", .anchor = lumvet::Anchor::center,
//                                      .opacity = 0.2, .degrees = 45});
//
// Threads: free functions. Since: 0.2
#pragma once

#include <array>
#include <optional>
#include <string>

#include "lumvet/draw/overlay.h"
#include "lumvet/fonts/font_supply.h"

namespace lumvet {

struct PageText {
  // UTF-8, in lines. {page} is the page's place from 1, {pages} how many there are, {label} what
  // it is numbered, {chapter} the outline's entry that it comes under, {title} the document's.
  std::string text = {};
  Anchor anchor = Anchor::bottom;
  double margin = 28;  // points, from the sides that the anchor names
  // Points. Without it 10 at a side, and as large as there is room for in the middle.
  std::optional<double> size = {};
  std::string font = {};                    // its family, with ":bold", ":italic"; any plain one
  FontSupply fonts = FontSupply();          // where it is looked for
  std::array<double, 3> color = {0, 0, 0};  // red, green, blue from 0 to 1
  double opacity = 1;                       // 0 to 1
  double degrees = 0;                       // by which it is turned to the left
  bool beneath = false;                     // what the page shows
};

// One step. Errors: invalid_argument for pages that are not there, a font that is not there or
// lacks a character, and words in braces that mean nothing; unsupported for fonts that cannot be
// embedded.
LUMVET_EXPORT Status write_on_pages(EditableDocument& pages, const PageSelection& on,
                                    const PageText& text);

}  // namespace lumvet
