// SPDX-License-Identifier: Apache-2.0
#include "text/pieces.h"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "base/allowance.h"
#include "text/wide_characters.h"

namespace lumvet::text {
namespace {

// Parts of the font size.
constexpr float kGap = 0.9F;           // between letters that follow each other
constexpr float kGapOverBlank = 1.5F;  // the same with a blank between them
constexpr float kGapElsewhere = 0.6F;  // between letters that were not drawn in turn
constexpr float kBack = 0.5F;          // by which a letter may begin before the last one ended
constexpr float kWideBack = 0.55F;     // the same of wide ones, of which punctuation is half empty
constexpr float kSameRow = 0.35F;
constexpr float kDoubled = 0.12F;  // from one showing of a letter to the other

constexpr float kSharedHeight = 0.4F;  // of the lower one, in a row
constexpr float kThinnestGap = 0.3F;   // points, in which a line may be drawn

// The part of the lower one's height that both take.
template <typename A, typename B>
float shared_height(const A& a, const B& b) {
  const float least = std::min(a.height(), b.height());
  return least > 0 ? (std::min(a.bottom, b.bottom) - std::max(a.top, b.top)) / least : 0;
}

// Whether the larger of two letters or pieces reaches down over other lines than the smaller one's.
template <typename Part>
bool is_drop_capital(const Part& one, const Part& other) {
  const float smaller = std::min(one.size, other.size);
  return std::max(one.size, other.size) > kDropped * smaller &&
         std::abs(one.base - other.base) > kSameRow * smaller;
}

// Whether two letters stand in one row with the same height.
bool are_alike(const Letter& one, const Letter& other) {
  return one.top == other.top && one.bottom == other.bottom && one.base == other.base &&
         one.size == other.size && one.top < one.bottom;
}

class Gathering {
 public:
  Gathering(const std::vector<Letter>& letters, const DrawnLines& lines)
      : letters_(letters), lines_(lines) {}

  std::vector<Piece> take() {
    constexpr std::uint32_t kPortion = 256;
    for (std::uint32_t i = 0; i < letters_.size(); ++i) {
      if (i % kPortion == 0 && !goes_on()) break;
      if (!add_next(i)) add(i);
    }
    close();
    return std::move(pieces_);
  }

 private:
  // Nearly all letters stand close behind the one that was drawn before.
  bool add_next(std::uint32_t at) {
    if (open_.letters.empty() || !blanks_.empty()) return false;
    const Letter& letter = letters_[at];
    const Letter& last = letters_[open_.letters.back()];
    const float gap = letter.begin - last.end;
    if (letter.is_blank || !are_alike(last, letter) ||
        letter.begin < last.begin + kDoubled * letter.size || gap <= -kBack * letter.size ||
        gap >= kThinnestGap || gap >= kGap * letter.size)
      return false;
    open_.letters.push_back(at);
    ++open_.letter_count;
    open_.end = std::max(open_.end, letter.end);
    return true;
  }

  void add(std::uint32_t at) {
    const Letter& letter = letters_[at];
    if (letter.is_blank) {
      if (!open_.letters.empty()) blanks_.push_back(at);
      return;
    }
    if (!open_.letters.empty()) {
      if (is_doubled(letter)) return;
      if (!continues(letter)) close();
    }
    if (open_.letters.empty()) {
      constexpr std::size_t kUsual = 64;
      open_.letters.reserve(kUsual);
      open_.begin = letter.begin;
      open_.end = letter.end;
      open_.top = letter.top;
      open_.bottom = letter.bottom;
      open_.base = letter.base;
      open_.size = letter.size;
    }
    if (!blanks_.empty()) {
      open_.letters.insert(open_.letters.end(), blanks_.begin(), blanks_.end());
      blanks_.clear();
    }
    open_.letters.push_back(at);
    ++open_.letter_count;
    open_.begin = std::min(open_.begin, letter.begin);
    open_.end = std::max(open_.end, letter.end);
    open_.top = std::min(open_.top, letter.top);
    open_.bottom = std::max(open_.bottom, letter.bottom);
    if (letter.size > open_.size * 1.05) {
      open_.size = letter.size;
      open_.base = letter.base;
    }
  }

  bool continues(const Letter& letter) const {
    const Letter& last = letters_[open_.letters.back()];
    const float size = std::max(last.size, letter.size);
    const float gap = letter.begin - last.end;
    const float most = blanks_.empty() ? kGap : kGapOverBlank;
    return gap < most * size &&
           (gap > -kBack * size || (gap > -kWideBack * size && is_wide(first_of(last.characters)) &&
                                    is_wide(first_of(letter.characters)))) &&
           letter.begin > last.begin - 0.1F * size && shared_height(letter, last) > kSharedHeight &&
           !is_drop_capital(last, letter) &&
           (gap < kThinnestGap ||
            !lines_.part(last.end, letter.begin, (letter.top + letter.bottom) / 2));
  }

  // Looked for among the last letters only: this is drawn at once, or word by word.
  bool is_doubled(const Letter& letter) const {
    constexpr std::size_t kLooked = 32;
    const Letter& last = letters_[open_.letters.back()];
    if (letter.begin >= last.end || letter.begin >= last.begin + kDoubled * letter.size)
      return false;
    const std::size_t first = open_.letters.size() > kLooked ? open_.letters.size() - kLooked : 0;
    for (std::size_t i = first; i < open_.letters.size(); ++i) {
      const Letter& known = letters_[open_.letters[i]];
      if (std::abs(known.begin - letter.begin) < kDoubled * letter.size &&
          std::abs(known.base - letter.base) < kDoubled * letter.size &&
          known.characters == letter.characters)
        return true;
    }
    return false;
  }

  void close() {
    blanks_.clear();
    if (open_.letters.empty()) return;
    open_.drawn = pieces_.size();
    pieces_.push_back(std::move(open_));
    open_ = Piece();
  }

  const std::vector<Letter>& letters_;
  const DrawnLines& lines_;
  std::vector<Piece> pieces_;
  Piece open_;
  std::vector<std::uint32_t> blanks_;  // since the last letter
};

void join(Piece& left, Piece& right) {
  left.letters.insert(left.letters.end(), right.letters.begin(), right.letters.end());
  left.letter_count += right.letter_count;
  left.begin = std::min(left.begin, right.begin);
  left.end = std::max(left.end, right.end);
  left.top = std::min(left.top, right.top);
  left.bottom = std::max(left.bottom, right.bottom);
  left.drawn = std::min(left.drawn, right.drawn);
  if (right.size > left.size) {
    left.size = right.size;
    left.base = right.base;
  }
  right.letters.clear();
}

// Pieces that stand side by side but were not drawn in turn: letters from right to left, words one
// by one, letters put in later.
std::vector<Piece> joined(std::vector<Piece> pieces, const DrawnLines& lines) {
  std::vector<std::size_t> order(pieces.size());
  std::iota(order.begin(), order.end(), std::size_t{0});
  std::stable_sort(order.begin(), order.end(),
                   [&](std::size_t a, std::size_t b) { return pieces[a].base < pieces[b].base; });
  for (std::size_t first = 0; first < order.size() && goes_on();) {
    std::size_t end = first + 1;
    while (end < order.size() &&
           pieces[order[end]].base - pieces[order[end - 1]].base <
               kSameRow * std::max(pieces[order[end]].size, pieces[order[end - 1]].size) &&
           pieces[order[end]].base - pieces[order[first]].base < pieces[order[first]].size)
      ++end;
    const auto row = order.begin();
    std::stable_sort(
        row + static_cast<std::ptrdiff_t>(first), row + static_cast<std::ptrdiff_t>(end),
        [&](std::size_t a, std::size_t b) { return pieces[a].begin < pieces[b].begin; });
    std::size_t left = order[first];
    for (std::size_t i = first + 1; i < end; ++i) {
      Piece& next = pieces[order[i]];
      Piece& last = pieces[left];
      const float size = std::max(last.size, next.size);
      const float gap = next.begin - last.end;
      if (gap < kGapElsewhere * size && gap > -kBack * size &&
          shared_height(last, next) > kSharedHeight && !is_drop_capital(last, next) &&
          !lines.part(last.end, next.begin, (next.top + next.bottom) / 2))
        join(last, next);
      else
        left = order[i];
    }
    first = end;
  }
  std::erase_if(pieces, [](const Piece& piece) { return piece.letters.empty(); });
  return pieces;
}

// Large letters that begin a paragraph and reach down over some of its lines go to the first of
// them.
void join_drop_capitals(std::vector<Piece>& pieces, const std::vector<Letter>& letters) {
  constexpr std::size_t kMostLetters = 2;
  constexpr float kGap = 0.9F;  // of that size, as below
  constexpr float kBackward = 0.3F;
  constexpr float kSameBase = 0.75F;
  constexpr std::size_t kMost = 100;  // on a page
  if (pieces.empty()) return;
  std::vector<float> sizes;
  sizes.reserve(pieces.size());
  for (const Piece& piece : pieces) sizes.push_back(piece.size);
  const auto usual = sizes.begin() + static_cast<std::ptrdiff_t>(sizes.size() / 2);
  std::nth_element(sizes.begin(), usual, sizes.end());
  std::size_t looked_at = 0;
  for (Piece& capital : pieces) {
    if (capital.letter_count == 0 || capital.letter_count > kMostLetters ||
        capital.size < kDropped * *usual || ++looked_at > kMost)
      continue;
    Piece* first = nullptr;
    bool ends_at_line = false;
    for (Piece& line : pieces) {
      const float gap = line.begin - capital.end;
      if (line.size * kDropped > capital.size || gap > kGap * line.size ||
          gap < -kBackward * line.size || line.base < capital.top ||
          line.base > capital.base + kSameBase * line.size)
        continue;
      ends_at_line |= std::abs(line.base - capital.base) <= kSameBase * line.size;
      if (first == nullptr || line.base < first->base) first = &line;
    }
    if (first == nullptr || !ends_at_line || capital.base - first->base < kSameRow * first->size)
      continue;
    std::vector<std::uint32_t> all = std::move(capital.letters);
    // A blank that is drawn before the line parts the two.
    const std::uint32_t next = first->letters.front();
    if (next > 0 && letters[next - 1].is_blank &&
        std::abs(letters[next - 1].base - letters[next].base) < 1)
      all.push_back(next - 1);
    all.insert(all.end(), first->letters.begin(), first->letters.end());
    first->letters = std::move(all);
    first->letter_count += capital.letter_count;
    first->begin = std::min(first->begin, capital.begin);
    first->drawn = std::min(first->drawn, capital.drawn);
    capital.letters.clear();
    capital.letter_count = 0;
  }
  std::erase_if(pieces, [](const Piece& piece) { return piece.letters.empty(); });
}

}  // namespace

std::vector<Piece> pieces_of(const std::vector<Letter>& letters, const DrawnLines& lines) {
  std::vector<Piece> pieces = Gathering(letters, lines).take();
  join_drop_capitals(pieces, letters);
  return joined(std::move(pieces), lines);
}

}  // namespace lumvet::text
