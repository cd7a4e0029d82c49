// SPDX-License-Identifier: Apache-2.0
#include "text/hits_across.h"

#include <algorithm>
#include <iterator>
#include <string>

#include "base/digits.h"
#include "text/search_inside.h"

namespace lumvet::text {
namespace {

bool is_inside_character(std::string_view text, std::size_t at) {
  return at < text.size() && (static_cast<unsigned char>(text[at]) & 0xC0) == 0x80;
}

bool overlaps_any(const TextSpan& span, const std::vector<TextSpan>& hits) {
  return std::any_of(hits.begin(), hits.end(), [&](const TextSpan& hit) {
    return hit.begin < span.end && span.begin < hit.end;
  });
}

// Of its first word, in points.
double size_of(const PageWords& words, std::size_t number) {
  const TextLine line = words.line(number);
  return line.first_word < line.words_end ? words.word(line.first_word).size : 0;
}

bool begins_with_note_sign(const PageWords& words, std::size_t line) {
  const std::string_view text = std::string_view(words.text()).substr(words.line(line).begin);
  constexpr std::string_view kSigns[] = {"*", "†", "‡", "§", "¶", "¹", "²", "³"};
  return (!text.empty() && is_digit(text[0])) ||
         std::any_of(std::begin(kSigns), std::end(kSigns),
                     [&](std::string_view sign) { return text.starts_with(sign); });
}

// The end of the lines without the footnotes that come last: in smaller print than the text above
// them, of which there is more than a heading, and led in by a sign or a number.
std::size_t without_notes(const PageWords& words, std::size_t first, std::size_t end) {
  constexpr double kSmaller = 0.93;
  constexpr double kSame = 1.02;
  constexpr std::size_t kFewest = 3;  // lines of text
  if (end - first <= kFewest) return end;
  std::size_t note = end - 1;
  const double size = size_of(words, note);
  while (note > first && size_of(words, note - 1) <= kSame * size) --note;
  if (note < first + kFewest || !begins_with_note_sign(words, note)) return end;
  const double above = size_of(words, note - 1);
  for (std::size_t i = note - kFewest; i < note; ++i)
    if (std::max(size_of(words, i), above) > kSame * std::min(size_of(words, i), above)) return end;
  return size < kSmaller * above ? note : end;
}

}  // namespace

TextSpan body_of(const PageWords& words, const std::vector<TextSpan>& heads) {
  const auto is_head = [&](const TextLine& line) {
    return std::any_of(heads.begin(), heads.end(), [&](const TextSpan& head) {
      return head.begin == line.begin && head.end == line.end;
    });
  };
  std::size_t first = 0;
  std::size_t end = words.line_count();
  while (end > 0 && words.block(words.line(end - 1).block).is_of_annotations) --end;
  while (first < end && is_head(words.line(first))) ++first;
  while (end > first && is_head(words.line(end - 1))) --end;
  if (first == end) return {0, 0};
  end = without_notes(words, first, end);
  return {words.line(first).begin, words.line(end - 1).end};
}

Result<std::vector<HitAcross>> hits_across(const TextSearch& search, const Body& page,
                                           const std::vector<TextSpan>& hits, const Body& next,
                                           const std::vector<TextSpan>& next_hits) {
  const std::size_t reach = reach_of(search);
  std::size_t begin = page.span.end - std::min(reach, page.span.end - page.span.begin);
  while (is_inside_character(page.text, begin)) ++begin;
  std::size_t end = next.span.begin + std::min(reach, next.span.end - next.span.begin);
  while (end > next.span.begin && is_inside_character(next.text, end)) --end;
  std::vector<HitAcross> across;
  if (begin >= page.span.end || end <= next.span.begin) return across;
  std::string joined(page.text.substr(begin, page.span.end - begin));
  const std::size_t border = joined.size();
  joined += '\n';
  joined += next.text.substr(next.span.begin, end - next.span.begin);
  LUMVET_TRY(const std::vector<TextSpan> found, search.in(joined));
  for (const TextSpan& hit : found) {
    if (hit.begin >= border || hit.end <= border + 1) continue;
    const HitAcross one{{begin + hit.begin, page.span.end},
                        {next.span.begin, next.span.begin + (hit.end - border - 1)}};
    if (!overlaps_any(one.here, hits) && !overlaps_any(one.next, next_hits)) across.push_back(one);
  }
  return across;
}

}  // namespace lumvet::text
