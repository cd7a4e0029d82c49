// SPDX-License-Identifier: Apache-2.0
#include "annotate/chosen_marks.h"

#include <algorithm>
#include <map>

namespace lumvet::annotate {

std::set<std::size_t> chosen_marks(const std::vector<Annotation>& marks,
                                   const std::vector<Annotation::Kind>& kinds) {
  std::set<std::size_t> chosen;
  std::set<ObjectId> ids;
  for (const Annotation& mark : marks) ids.insert(mark.id);
  std::multimap<ObjectId, std::size_t> answers;
  std::vector<std::size_t> next;
  for (std::size_t i = 0; i < marks.size(); ++i) {
    const bool answers_one = is_answer(marks[i], ids);
    if (answers_one) answers.emplace(*marks[i].in_reply_to, i);
    if (kinds.empty() ||
        (!answers_one && std::find(kinds.begin(), kinds.end(), marks[i].kind) != kinds.end()))
      next.push_back(i);
  }
  while (!next.empty()) {
    const std::size_t i = next.back();
    next.pop_back();
    if (!chosen.insert(i).second || marks[i].id == ObjectId()) continue;
    const auto [first, end] = answers.equal_range(marks[i].id);
    for (auto answer = first; answer != end; ++answer) next.push_back(answer->second);
  }
  return chosen;
}

}  // namespace lumvet::annotate
