// SPDX-License-Identifier: Apache-2.0
// What is printed on pages as their number: "iv", "A-3" (ISO 32000-2, 12.4.2).
//
// Threads: immutable, share freely.
#pragma once

#include <string>
#include <vector>

#include "file/object_store.h"
#include "lumvet/document/page_label.h"

namespace lumvet::document {

class PageLabels {
 public:
  struct Label {
    std::string style;   // "D", "R", "r", "A", "a"; none: the prefix alone
    std::string prefix;  // UTF-8
    std::int64_t number = 1;
    std::string text() const;  // as it is printed, in UTF-8
    bool operator==(const Label&) const = default;
  };

  PageLabels(const file::ObjectStore& store, const Dict& catalog);

  // Without labels a page's number from 1.
  Label label(int index) const;

  std::string of(int index) const { return label(index).text(); }
  bool are_given() const { return !ranges_.empty(); }

 private:
  struct Range {
    std::int64_t first = 0;  // page, from 0
    std::string style;       // "D", "R", "r", "A", "a"; none: the prefix alone
    std::string prefix;
    std::int64_t start = 1;
  };

  std::vector<Range> ranges_;  // by first page
};

std::string_view style_of(Numerals numerals);  // "D", "R"; empty for none

// 4 as "4", "IV", "iv", "D", "d"; what has no such form as a decimal number.
std::string numeral(std::int64_t number, std::string_view style);

}  // namespace lumvet::document
