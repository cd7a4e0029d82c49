// SPDX-License-Identifier: Apache-2.0
// Words looked for on pages, as people look for them.
//
//   const auto search = lumvet::TextSearch::of("pont métallique").value();
//   for (const lumvet::TextSpan& hit : search.in(words).value())
//     for (const lumvet::Quad& quad : words.quads(hit.begin, hit.end)) mark(quad);
//
// Case, accents, widths and ligatures make no difference unless asked for, white space is as good
// as any other, and none beside signs of scripts that write without (Han, Kana, Thai); a hyphen at
// the end of a line is passed over where the word goes on.
//
// Copies share it. Threads: immutable, share freely. Since: 0.2
#pragma once

#include <functional>
#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "lumvet/base/export.h"
#include "lumvet/base/inside.h"
#include "lumvet/base/result.h"
#include "lumvet/text/page_words.h"
#include "lumvet/text/text_pattern.h"

namespace lumvet {

struct SearchOptions {
  bool match_case = false;
  bool match_accents = false;
  bool whole_words = false;
  bool is_pattern = false;  // a regular expression (TextPattern), which accents always count in
};

// A line of context, without line ends: what stands before, the hit and what stands behind.
struct Snippet {
  std::string before;
  std::string hit;
  std::string after;
};

class LUMVET_EXPORT TextSearch {
 public:
  // Errors: invalid_argument, when nothing is looked for or a pattern is wrong.
  static Result<TextSearch> of(std::string_view text, const SearchOptions& options = {});

  // In the order of the text; none overlaps another. Errors: limit, when a pattern takes too long.
  Result<std::vector<TextSpan>> in(const PageWords& words) const;
  Result<std::vector<TextSpan>> in(std::string_view text) const;

 private:
  friend struct Inside<TextSearch>;
  struct Impl;
  explicit TextSearch(std::shared_ptr<const Impl> impl) : impl_(std::move(impl)) {}

  std::shared_ptr<const Impl> impl_;
};

// What begins on one page and ends on the next.
struct HitAcross {
  TextSpan here;
  TextSpan next;
  bool operator==(const HitAcross&) const = default;
};

// What is found on a page, in the order of its text.
struct PageHits {
  int page = 0;  // from 0
  PageWords words;
  std::vector<TextSpan> hits = {};
  // What goes on onto the next page, past the footnotes, running heads and page numbers between,
  // where it overlaps no hit of either page; and the words of that page, when there is some.
  std::vector<HitAcross> across = {};
  std::optional<PageWords> next = {};
};

// Looks through pages in the order asked for, several at a time, and gives those on which something
// is found as they come, on the calling thread. What ends on a next page is found where both are
// looked through; of patterns, 1,000 bytes on each side are. Otherwise as read_pages; errors of
// TextSearch::in too.
using TakeHits = std::function<Status(const PageHits& found)>;
LUMVET_EXPORT Status find_in(const Document& document, const std::vector<int>& pages,
                             const TextSearch& search, const ReadOptions& options,
                             const TakeHits& take);

// Up to `most` characters on each side, cut between words.
LUMVET_EXPORT Snippet snippet_around(std::string_view text, const TextSpan& hit,
                                     std::size_t most = 40);
// The same of a page, where the snippet of a hit in fields and marks ends with what those show
// beside and around it: it does not run on into the next one.
LUMVET_EXPORT Snippet snippet_around(const PageWords& words, const TextSpan& hit,
                                     std::size_t most = 40);
LUMVET_EXPORT Snippet snippet_across(std::string_view text, std::string_view next,
                                     const HitAcross& hit, std::size_t most = 40);

}  // namespace lumvet
