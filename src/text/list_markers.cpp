// SPDX-License-Identifier: Apache-2.0
#include "text/list_markers.h"

#include <algorithm>
#include <array>

#include "base/digits.h"

namespace lumvet::text {
namespace {

bool is_letter(char c) { return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z'); }

// The bytes of a bullet that a line begins with; zero for none.
std::size_t bullet_length(std::string_view line) {
  static constexpr std::array<std::string_view, 17> kBullets = {
      "•", "◦", "▪", "▫", "‣", "⁃", "∙", "·", "●", "○", "■", "□", "➢", "✓", "–", "—", "-"};
  for (const std::string_view bullet : kBullets)
    if (line.starts_with(bullet)) return bullet.size();
  return line.starts_with('*') ? 1 : 0;
}

}  // namespace

std::optional<ListMarker> list_marker(std::string_view line) {
  ListMarker marker;
  std::size_t at = bullet_length(line);
  if (at == 0) {
    constexpr std::size_t kMostDigits = 3;
    if (line.starts_with('(')) at = 1;
    const std::size_t begin = at;
    while (at < line.size() && is_digit(line[at]) && at - begin < kMostDigits) ++at;
    if (at > begin) {
      marker.kind = ListMarker::Kind::number;
      marker.number = 0;
      for (std::size_t i = begin; i < at; ++i) marker.number = marker.number * 10 + (line[i] - '0');
    } else if (at < line.size() && is_letter(line[at])) {
      marker.kind = ListMarker::Kind::letter;
      marker.number = (line[at] | 0x20) - 'a' + 1;
      ++at;
    } else {
      return std::nullopt;
    }
    if (at >= line.size() || (line[at] != ')' && (line[at] != '.' || begin == 1)))
      return std::nullopt;
    ++at;
  }
  const std::size_t text = line.find_first_not_of(" \t", at);
  if (text == at || text == std::string_view::npos) return std::nullopt;
  marker.length = text;
  return marker;
}

}  // namespace lumvet::text
