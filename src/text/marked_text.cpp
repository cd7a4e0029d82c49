// SPDX-License-Identifier: Apache-2.0
#include "text/marked_text.h"

#include <cmath>
#include <string_view>

#include "content/scene_data.h"
#include "text/letters.h"

namespace lumvet::text {
namespace {

// What stands between two letters that are drawn one after the other.
std::string_view drawn_gap(const Letter& before, const Letter& letter) {
  // Parts of the font size.
  constexpr double kWords = 0.2;      // apart
  constexpr double kNextLine = 0.5;   // across the line
  constexpr double kFarBack = 1.5;    // against the line
  constexpr double kFarAhead = 15.0;  // along it: another column
  const double ahead = (letter.begin - before.end) / before.size;
  const double beside = std::abs(letter.base - before.base) / before.size;
  if (beside > kNextLine || ahead < -kFarBack || ahead > kFarAhead) return "\n";
  return ahead > kWords ? " " : "";
}

}  // namespace

std::map<MarkKey, MarkedText> marked_text(const Scene& scene) {
  const content::SceneData& data = data_of(scene);
  const content::SceneText& text = data.text;
  std::map<MarkKey, MarkedText> texts;
  const auto add = [&](const Direction& direction, const Letter& letter, std::string_view gap) {
    for (std::int32_t at = text.runs[letter.run].mark; at >= 0;) {
      const content::TextMark& mark = text.marks[static_cast<std::size_t>(at)];
      at = mark.outer;
      if (!mark.number) continue;
      std::optional<std::uint64_t> form;
      if (mark.form >= 0) form = text.forms[static_cast<std::size_t>(mark.form)];
      MarkedText& said = texts[{form, *mark.number}];
      if (said.text.empty()) {
        said.begin = direction.to_display(letter.begin, letter.base);
        said.height = letter.size;
      } else {
        said.text += gap;
      }
      said.text += letter.characters;
    }
  };
  for (const Direction& direction : letters_of(text, data.bounds)) {
    const Letter* before = nullptr;
    for (const Letter& letter : direction.letters) {
      const bool beside_blank = letter.is_blank || (before != nullptr && before->is_blank);
      std::string_view gap = before != nullptr ? drawn_gap(*before, letter) : "";
      if (gap == " " && beside_blank) gap = "";
      add(direction, letter, gap);
      before = &letter;
    }
  }
  return texts;
}

}  // namespace lumvet::text
