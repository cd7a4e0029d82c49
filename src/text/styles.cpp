// SPDX-License-Identifier: Apache-2.0
#include "text/styles.h"

#include <algorithm>

namespace lumvet::text {

std::uint16_t StylesOfText::of(std::uint32_t style) {
  constexpr std::size_t kMost = 0xFFFF;  // all beyond are taken for the last
  std::int32_t& known = known_[style];
  if (known < 0) {
    const content::TextStyle& shown = text_.styles[style];
    const fonts::FontTraits& traits = text_.fonts[shown.font]->traits();
    WordStyle wanted{traits.name,
                     traits.is_bold,
                     traits.is_italic,
                     static_cast<LetterMode>(shown.look.mode),
                     {}};
    if (shown.look.has_color) wanted.color = shown.look.color;
    const auto found = std::find(list_.begin(), list_.end(), wanted);
    known =
        static_cast<std::int32_t>(std::min(static_cast<std::size_t>(found - list_.begin()), kMost));
    if (found == list_.end() && list_.size() <= kMost) list_.push_back(std::move(wanted));
  }
  return static_cast<std::uint16_t>(known);
}

}  // namespace lumvet::text
