// SPDX-License-Identifier: Apache-2.0
// How a scene's text looks and what it belongs to, told as words tell it.
//
// Threads: one thread at a time.
#pragma once

#include <cstdint>
#include <optional>
#include <vector>

#include "content/scene_text.h"
#include "lumvet/text/page_words.h"

namespace lumvet::text {

// Of a mark that has a number.
ContentMark content_mark(const content::SceneText& text, const content::TextMark& mark);
// The innermost marked content with a number that a mark is, or lies in.
std::optional<ContentMark> mark_around(const content::SceneText& text, std::int32_t mark);

class StylesOfText {
 public:
  // Adds to `list` what is asked for and is not there yet.
  StylesOfText(const content::SceneText& text, std::vector<WordStyle>& list)
      : text_(text), list_(list), known_(text.styles.size(), -1) {}

  // The place in the list of one of SceneText::styles.
  std::uint16_t of(std::uint32_t style);

 private:
  const content::SceneText& text_;
  std::vector<WordStyle>& list_;
  std::vector<std::int32_t> known_;  // of each of the scene's; -1 not looked for yet
};

}  // namespace lumvet::text
