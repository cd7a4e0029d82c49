// SPDX-License-Identifier: Apache-2.0
// Small flows for tests, and what their pages say.
#pragma once

#include <string>
#include <vector>

#include "lumvet/compose/flow.h"
#include "lumvet/render/placed_images.h"
#include "lumvet/text/page_words.h"
#include "tests/support/catch.h"

namespace test {

using namespace lumvet;

inline TextStyle look() {
  return {.face = Typeface::named("Liberation Serif").value(), .size = 10};
}

// Room for 20 lines of 12.5 points.
inline FlowOptions small() {
  return {.paper = {300, 300}, .margins = {25, 25, 25, 25}, .heading_size = 14};
}

inline Paragraph lines(int count, ParagraphStyle style = {}) {
  std::string text;
  for (int i = 0; i < count; ++i) text += (i > 0 ? "\nline " : "line ") + std::to_string(i + 1);
  return Paragraph(text, look(), std::move(style));
}

inline std::vector<std::string> texts_of(const Document& document) {
  std::vector<std::string> texts;
  for (int i = 0; i < document.page_count(); ++i)
    texts.push_back(text_of(document.page(i).value()).value());
  return texts;
}

inline std::vector<std::string> texts_of(const Flow& flow) {
  const Document document = flow.as_document().value();
  CHECK(document.findings().empty());
  return texts_of(document);
}

inline int lines_in(const std::string& text) {
  int count = 0;
  for (std::size_t at = text.find("line"); at != std::string::npos; at = text.find("line", at + 1))
    ++count;
  return count;
}

inline Rect bounds_of(const Quad& quad) {
  Rect bounds = Rect::nothing();
  for (const Point& corner : quad) bounds.include(corner);
  return bounds;
}

// Display space: y goes down.
inline Rect picture_on(const Document& document, int page) {
  const Scene scene = Scene::record(document.page(page).value()).value();
  return bounds_of(placed_images(scene).at(0).quad());
}

}  // namespace test
