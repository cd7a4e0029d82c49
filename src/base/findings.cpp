// SPDX-License-Identifier: Apache-2.0
#include "base/findings_list.h"

#include <utility>

#include "base/attempt.h"

namespace lumvet {

std::string Finding::to_string() const {
  std::string place;
  if (offset) place = "offset " + std::to_string(*offset);
  if (object) {
    if (!place.empty()) place += ", ";
    place += "object " + std::to_string(object->number) + " " + std::to_string(object->generation) +
             " R";
  }
  return place.empty() ? what : what + " (" + place + ")";
}

void Findings::add(Finding finding) {
  if (Attempt::is_stopped()) return;  // what looks damaged may only be late
  const std::lock_guard lock(mutex_);
  if (seen_.contains(finding)) return;
  if (list_.size() >= kMostKept) {
    ++not_kept_;
    return;
  }
  seen_.insert(finding);
  list_.push_back(std::move(finding));
}

std::vector<Finding> Findings::list() const {
  const std::lock_guard lock(mutex_);
  return list_;
}

std::uint64_t Findings::not_kept() const {
  const std::lock_guard lock(mutex_);
  return not_kept_;
}

}  // namespace lumvet
