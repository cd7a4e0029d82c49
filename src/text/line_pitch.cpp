// SPDX-License-Identifier: Apache-2.0
#include "text/line_pitch.h"

#include <unicode/uchar.h>

#include <algorithm>

#include "text/wide_characters.h"

namespace lumvet::text {
namespace {

// Whether a line goes on in small letters where the one above has not come to an end.
bool goes_on_in(const Piece& below, const Piece& above, const std::vector<Letter>& letters) {
  constexpr std::string_view kEnds = ".:;!?";
  const std::string_view last = letters[above.letters.back()].characters;
  const std::string_view next = letters[below.letters.front()].characters;
  if (last.size() == 1 && kEnds.find(last.front()) != std::string_view::npos) return false;
  return u_islower(static_cast<UChar32>(first_of(next))) != 0;
}

}  // namespace

float line_pitch(const std::vector<Row>& rows, const std::vector<Piece>& pieces,
                 const std::vector<Letter>& letters) {
  constexpr float kFull = 0.7F;  // of the widest line
  constexpr float kSameSize = 1.05F;
  constexpr float kMost = 2.6F;
  constexpr std::size_t kFewest = 2;
  const auto only = [&](const Row& row) -> const Piece* {
    return row.pieces.size() == 1 ? &pieces[row.pieces.front()] : nullptr;
  };
  float widest = 0;
  for (const Row& row : rows)
    if (const Piece* piece = only(row)) widest = std::max(widest, piece->width());
  struct Step {
    float pitch;
    bool goes_on;  // the sentence
  };
  std::vector<Step> steps;
  for (std::size_t r = 1; r < rows.size(); ++r) {
    const Piece* above = only(rows[r - 1]);
    const Piece* below = only(rows[r]);
    if (above == nullptr || below == nullptr || above->width() < kFull * widest) continue;
    const auto [smaller, larger] = std::minmax(above->size, below->size);
    const float pitch = (rows[r].base - rows[r - 1].base) / larger;
    if (larger <= kSameSize * smaller && pitch <= kMost)
      steps.push_back({pitch, above->letter_count >= kLongLine && pitch > kUsualPitch &&
                                  goes_on_in(*below, *above, letters)});
  }
  if (steps.size() < kFewest) return 0;
  // Nearly the least: what is further apart are paragraphs.
  const auto low = steps.begin() + static_cast<std::ptrdiff_t>(steps.size() / 10);
  std::nth_element(steps.begin(), low, steps.end(),
                   [](const Step& a, const Step& b) { return a.pitch < b.pitch; });
  const auto on =
      std::count_if(steps.begin(), steps.end(), [](const Step& step) { return step.goes_on; });
  return low->pitch > kUsualPitch && 2 * static_cast<std::size_t>(on) < steps.size() ? 0
                                                                                     : low->pitch;
}

}  // namespace lumvet::text
