// SPDX-License-Identifier: Apache-2.0
#include "text/column_gaps.h"

#include <algorithm>
#include <numeric>
#include <optional>

#include <unicode/uchar.h>

#include "base/allowance.h"
#include "text/wide_characters.h"

namespace lumvet::text {
namespace {

// Parts of the font size.
constexpr float kWide = 0.42F;      // from which on a gap is more than a blank usually is
constexpr float kShared = 0.25F;    // of two gaps above each other, at least
constexpr float kSameRow = 0.5F;    // from one line to another, at least
constexpr float kNextRow = 2.6F;    // from one line to the next, at most
constexpr std::size_t kFewest = 4;  // lines

constexpr std::size_t kNoPiece = static_cast<std::size_t>(-1);

struct Gap {
  std::size_t piece;  // that it is in; kNoPiece between two
  float from;
  float to;
  float base;
  float top;
  float bottom;
  float size;
  float shared_from = from;  // what it has in common with those above and below it
  float shared_to = to;
  std::size_t above = 1;  // gaps that it goes on, and itself
  std::size_t below = 1;  // gaps that go on from it, and itself
};

bool is_letter(std::string_view characters) {
  return u_isalnum(static_cast<UChar32>(first_of(characters))) != 0;
}

// From which width on a gap of a piece is more than a blank: letters of one width have wide ones.
float least_gap(const Piece& piece, const std::vector<Letter>& letters) {
  constexpr float kOfLetters = 1.3F;
  constexpr float kOneWidth = 0.55F;  // of the size, that most letters are narrower than
  float widths = 0;
  for (const std::uint32_t i : piece.letters)
    if (!letters[i].is_blank) widths += letters[i].width();
  const float average = widths / static_cast<float>(std::max<std::size_t>(piece.letter_count, 1));
  return std::max(kWide * piece.size, average > kOneWidth * piece.size ? kOfLetters * average : 0);
}

// Whether nothing is parted before or behind a letter: dots lead from a text to its number, bullets
// to an item, and upright strokes are lines of their own.
bool is_sign(const Letter& letter) {
  return letter.is_plain ? letter.characters[0] == '.' || letter.characters[0] == '|'
                         : letter.characters.size() < 4 && !is_letter(letter.characters);
}

// Of numbers, with their signs. A number before words is that of an item or a heading, no column.
bool is_numeral(const Letter& letter) { return letter.is_plain && letter.characters[0] <= '9'; }

// Whether the gaps from one on are as wide as each other, as in lines of prose that are spread to
// the margin. Numbers stand apart evenly too.
bool are_even(const std::vector<Gap>& gaps, std::size_t first, std::size_t numbers) {
  constexpr std::size_t kFewestGaps = 3;
  constexpr float kSame = 0.15F;  // of the font size
  if (gaps.size() - first < kFewestGaps || 2 * numbers > gaps.size() - first) return false;
  const auto [least, most] =
      std::minmax_element(gaps.begin() + static_cast<std::ptrdiff_t>(first), gaps.end(),
                          [](const Gap& a, const Gap& b) { return a.to - a.from < b.to - b.from; });
  return (most->to - most->from) - (least->to - least->from) < kSame * least->size;
}

// The wide gaps within a piece.
void add_gaps_in(const std::vector<Piece>& pieces, std::size_t at,
                 const std::vector<Letter>& letters, std::vector<Gap>& gaps) {
  const Piece& piece = pieces[at];
  const float least = least_gap(piece, letters);
  const std::size_t first = gaps.size();
  std::size_t numbers = 0;  // that begin behind gaps
  const Letter* before = nullptr;
  bool is_number = true;  // all so far
  for (const std::uint32_t i : piece.letters) {
    const Letter& letter = letters[i];
    if (letter.is_blank) continue;
    if (before != nullptr && letter.begin - before->end > least && !is_sign(letter) &&
        !is_sign(*before) && !(is_number && !is_numeral(letter))) {
      gaps.push_back(
          {at, before->end, letter.begin, piece.base, piece.top, piece.bottom, piece.size});
      numbers += is_numeral(letter) ? 1 : 0;
    }
    is_number = is_number && is_numeral(letter);
    before = &letter;
  }
  if (are_even(gaps, first, numbers))
    gaps.erase(gaps.begin() + static_cast<std::ptrdiff_t>(first), gaps.end());
}

// Those between pieces that stand beside each other.
void add_gaps_between(const std::vector<Piece>& pieces, std::vector<Gap>& gaps) {
  std::vector<std::size_t> order(pieces.size());
  std::iota(order.begin(), order.end(), std::size_t{0});
  std::sort(order.begin(), order.end(),
            [&](std::size_t a, std::size_t b) { return pieces[a].base < pieces[b].base; });
  for (std::size_t first = 0; first < order.size();) {
    std::size_t end = first + 1;
    while (end < order.size() && pieces[order[end]].base - pieces[order[first]].base < 1) ++end;
    const auto row = order.begin();
    std::sort(row + static_cast<std::ptrdiff_t>(first), row + static_cast<std::ptrdiff_t>(end),
              [&](std::size_t a, std::size_t b) { return pieces[a].begin < pieces[b].begin; });
    for (std::size_t i = first + 1; i < end; ++i) {
      const Piece& left = pieces[order[i - 1]];
      const Piece& right = pieces[order[i]];
      if (right.begin > left.end)
        gaps.push_back({kNoPiece, left.end, right.begin, left.base, left.top, left.bottom,
                        std::max(left.size, right.size)});
    }
    first = end;
  }
}

// Tells each gap how many stand in turn above it and below it.
void chain(std::vector<Gap>& gaps) {
  std::sort(gaps.begin(), gaps.end(), [](const Gap& a, const Gap& b) {
    return a.base != b.base ? a.base < b.base : a.from < b.from;
  });
  std::vector<std::pair<std::size_t, std::size_t>> links;  // upper and lower
  for (std::size_t i = 0; i < gaps.size() && goes_on(); ++i) {
    const Gap& gap = gaps[i];
    std::optional<float> row;  // the next one that has a gap below this
    for (std::size_t k = i + 1; k < gaps.size(); ++k) {
      const Gap& lower = gaps[k];
      const float down = lower.base - gap.base;
      if (down > kNextRow * gap.size || (row && lower.base - *row > 1)) break;
      if (down < kSameRow * gap.size) continue;
      if (std::min(gap.to, lower.to) - std::max(gap.from, lower.from) < kShared * gap.size)
        continue;
      links.emplace_back(i, k);
      row = lower.base;
    }
  }
  const auto share = [&](Gap& gap, const Gap& other) {
    const float from = std::max(gap.shared_from, other.shared_from);
    const float to = std::min(gap.shared_to, other.shared_to);
    if (to <= from) return;
    gap.shared_from = from;
    gap.shared_to = to;
  };
  for (const auto& [upper, lower] : links) {
    gaps[lower].above = std::max(gaps[lower].above, gaps[upper].above + 1);
    share(gaps[lower], gaps[upper]);
  }
  for (auto link = links.rbegin(); link != links.rend(); ++link) {
    Gap& upper = gaps[link->first];
    upper.below = std::max(upper.below, gaps[link->second].below + 1);
    share(upper, gaps[link->second]);
  }
}

}  // namespace

std::vector<DrawnLine> column_gaps(const std::vector<Piece>& pieces,
                                   const std::vector<Letter>& letters) {
  std::vector<Gap> gaps;
  std::vector<std::size_t> wide(pieces.size());  // gaps of each piece
  for (std::size_t at = 0; at < pieces.size(); ++at) {
    const std::size_t before = gaps.size();
    add_gaps_in(pieces, at, letters, gaps);
    wide[at] = gaps.size() - before;
  }
  if (gaps.empty()) return {};
  add_gaps_between(pieces, gaps);
  chain(gaps);
  const auto is_long = [](const Gap& gap) { return gap.above + gap.below > kFewest; };
  // In lines of prose that are spread to the margin all gaps are wide, and few of them go on.
  std::vector<std::size_t> chained(pieces.size());
  for (const Gap& gap : gaps)
    if (gap.piece != kNoPiece) chained[gap.piece] += is_long(gap) ? 1 : 0;
  std::vector<DrawnLine> lines;
  for (const Gap& gap : gaps)
    if (is_long(gap) && (gap.piece == kNoPiece || chained[gap.piece] == wide[gap.piece]))
      lines.push_back({(gap.shared_from + gap.shared_to) / 2, gap.top, gap.bottom});
  std::sort(lines.begin(), lines.end(),
            [](const DrawnLine& a, const DrawnLine& b) { return a.at < b.at; });
  return lines;
}

}  // namespace lumvet::text
