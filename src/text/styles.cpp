// SPDX-License-Identifier: Apache-2.0
#include "text/styles.h"

#include <algorithm>

namespace lumvet::text {

ContentMark content_mark(const content::SceneText& text, const content::TextMark& mark) {
  ContentMark found{*mark.number, {}};
  if (mark.form >= 0) found.form = text.forms[static_cast<std::size_t>(mark.form)];
  return found;
}

std::optional<ContentMark> mark_around(const content::SceneText& text, std::int32_t mark) {
  while (mark >= 0) {
    const content::TextMark& known = text.marks[static_cast<std::size_t>(mark)];
    if (known.number) return content_mark(text, known);
    mark = known.outer;
  }
  return std::nullopt;
}

std::uint16_t StylesOfText::of(std::uint32_t style) {
  constexpr std::size_t kMost = 0xFFFF;  // all beyond are taken for the last
  std::int32_t& known = known_[style];
  if (known < 0) {
    const content::TextStyle& shown = text_.styles[style];
    const fonts::FontTraits& traits = text_.fonts[shown.font]->traits();
    WordStyle wanted{traits.name, traits.is_bold, traits.is_italic, shown.look.mode, {}};
    if (shown.look.has_color) wanted.color = shown.look.color;
    const auto found = std::find(list_.begin(), list_.end(), wanted);
    known =
        static_cast<std::int32_t>(std::min(static_cast<std::size_t>(found - list_.begin()), kMost));
    if (found == list_.end() && list_.size() <= kMost) list_.push_back(std::move(wanted));
  }
  return static_cast<std::uint16_t>(known);
}

}  // namespace lumvet::text
