// SPDX-License-Identifier: Apache-2.0
#include "lumvet/text/written_words.h"

#include <algorithm>
#include <cmath>
#include <string_view>
#include <vector>

#include "base/csv.h"
#include "text/folded_text.h"

namespace lumvet {
namespace {

std::size_t code_points_in(std::string_view text) {
  return static_cast<std::size_t>(std::count_if(text.begin(), text.end(), [](char c) {
    return (static_cast<unsigned char>(c) & 0xC0) != 0x80;
  }));
}

std::string_view text_of(const PageWords& words, std::size_t begin, std::size_t end) {
  return std::string_view(words.text()).substr(begin, end - begin);
}

double width_of(const Quad& quad) {
  return std::hypot(quad[1].x - quad[0].x, quad[1].y - quad[0].y);
}

bool is_upright(const Quad& quad) {
  constexpr double kLevel = 1e-3;
  return std::abs(quad[1].y - quad[0].y) <= kLevel * std::abs(quad[1].x - quad[0].x) &&
         quad[1].x > quad[0].x;
}

struct PlacedWord {
  std::string_view text;
  double left;
  double right;
  double middle;  // across the line
  double height;
};

// The value in the middle of a list, once it is sorted; zero of an empty one.
double middle_of(std::vector<double> values) {
  if (values.empty()) return 0;
  const auto middle = values.begin() + static_cast<std::ptrdiff_t>((values.size() - 1) / 2);
  std::nth_element(values.begin(), middle, values.end());
  return *middle;
}

std::vector<std::vector<PlacedWord>> rows_of(std::vector<PlacedWord> words) {
  constexpr double kSameRow = 0.4;  // of the lower word's height
  std::stable_sort(words.begin(), words.end(),
                   [](const auto& a, const auto& b) { return a.middle < b.middle; });
  std::vector<std::vector<PlacedWord>> rows;
  for (const PlacedWord& word : words) {
    if (rows.empty() || word.middle - rows.back().front().middle >
                            kSameRow * std::min(word.height, rows.back().front().height))
      rows.emplace_back();
    rows.back().push_back(word);
  }
  for (auto& row : rows)
    std::stable_sort(row.begin(), row.end(),
                     [](const auto& a, const auto& b) { return a.left < b.left; });
  return rows;
}

std::vector<std::string_view> cells_of(std::string_view row) {
  std::vector<std::string_view> cells;
  for (std::size_t at = 0;;) {
    const std::size_t tab = row.find('\t', at);
    cells.push_back(row.substr(at, tab - at));
    if (tab == std::string_view::npos) return cells;
    at = tab + 1;
  }
}

}  // namespace

std::string laid_out(const PageWords& words) {
  std::vector<PlacedWord> upright;
  std::vector<double> letter_widths;  // points
  std::string rest;
  std::size_t rest_line = words.line_count();
  double left = 0;
  for (std::size_t i = 0; i < words.word_count(); ++i) {
    const TextWord word = words.word(i);
    const std::string_view text = text_of(words, word.begin, word.end);
    if (!is_upright(word.quad)) {
      if (!rest.empty()) rest += word.line == rest_line ? ' ' : '\n';
      rest_line = word.line;
      rest += text;
      continue;
    }
    letter_widths.push_back(width_of(word.quad) / static_cast<double>(code_points_in(text)));
    left = upright.empty() ? word.quad[0].x : std::min(left, word.quad[0].x);
    upright.push_back({text, word.quad[0].x, word.quad[1].x, (word.quad[0].y + word.quad[3].y) / 2,
                       word.quad[3].y - word.quad[0].y});
  }
  const auto rows = rows_of(std::move(upright));
  const double letter = std::max(middle_of(std::move(letter_widths)), 1.0);
  std::vector<double> pitches;
  for (std::size_t i = 1; i < rows.size(); ++i)
    pitches.push_back(rows[i].front().middle - rows[i - 1].front().middle);
  const double pitch = std::max(middle_of(std::move(pitches)), 1.0);
  constexpr double kMostEmpty = 40;     // lines
  constexpr double kFollows = 0.5;      // of the height: words of one sentence
  constexpr double kMostColumns = 400;  // then words follow each other
  std::string out;
  for (std::size_t i = 0; i < rows.size(); ++i) {
    const double gap = i == 0 ? 0 : rows[i].front().middle - rows[i - 1].front().middle;
    const auto empty =
        static_cast<std::size_t>(std::clamp(std::round(gap / pitch) - 1, 0.0, kMostEmpty));
    out.append(empty, '\n');
    std::size_t column = 0;
    double end = left;
    for (const PlacedWord& word : rows[i]) {
      const auto wanted = static_cast<std::size_t>(
          std::clamp(std::round((word.left - left) / letter), 0.0, kMostColumns));
      const bool follows = column > 0 && word.left - end < kFollows * word.height;
      const std::size_t blanks = wanted > column && !follows ? wanted - column : column > 0 ? 1 : 0;
      out.append(blanks, ' ');
      out += word.text;
      column += blanks + code_points_in(word.text);
      end = word.right;
    }
    out += '\n';
  }
  if (!rest.empty()) out += (out.empty() ? "" : "\n") + rest + '\n';
  return out;
}

std::string paragraphs(const PageWords& words) {
  std::string out;
  for (std::size_t b = 0; b < words.block_count(); ++b) {
    const TextBlock block = words.block(b);
    if (b > 0) out += '\n';
    for (std::size_t i = block.first_line; i < block.lines_end; ++i) {
      const TextLine line = words.line(i);
      out += text_of(words, line.begin, line.end);
      if (line.is_row || i + 1 == block.lines_end)
        out += '\n';
      else if (text::joins_lines(words.text(), line.end))
        out.resize(text::without_hyphen(out).size());
      else
        out += ' ';
    }
  }
  return out;
}

std::string tables_as_csv(const PageWords& words) {
  std::string out;
  for (std::size_t b = 0; b < words.block_count(); ++b) {
    const TextBlock block = words.block(b);
    if (block.first_line == block.lines_end || !words.line(block.first_line).is_row) continue;
    if (!out.empty()) out += "\r\n";
    for (std::size_t i = block.first_line; i < block.lines_end; ++i) {
      const TextLine line = words.line(i);
      const auto cells = cells_of(text_of(words, line.begin, line.end));
      for (std::size_t c = 0; c < cells.size(); ++c) out += (c > 0 ? "," : "") + csv_cell(cells[c]);
      out += "\r\n";
    }
  }
  return out;
}

}  // namespace lumvet
