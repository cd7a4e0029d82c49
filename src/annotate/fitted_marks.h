// SPDX-License-Identifier: Apache-2.0
// Marks of a list or a file held against the document that they are to be added to.
//
// Threads: free functions.
#pragma once

#include <string>
#include <vector>

#include "lumvet/annotate/annotations.h"
#include "lumvet/document/document.h"

namespace lumvet::annotate {

struct ListedMark {
  NewMark mark;
  std::string place;  // how it is told: "mark 3"
};

// Those that can be added, each answer behind what it answers. What is of a page that there is not,
// lies beyond its page, is not made or is there already is left out, and told but for links; an
// answer to what is not there stands by itself. Names that other marks have become others. Errors:
// as reading pages and annotations.
Result<std::vector<NewMark>> fitted(std::vector<ListedMark> marks, const Document& document,
                                    std::vector<Finding>& findings);

}  // namespace lumvet::annotate
