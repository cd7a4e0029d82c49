// SPDX-License-Identifier: Apache-2.0
#include "text/stacks.h"

#include <cmath>

#include "text/letters.h"
#include "text/wide_characters.h"

namespace lumvet::text {

// Only what has one wide character, about as wide as the font size.
std::optional<StackFinder::Square> StackFinder::square_of(std::uint32_t run) const {
  constexpr double kNarrowest = 0.85;  // of the font size
  constexpr double kWidest = 1.15;
  const content::TextRun& r = text_.runs[run];
  if (text_.glyphs_end(run) - r.first_glyph != 1 || text_.font_of(r).is_vertical())
    return std::nullopt;
  const content::TextGlyph& glyph = text_.glyphs[r.first_glyph];
  const std::string_view characters(text_.characters.data() + r.first_byte, glyph.characters());
  const Matrix placed = text_.placed(r);
  const Point up{placed.c, placed.d};
  const double width = std::hypot(placed.a, placed.b) * glyph.advance();
  const double size = std::hypot(up.x, up.y);
  if (!(size > 0) || width < kNarrowest * size || width > kWidest * size ||
      !is_wide(first_of(characters)))
    return std::nullopt;
  return Square{placed.apply({glyph.begin() + glyph.advance() / 2, 0}), up};
}

std::uint32_t StackFinder::end_of(std::uint32_t run) {
  constexpr std::uint32_t kFewest = 3;  // characters of the first line
  constexpr double kAside = 0.15;       // of the font size, from one middle to the next
  constexpr double kClosest = 0.6;
  constexpr double kFarthest = 1.6;
  std::optional<Square> before = square_of(run);
  if (!before) return run;
  std::uint32_t end = run + 1;
  bool is_followed = false;  // by a character that is no part of it, in line with it
  for (; end < runs_end_; ++end) {
    const std::optional<Square> next = square_of(end);
    if (!next) break;
    const double size = std::hypot(before->up.x, before->up.y);
    const Point up = before->up * (1 / size);
    const Point way = next->middle - before->middle;
    const double down = -dot(way, up);
    const double aside = way.x * up.y - way.y * up.x;
    const bool same_size =
        std::hypot(next->up.x - before->up.x, next->up.y - before->up.y) < 0.05 * size;
    is_followed = same_size && std::abs(down) < kAside * size && aside > 0;
    if (!same_size || std::abs(aside) > kAside * size || down < kClosest * size ||
        down > kFarthest * size)
      break;
    before = next;
  }
  const bool goes_on = run > 0 && last_end_ == run;
  if (end - run < (goes_on ? 1 : kFewest) || (goes_on && end == run + 1 && is_followed)) return run;
  last_end_ = end;
  return end;
}

}  // namespace lumvet::text
