// SPDX-License-Identifier: Apache-2.0
#include "lumvet/base/nearest_word.h"

#include <algorithm>

namespace lumvet {
namespace {

std::size_t distance(const std::string& a, const std::string& b) {
  std::vector<std::vector<std::size_t>> steps(a.size() + 1, std::vector<std::size_t>(b.size() + 1));
  for (std::size_t i = 0; i <= a.size(); ++i)
    for (std::size_t j = 0; j <= b.size(); ++j) {
      if (i == 0 || j == 0) {
        steps[i][j] = i + j;
        continue;
      }
      const std::size_t change = a[i - 1] == b[j - 1] ? 0 : 1;
      steps[i][j] =
          std::min({steps[i - 1][j] + 1, steps[i][j - 1] + 1, steps[i - 1][j - 1] + change});
      const bool are_swapped = i > 1 && j > 1 && a[i - 1] == b[j - 2] && a[i - 2] == b[j - 1];
      if (are_swapped) steps[i][j] = std::min(steps[i][j], steps[i - 2][j - 2] + 1);
    }
  return steps[a.size()][b.size()];
}

}  // namespace

std::optional<std::string> nearest_word(const std::string& word,
                                        const std::vector<std::string>& known) {
  std::optional<std::string> best;
  // A third of the letters may be wrong.
  std::size_t least = std::max<std::size_t>(word.size() / 3, 1) + 1;
  for (const std::string& other : known) {
    const std::size_t steps = distance(word, other);
    if (steps >= least) continue;
    least = steps;
    best = other;
  }
  return best;
}

}  // namespace lumvet
