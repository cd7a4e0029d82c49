// SPDX-License-Identifier: Apache-2.0
// Lines of text that bend, as on a seal or along a river: runs of few letters, each turned a little
// against the one before, which it follows.
//
// Threads: one thread at a time.
#pragma once

#include <cstdint>

#include "content/scene_text.h"
#include "text/letters.h"

namespace lumvet::text {

class BendFinder {
 public:
  // Of the runs before `runs_end`.
  BendFinder(const content::SceneText& text, std::size_t runs_end)
      : text_(text), runs_end_(runs_end) {}

  // The end of the bent line that begins with a run; the next run where none does. Asked for each
  // run in turn.
  std::uint32_t end_of(std::uint32_t run);

 private:
  static constexpr std::size_t kMost = 1000;  // on a page; the rest is read letter by letter

  const content::SceneText& text_;
  std::size_t runs_end_;
  std::size_t found_ = 0;
};

// From where the first of some runs begins to where the last one ends, of length 1.
Point chord_of(const content::SceneText& text, std::uint32_t first, std::uint32_t end);

// Puts the letters of one run behind those of a bent line.
void straighten(const Direction& run, Direction& bent);

}  // namespace lumvet::text
