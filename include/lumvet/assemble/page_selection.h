// SPDX-License-Identifier: Apache-2.0
// The text by which a person names pages, counted from 1:
//
//   1-4,8,last      these, in this order
//   9-1             backwards
//   5-  and  -3     from the fifth on; up to the third
//   odd  even  all
//   3last-last      the last three; 2last is the page before the last
//
// Threads: immutable, share freely.
#pragma once

#include <string_view>
#include <vector>

#include "lumvet/base/export.h"
#include "lumvet/base/result.h"

namespace lumvet {

class LUMVET_EXPORT PageSelection {
 public:
  // All pages.
  PageSelection();

  // Errors: invalid_argument, with the place in the text.
  static Result<PageSelection> parse(std::string_view text);
  // Exactly these, counted from 0.
  static PageSelection of(const std::vector<int>& indices);

  // Page indices from 0, in the order asked for. Errors: invalid_argument when a page is named that
  // a document of `page_count` pages does not have.
  Result<std::vector<int>> in(int page_count) const;

 private:
  // One end of a range: a page counted from 1, or so many before the last.
  struct End {
    int number = 1;
    bool from_last = false;
    int in(int page_count) const { return from_last ? page_count - number : number; }
  };
  struct Term {
    End first = {};
    End last = {};
    int remainder = -1;  // 0 for even pages, 1 for odd ones, -1 for every page
  };
  class Reader;

  std::vector<Term> terms_;
};

}  // namespace lumvet
