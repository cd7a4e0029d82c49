// SPDX-License-Identifier: Apache-2.0
// Which marks of a page a list is about.
//
// Threads: free functions.
#pragma once

#include <set>
#include <vector>

#include "lumvet/document/annotation.h"

namespace lumvet::annotate {

// Whether it answers one of the marks with these ids.
inline bool is_answer(const Annotation& mark, const std::set<ObjectId>& ids) {
  return mark.in_reply_to && ids.contains(*mark.in_reply_to);
}

// By their places in `marks`: those of these kinds that answer none of the others, and all answers
// to them, whatever kind they are; all for no kinds.
std::set<std::size_t> chosen_marks(const std::vector<Annotation>& marks,
                                   const std::vector<Annotation::Kind>& kinds);

}  // namespace lumvet::annotate
