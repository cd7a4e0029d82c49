// SPDX-License-Identifier: Apache-2.0
#include "text/marked_text.h"

#include <vector>

#include "content/scene_data.h"
#include "text/styles.h"
#include "text/word_list.h"

namespace lumvet::text {
namespace {

// The letters of a marked content, by direction.
struct MarkedLetters {
  std::map<std::size_t, std::vector<Letter>> letters;
  MarkedText said;
  bool begins_blank = false;
  bool ends_blank = false;
};

}  // namespace

std::map<ContentMark, MarkedText> marked_text(const Scene& scene) {
  const content::SceneData& data = data_of(scene);
  const content::SceneText& text = data.text;
  const std::vector<Direction> directions = letters_of(data, {});
  std::map<ContentMark, MarkedLetters> marked;
  const auto add = [&](std::size_t direction, const Letter& letter) {
    for (std::int32_t at = text.runs[letter.run].mark; at >= 0;) {
      const content::TextMark& mark = text.marks[static_cast<std::size_t>(at)];
      at = mark.outer;
      if (!mark.number) continue;
      MarkedLetters& own = marked[content_mark(text, mark)];
      if (own.letters.empty()) {
        own.said.begin = directions[direction].to_display(letter.begin, letter.base);
        own.said.height = letter.size;
        own.begins_blank = letter.is_blank;
      }
      own.said.end = directions[direction].to_display(letter.end, letter.base);
      own.ends_blank = letter.is_blank;
      own.letters[direction].push_back(letter);
    }
  };
  for (std::size_t i = 0; i < directions.size(); ++i)
    for (const Letter& letter : directions[i].letters) add(i, letter);
  std::map<ContentMark, MarkedText> texts;
  for (auto& [key, own] : marked) {
    WordList list;
    for (auto& [i, letters] : own.letters) {
      Direction part{directions[i].along, directions[i].down, std::move(letters)};
      part.bends = directions[i].bends;
      const auto no_lines = [](const Direction&) { return DrawnLines(); };
      list.add({&part, 1}, no_lines, text, {});
    }
    own.said.text = (own.begins_blank ? " " : "") + list.text + (own.ends_blank ? " " : "");
    texts.emplace(key, std::move(own.said));
  }
  return texts;
}

}  // namespace lumvet::text
