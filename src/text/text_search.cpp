// SPDX-License-Identifier: Apache-2.0
#include "lumvet/text/text_search.h"

#include <algorithm>
#include <optional>

#include <unicode/uchar.h>

#include "objects/text_string.h"
#include "text/folded_text.h"
#include "text/search_inside.h"
#include "text/white_space.h"

namespace lumvet {
namespace {

bool is_in_word(char32_t c) { return u_isalnum(static_cast<UChar32>(c)) != 0 || c == '_'; }

// The code point that ends before a byte; a blank at the beginning.
char32_t code_point_before(std::string_view text, std::size_t byte) {
  if (byte == 0) return ' ';
  std::size_t at = byte - 1;
  while (at > 0 && (static_cast<unsigned char>(text[at]) & 0xC0) == 0x80) --at;
  return objects::next_code_point(text, at);
}

char32_t code_point_at(std::string_view text, std::size_t byte) {
  return byte < text.size() ? objects::next_code_point(text, byte) : U' ';
}

bool is_whole_word(std::string_view text, const TextSpan& hit) {
  const auto parts = [&](std::size_t byte) {
    return !(is_in_word(code_point_before(text, byte)) && is_in_word(code_point_at(text, byte)));
  };
  return parts(hit.begin) && parts(hit.end);
}

}  // namespace

struct TextSearch::Impl {
  SearchOptions options;
  std::string wanted;                  // folded
  std::optional<TextPattern> pattern;  // in its place
};

template <>
struct Inside<TextSearch> {
  static std::optional<std::string> wanted(const TextSearch& search) {
    const TextSearch::Impl& impl = *search.impl_;
    if (impl.pattern || impl.options.match_case || impl.options.match_accents) return std::nullopt;
    return impl.wanted;
  }
  static std::size_t reach(const TextSearch& search) {
    constexpr std::size_t kOfPatterns = 1000;
    // A sign can take four bytes where what it is compared as takes one; and some blanks.
    const std::size_t length = search.impl_->wanted.size();
    return search.impl_->pattern ? kOfPatterns : 4 * length + 64;
  }
};

std::optional<std::string> wanted_of(const TextSearch& search) {
  return Inside<TextSearch>::wanted(search);
}

Result<TextSearch> TextSearch::of(std::string_view text, const SearchOptions& options) {
  auto impl = std::make_shared<Impl>();
  impl->options = options;
  if (options.is_pattern) {
    LUMVET_TRY(TextPattern pattern,
               TextPattern::parse(text, options.match_case ? TextPattern::Case::counts
                                                           : TextPattern::Case::ignored));
    impl->pattern = std::move(pattern);
    return TextSearch(std::move(impl));
  }
  const text::FoldedText wanted = text::folded(text, {options.match_case, options.match_accents});
  impl->wanted = text::without_blanks_around(wanted.text);
  if (impl->wanted.empty())
    return Error(ErrorCode::invalid_argument, "there is nothing to look for; write a word or more");
  return TextSearch(std::move(impl));
}

Result<std::vector<TextSpan>> TextSearch::in(const PageWords& words) const {
  return in(words.text());
}

Result<std::vector<TextSpan>> TextSearch::in(std::string_view text) const {
  std::vector<TextSpan> hits;
  if (impl_->pattern) {
    LUMVET_TRY(hits, impl_->pattern->all_in(text));
  } else {
    const text::FoldedText folded =
        text::folded(text, {impl_->options.match_case, impl_->options.match_accents});
    const std::string& wanted = impl_->wanted;
    for (std::size_t at = folded.text.find(wanted); at != std::string::npos;) {
      const TextSpan hit{folded.begins[at], folded.ends[at + wanted.size() - 1]};
      const bool overlaps = !hits.empty() && hit.begin < hits.back().end;
      if (!overlaps) hits.push_back(hit);
      at = folded.text.find(wanted, at + wanted.size());
    }
  }
  if (impl_->options.whole_words)
    std::erase_if(hits, [&](const TextSpan& hit) { return !is_whole_word(text, hit); });
  return hits;
}

std::size_t reach_of(const TextSearch& search) { return Inside<TextSearch>::reach(search); }

Snippet snippet_across(std::string_view said, std::string_view next, const HitAcross& hit,
                       std::size_t most) {
  const std::string_view here = said.substr(0, std::min(said.size(), hit.here.end));
  const std::string_view there = next.substr(std::min(next.size(), hit.next.begin));
  const std::string joined = std::string(here) + '\n' + std::string(there);
  const std::size_t length = std::max(hit.next.end, hit.next.begin) - hit.next.begin;
  return snippet_around(joined, {hit.here.begin, here.size() + 1 + length}, most);
}

Snippet snippet_around(const PageWords& words, const TextSpan& hit, std::size_t most) {
  const std::string_view text = words.text();
  std::size_t block = words.block_count();
  while (block > 0 && words.block(block - 1).begin > hit.begin) --block;
  if (block == 0 || !words.block(block - 1).is_of_annotations)
    return snippet_around(text, hit, most);
  // Fields in a row are cells, which tabs part.
  const TextBlock& around = words.block(block - 1);
  const std::size_t end = std::max(around.end, hit.end);
  const std::size_t tab_before = text.substr(around.begin, hit.begin - around.begin).rfind('\t');
  const std::size_t first =
      around.begin + (tab_before == std::string_view::npos ? 0 : tab_before + 1);
  const std::size_t last = std::min(text.find('\t', hit.end), end);
  return snippet_around(text.substr(first, last - first), {hit.begin - first, hit.end - first},
                        most);
}

Snippet snippet_around(std::string_view said, const TextSpan& hit, std::size_t most) {
  const std::size_t begin = std::min(hit.begin, said.size());
  const std::size_t end = std::clamp(hit.end, begin, said.size());
  std::size_t first = begin > most ? begin - most : 0;
  while (first > 0 && first < begin && said[first - 1] != ' ' && said[first - 1] != '\n') ++first;
  std::size_t last = std::min(said.size(), end + most);
  while (last < said.size() && last > end && said[last] != ' ' && said[last] != '\n') --last;
  const auto is_inside = [&](std::size_t at) {
    return at < said.size() && (static_cast<unsigned char>(said[at]) & 0xC0) == 0x80;
  };
  while (first < begin && is_inside(first)) ++first;
  while (last > end && is_inside(last)) --last;
  return {text::with_single_blanks(said.substr(first, begin - first)),
          text::with_single_blanks(said.substr(begin, end - begin)),
          text::with_single_blanks(said.substr(end, last - end))};
}

}  // namespace lumvet
