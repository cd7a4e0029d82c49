// SPDX-License-Identifier: Apache-2.0
#include "text/bends.h"

#include <cmath>

namespace lumvet::text {
namespace {

struct Ends {
  Point begin;
  Point end;
  Point along;  // of length 1
  double size = 0;
};

Ends ends_of(const content::SceneText& text, std::uint32_t run) {
  const Matrix placed = text.placed(text.runs[run]);
  const auto& last = text.glyphs[text.glyphs_end(run) - 1];
  const double length = std::hypot(placed.a, placed.b);
  return {placed.apply({0, 0}), placed.apply({last.begin() + last.advance(), 0}),
          Point{placed.a, placed.b} * (length > 0 ? 1 / length : 0),
          length > 0 ? std::abs(placed.determinant()) / length : 0};
}

bool may_bend(const content::SceneText& text, std::uint32_t run) {
  constexpr std::size_t kMostGlyphs = 4;
  const std::size_t count = text.glyphs_end(run) - text.runs[run].first_glyph;
  return count > 0 && count <= kMostGlyphs && !text.font_of(text.runs[run]).is_vertical();
}

bool follows(const Ends& before, const Ends& next) {
  constexpr double kMostTurned = 0.76;  // the cosine of 40 degrees
  constexpr double kGap = 0.9;          // of the font size
  return before.size > 0 && std::abs(next.size - before.size) < 0.1 * before.size &&
         dot(before.along, next.along) > kMostTurned &&
         std::hypot(next.begin.x - before.end.x, next.begin.y - before.end.y) < kGap * before.size;
}

}  // namespace

std::uint32_t BendFinder::end_of(std::uint32_t run) {
  constexpr double kStraight = 0.9999;  // the cosine of 0.8 degrees
  constexpr std::uint32_t kFewest = 4;  // runs that turn
  if (found_ >= kMost || !may_bend(text_, run)) return run + 1;
  Ends before = ends_of(text_, run);
  std::uint32_t turns = 0;
  std::uint32_t straight = 0;  // runs since the last turn
  std::uint32_t end = run + 1;
  for (; end < runs_end_ && may_bend(text_, end); ++end) {
    const Ends next = ends_of(text_, end);
    if (!follows(before, next)) break;
    const bool is_turned = dot(before.along, next.along) < kStraight;
    straight = is_turned ? 0 : straight + 1;
    constexpr std::uint32_t kMostStraight = 3;
    if (straight > kMostStraight) break;
    turns += is_turned ? 1 : 0;
    before = next;
  }
  if (turns < kFewest) return run + 1;
  ++found_;
  return end;
}

Point chord_of(const content::SceneText& text, std::uint32_t first, std::uint32_t end) {
  const Ends from = ends_of(text, first);
  const Point chord = ends_of(text, end - 1).end - from.begin;
  const double length = std::hypot(chord.x, chord.y);
  return length > from.size ? chord * (1 / length) : from.along;
}

void straighten(const Direction& run, Direction& bent) {
  for (const Letter& letter : run.letters) {
    Letter placed = letter;
    const Quad quad = run.quad_of(letter);
    if (bent.letters.empty()) {
      const Point begin = run.to_display(letter.begin, letter.base);
      placed.begin = static_cast<float>(bent.place_along(begin));
      placed.base = static_cast<float>(bent.place_across(begin));
    } else {
      const Letter& last = bent.letters.back();
      const Quad& before = bent.bends[static_cast<std::size_t>(last.bend)];
      // As far behind as their baselines are, which is between top and bottom.
      const double down = (letter.base - letter.top) / letter.height();
      const Point from = before[1] + (before[2] - before[1]) * down;
      const Point to = quad[0] + (quad[3] - quad[0]) * down;
      const double gap = std::hypot(to.x - from.x, to.y - from.y);
      const bool is_behind = dot(to - from, before[1] - before[0]) >= 0;
      placed.begin = last.end + static_cast<float>(is_behind ? gap : -gap);
      placed.base = bent.letters.front().base;
    }
    placed.end = placed.begin + letter.width();
    placed.top = placed.base - (letter.base - letter.top);
    placed.bottom = placed.base + (letter.bottom - letter.base);
    placed.bend = static_cast<std::int32_t>(bent.bends.size());
    bent.bends.push_back(quad);
    bent.letters.push_back(placed);
  }
}

}  // namespace lumvet::text
