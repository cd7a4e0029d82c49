// SPDX-License-Identifier: Apache-2.0
#include "text/edge_rows.h"

#include <algorithm>
#include <cmath>
#include <string_view>

#include "base/digits.h"

namespace lumvet::text {
namespace {

// A line without its numbers; those of few Roman digits by themselves are numbers too.
std::string without_numbers(std::string_view line) {
  std::string said;
  for (const char c : line) {
    if (!is_digit(c))
      said += c;
    else if (said.empty() || said.back() != '#')
      said += '#';
  }
  constexpr std::size_t kLongest = 6;
  const bool is_roman = !said.empty() && said.size() <= kLongest &&
                        said.find_first_not_of("ivxlcIVXLC") == std::string::npos;
  return is_roman ? "#" : said;
}

std::vector<std::string> parts_of(std::string_view line) {
  std::vector<std::string> parts;
  for (std::size_t at = 0; at <= line.size();) {
    const std::size_t tab = std::min(line.find('\t', at), line.size());
    parts.push_back(without_numbers(line.substr(at, tab - at)));
    at = tab + 1;
  }
  return parts;
}

// A book's title beside a chapter's, which changes; a number alone says nothing beside others.
bool have_part_in_common(const std::vector<std::string>& one,
                         const std::vector<std::string>& other) {
  if (one == other) return true;
  return std::any_of(one.begin(), one.end(), [&](const std::string& part) {
    return part.size() > 1 && std::count(other.begin(), other.end(), part) > 0;
  });
}

bool is_artifact(const PageWords& words, const TextLine& line) {
  for (std::size_t i = line.first_word; i < line.words_end; ++i)
    if (!words.word(i).is_artifact) return false;
  return line.first_word < line.words_end;
}

// What follows the outermost row closely may be of the same head.
EdgeRows outermost(const std::vector<EdgeRow>& rows, bool from_below) {
  constexpr std::size_t kMost = 3;
  constexpr double kClose = 16;  // points
  EdgeRows edge;
  for (std::size_t i = 0; i < std::min(kMost, rows.size()); ++i) {
    const EdgeRow& row = from_below ? rows[rows.size() - 1 - i] : rows[i];
    if (!edge.empty() && std::abs(row.front().middle - edge.back().front().middle) > kClose) break;
    edge.push_back(row);
  }
  return edge;
}

bool come_again(const EdgeLine& line, const EdgeRows& others) {
  constexpr double kSameHeight = 3;  // points
  return std::any_of(others.begin(), others.end(), [&](const EdgeRow& row) {
    return std::any_of(row.begin(), row.end(), [&](const EdgeLine& other) {
      return have_part_in_common(other.parts, line.parts) &&
             std::abs(other.middle - line.middle) < kSameHeight;
    });
  });
}

// Adds the lines that one of the other edges has too, from the outermost row on as long as there
// are some.
void add_lines(const EdgeRows& edge, const std::vector<const EdgeRows*>& others,
               std::vector<TextSpan>& heads) {
  for (const EdgeRow& row : edge) {
    const std::size_t before = heads.size();
    for (const EdgeLine& line : row)
      if (std::any_of(others.begin(), others.end(),
                      [&](const EdgeRows* other) { return come_again(line, *other); }))
        heads.push_back(line.span);
    if (heads.size() == before) return;
  }
}

}  // namespace

Edges edges_of(const PageWords& words) {
  constexpr double kSameRow = 3;  // points
  std::vector<EdgeLine> lines;
  for (std::size_t i = 0; i < words.line_count(); ++i) {
    const TextLine line = words.line(i);
    if (line.first_word == line.words_end || words.block(line.block).is_of_annotations) continue;
    const Quad quad = words.word(line.first_word).quad;
    const auto said = std::string_view(words.text()).substr(line.begin, line.end - line.begin);
    lines.push_back({{line.begin, line.end}, (quad[0].y + quad[2].y) / 2, parts_of(said)});
  }
  std::stable_sort(lines.begin(), lines.end(),
                   [](const EdgeLine& a, const EdgeLine& b) { return a.middle < b.middle; });
  std::vector<EdgeRow> rows;
  for (EdgeLine& line : lines) {
    if (rows.empty() || line.middle - rows.back().back().middle > kSameRow) rows.emplace_back();
    rows.back().push_back(std::move(line));
  }
  return {outermost(rows, false), outermost(rows, true)};
}

std::vector<TextSpan> heads_of(const PageWords& words, const Edges& own,
                               const std::vector<const Edges*>& near) {
  std::vector<TextSpan> heads;
  for (std::size_t i = 0; i < words.line_count(); ++i) {
    const TextLine line = words.line(i);
    if (is_artifact(words, line)) heads.push_back({line.begin, line.end});
  }
  std::vector<const EdgeRows*> above;
  std::vector<const EdgeRows*> below;
  above.reserve(near.size());
  below.reserve(near.size());
  for (const Edges* edges : near) {
    above.push_back(&edges->above);
    below.push_back(&edges->below);
  }
  add_lines(own.above, above, heads);
  add_lines(own.below, below, heads);
  const auto by_place = [](const TextSpan& a, const TextSpan& b) { return a.begin < b.begin; };
  std::sort(heads.begin(), heads.end(), by_place);
  heads.erase(std::unique(heads.begin(), heads.end()), heads.end());
  return heads;
}

}  // namespace lumvet::text
