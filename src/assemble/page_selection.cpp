// SPDX-License-Identifier: Apache-2.0
#include "lumvet/assemble/page_selection.h"

#include <optional>
#include <string>

namespace lumvet {

class PageSelection::Reader {
 public:
  explicit Reader(std::string_view text) : text_(text) {}

  Result<std::vector<Term>> read() {
    std::vector<Term> terms;
    do {
      LUMVET_TRY(const Term term, read_term());
      terms.push_back(term);
    } while (take(","));
    if (at_ < text_.size()) return wrong("something that is not a page");
    return terms;
  }

 private:
  Error wrong(const std::string& what) const {
    return Error(ErrorCode::invalid_argument,
                 "'" + std::string(text_) + "' names no pages: " + what + " at character " +
                     std::to_string(at_ + 1) + "; write for example 1-4,8,last or odd");
  }

  void skip_blanks() {
    while (at_ < text_.size() && text_[at_] == ' ') ++at_;
  }

  bool take(std::string_view word) {
    skip_blanks();
    if (!text_.substr(at_).starts_with(word)) return false;
    at_ += word.size();
    return true;
  }

  Result<Term> read_term() {
    const Term every{{1, false}, {0, true}, -1};
    if (take("all")) return every;
    if (take("odd")) return Term{every.first, every.last, 1};
    if (take("even")) return Term{every.first, every.last, 0};
    LUMVET_TRY(const std::optional<End> first, read_end());
    if (!take("-")) {
      if (!first) return wrong("a page is missing");
      return Term{*first, *first, -1};
    }
    LUMVET_TRY(const std::optional<End> last, read_end());
    if (!first && !last) return wrong("a page is missing");
    return Term{first.value_or(every.first), last.value_or(every.last), -1};
  }

  Result<std::optional<End>> read_end() {
    if (take("last")) return std::optional<End>({0, true});
    skip_blanks();
    if (at_ == text_.size() || text_[at_] < '0' || text_[at_] > '9') return std::optional<End>();
    LUMVET_TRY(const int number, read_number());
    if (number == 0) return wrong("there is no page 0, pages count from 1");
    if (take("last")) return std::optional<End>({number - 1, true});
    return std::optional<End>({number, false});
  }

  Result<int> read_number() {
    constexpr int kMost = 100'000'000;
    const std::size_t start = at_;
    int number = 0;
    for (; at_ < text_.size() && text_[at_] >= '0' && text_[at_] <= '9'; ++at_) {
      number = number * 10 + (text_[at_] - '0');
      if (number > kMost) return wrong("an impossibly large number");
    }
    if (at_ == start) return wrong("a number is missing");
    return number;
  }

  std::string_view text_;
  std::size_t at_ = 0;
};

PageSelection::PageSelection() : terms_{{{1, false}, {0, true}, -1}} {}

Result<PageSelection> PageSelection::parse(std::string_view text) {
  PageSelection selection;
  LUMVET_TRY(selection.terms_, Reader(text).read());
  return selection;
}

PageSelection PageSelection::of(const std::vector<int>& indices) {
  PageSelection selection;
  selection.terms_.clear();
  for (const int index : indices)
    selection.terms_.push_back({{index + 1, false}, {index + 1, false}, -1});
  return selection;
}

Result<std::vector<int>> PageSelection::in(int page_count) const {
  std::vector<int> indices;
  for (const Term& term : terms_) {
    const int first = term.first.in(page_count);
    const int last = term.last.in(page_count);
    const bool parity = term.remainder >= 0;
    for (const int page : {first, last}) {
      if (parity || (page >= 1 && page <= page_count)) continue;
      if (page < 1)
        return Error(ErrorCode::invalid_argument,
                     "a page before the first is asked for; there are " +
                         std::to_string(page_count) + " pages");
      return Error(
          ErrorCode::invalid_argument,
          "page " + std::to_string(page) + " is asked for, but there " +
              (page_count == 1 ? "is 1 page" : "are " + std::to_string(page_count) + " pages"));
    }
    const int step = first <= last ? 1 : -1;
    if (parity && page_count == 0) continue;
    for (int page = first;; page += step) {
      if (!parity || page % 2 == term.remainder) indices.push_back(page - 1);
      if (page == last) break;
    }
  }
  return indices;
}

}  // namespace lumvet
