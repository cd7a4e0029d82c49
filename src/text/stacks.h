// SPDX-License-Identifier: Apache-2.0
// Lines of wide characters that go down the page, drawn one by one with a font that is not vertical
// itself, as browsers do.
//
// Threads: one thread at a time.
#pragma once

#include <cstdint>
#include <optional>

#include "content/scene_text.h"

namespace lumvet::text {

class StackFinder {
 public:
  // Of the runs before `runs_end`.
  StackFinder(const content::SceneText& text, std::size_t runs_end)
      : text_(text), runs_end_(runs_end) {}

  // The end of the line that begins with a run; that run where none does. Asked for in turn: a line
  // right behind another one may be of one character.
  std::uint32_t end_of(std::uint32_t run);

 private:
  struct Square {
    Point middle;  // of its foot
    Point up;      // as long as the font size
  };
  std::optional<Square> square_of(std::uint32_t run) const;

  const content::SceneText& text_;
  std::size_t runs_end_;
  std::uint32_t last_end_ = 0;  // of the line that was found last
};

}  // namespace lumvet::text
